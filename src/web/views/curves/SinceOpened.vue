<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import type { GateResult } from '../../../core/check/result.ts'
import type { Records } from '../../../core/plan/records.ts'
import { isWorse, turnedBetween } from '../../../core/view/turns.ts'
import { verdictWords } from '../../../core/view/verdict-text.ts'
import VerdictMark from '../../components/VerdictMark.vue'
import { useCheckStore } from '../../stores/check.ts'

/** Which gates got better and which worse, for the chosen route and kind of player, since the view was opened. */
const props = defineProps<{ records: Records }>()
const check = useCheckStore()
const before = shallowRef<readonly GateResult[]>([])
const chosen = computed(() => `${check.routeKey} ${check.profileKey}`)
const now = computed(() => check.view?.result?.gates ?? [])
watch([now, chosen], ([, key], [, old] = [now.value, '']) => {
  if (!before.value.length || key !== old) before.value = now.value
}, { immediate: true })

const turned = computed(() => turnedBetween({ gates: before.value }, { gates: now.value }, props.records))
const groups = computed(() => [{ title: 'Worse', of: turned.value.filter(isWorse) }, { title: 'Better', of: turned.value.filter((turn) => !isWorse(turn)) }].filter(({ of }) => of.length))
</script>

<template>
  <section data-test="since opened">
    <h3>Gates since this view was opened</h3>
    <p v-if="!groups.length" class="soft">No verdict has changed.</p>
    <div v-for="group in groups" :key="group.title">
      <b>{{ group.title }}: {{ group.of.length }}</b>
      <ul><li v-for="turn in group.of" :key="turn.gate">{{ turn.name }}
        <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true"><VerdictMark :verdict="turn.before" /></svg>{{ verdictWords[turn.before].one }} →
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
