<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { verdictOrder, verdictWords } from '../../../core/view/verdict-text.ts'
import VerdictMark from '../../components/VerdictMark.vue'
import { useCheckStore } from '../../stores/check.ts'
import type { Verdict } from '../../../core/check/result.ts'

/** Which gates got better and which worse, for the chosen route and kind of player, since the view was opened. */
const props = defineProps<{ records: Records }>()
const check = useCheckStore()
const before = shallowRef<Map<string, Verdict> | null>(null)
const chosen = computed(() => `${check.routeKey} ${check.profileKey}`)
const now = computed(() => new Map((check.view?.result?.gates ?? []).map(({ gate, verdict }) => [gate, verdict])))
watch([now, chosen], ([, key], [, old] = [now.value, '']) => {
  if ((!before.value || key !== old) && now.value.size) before.value = now.value
}, { immediate: true })

const names = computed(() => new Map(inOrder(props.records, 'gate').map((row) => [row.id, labelOf(row)])))
const turned = computed(() => [...now.value].flatMap(([gate, after]) => {
  const was = before.value?.get(gate)
  return was === undefined || was === after ? [] : [{ gate, was, after, worse: verdictOrder.indexOf(after) > verdictOrder.indexOf(was) }]
}))
const groups = computed(() => [{ title: 'Worse', of: turned.value.filter(({ worse }) => worse) }, { title: 'Better', of: turned.value.filter(({ worse }) => !worse) }].filter(({ of }) => of.length))
</script>

<template>
  <section data-test="since opened">
    <h3>Gates since this view was opened</h3>
    <p v-if="!groups.length" class="soft">No verdict has changed.</p>
    <div v-for="group in groups" :key="group.title">
      <b>{{ group.title }}: {{ group.of.length }}</b>
      <ul><li v-for="turn in group.of" :key="turn.gate">{{ names.get(turn.gate) }}
        <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="turn.was" /></svg>{{ verdictWords[turn.was].one }} →
        <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="turn.after" /></svg><b :class="`verdict-${turn.after}`">{{ verdictWords[turn.after].one }}</b></li></ul>
    </div>
  </section>
</template>

<style scoped>
h3 { border-top: 1px solid var(--line); font-size: 13px; margin: 12px 0 4px; padding-top: 8px; }
p { margin: 2px 0; }
ul { font-size: 12px; list-style: none; margin: 0 0 4px; padding: 0; }
svg { vertical-align: -2px; }
</style>
