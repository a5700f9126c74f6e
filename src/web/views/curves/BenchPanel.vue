<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Records, Row } from '../../../core/plan/records.ts'
import { Bench, type BenchGain } from '../../../core/view/bench.ts'
import { xpUnits } from '../../../core/view/curve-table.ts'
import { countText, numberText, typedNumber } from '../../../core/view/numbers.ts'
import ChoiceSelect from '../../components/ChoiceSelect.vue'

/** A character given XP by the plan's own rules: the bar, the levels, what carries over and what is lost. A held key repeats it. */
const props = defineProps<{ records: Records; character: Row<'character'> }>()

const amount = ref('100')
const sourceId = ref('')
const cap = ref('')
const total = ref(0)
const times = ref(0)
const last = shallowRef<BenchGain | null>(null)
const units = computed(() => xpUnits(props.records, props.character.experience))
const choices = computed(() => [{ value: '', text: 'XP by number' }, ...units.value.map(({ id, name, xp }) => ({ value: id, text: `${name} (${numberText(xp)})` }))])
const each = computed(() => units.value.find((unit) => unit.id === sourceId.value)?.xp ?? typedNumber(amount.value))
const says = computed(() => (Number.isFinite(each.value) && each.value >= 0 ? '' : 'a number, 0 or more'))

/** The bench anew whenever the plan or the cap changes. */
const bench = computed(() => {
  const wanted = typedNumber(cap.value)
  return Bench.of(props.records, props.character.key, Number.isFinite(wanted) ? { cap: wanted } : {})
})
const shown = shallowRef(bench.value?.shown() ?? null)
watch(bench, () => reset())

function give(): void {
  if (says.value || !bench.value) return
  last.value = bench.value.gain(each.value)
  shown.value = last.value.after
  total.value = Math.round((total.value + each.value) * 10_000) / 10_000
  times.value++
}

function reset(): void {
  bench.value?.reset()
  shown.value = bench.value?.shown() ?? null
  last.value = null
  total.value = 0
  times.value = 0
}

const share = computed(() => (shown.value?.needed ? Math.min(100, (shown.value.xp / shown.value.needed) * 100) : 100))
const changedStats = computed(() => (last.value && shown.value ? shown.value.stats.map((stat, i) => ({ ...stat, before: last.value!.before.stats[i]!.value })) : (shown.value?.stats ?? []).map((stat) => ({ ...stat, before: stat.value }))))
</script>

<template>
  <section data-test="bench">
    <h3>Bench <button class="quiet" data-test="bench reset" @click="reset">Reset</button></h3>
    <p v-if="!bench" class="soft">The curve of {{ character.name }} is in error: it has to be mended first.</p>
    <template v-else-if="shown">
      <form class="give" @submit.prevent="give">
        <ChoiceSelect class="what" :value="sourceId" :choices="choices" label="What is given" test="bench source" @choose="(id) => (sourceId = id)" />
        <input v-if="!sourceId" v-model="amount" class="num" aria-label="XP" inputmode="decimal" data-test="bench amount" />
        <button class="act" title="Hold Enter to repeat it" data-test="bench give">Give</button>
      </form>
      <label class="cap soft">level cap <input v-model="cap" class="num" inputmode="numeric" :placeholder="character.cap === null ? 'none' : String(character.cap)" data-test="bench cap" /></label>
      <p v-if="says" class="wrong">{{ says }}</p>
      <div class="bar" role="img" :aria-label="`Level ${shown.level}`"><div :style="{ width: `${share}%` }" /></div>
      <p data-test="bench state"><b>Level {{ shown.level }}</b>{{ shown.form ? `, ${shown.form}` : '' }} · <template v-if="shown.needed !== null">{{ numberText(shown.xp) }} of {{ numberText(shown.needed) }} XP</template><template v-else>at the limit{{ shown.xp > 0 ? `, ${numberText(shown.xp)} XP kept` : '' }}</template></p>
      <p v-if="last" class="told" data-test="bench told">
        {{ last.levelsUp ? countText(last.levelsUp, 'level') + ' up' : 'no level up' }}<template v-if="last.before.form !== last.after.form">; {{ last.before.form ?? 'no form' }} → <b>{{ last.after.form ?? 'no form' }}</b></template><b v-if="last.lost > 0" class="lost">; {{ numberText(last.lost) }} XP lost</b><template v-else>; nothing lost</template>
        <template v-for="reward in last.rewards" :key="reward.name">; reward: {{ numberText(reward.amount) }} {{ reward.name }}</template>
      </p>
      <p class="soft">{{ countText(times, 'gain') }}, {{ numberText(total) }} XP in all</p>
      <ul v-if="changedStats.length" class="stats"><li v-for="stat in changedStats" :key="stat.name">{{ stat.name }} <span class="num"><template v-if="stat.before !== stat.value">{{ numberText(stat.before) }} → </template><b>{{ numberText(stat.value) }}</b></span></li></ul>
    </template>
  </section>
</template>

<style scoped>
h3 { align-items: baseline; display: flex; font-size: 13px; justify-content: space-between; margin: 0 0 4px; }
h3 .quiet { border-color: var(--line); font-size: 12px; padding: 2px 6px; }
p { margin: 4px 0 0; }
.give { display: flex; gap: 6px; }
input { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; }
.what { flex: 1; }
input { width: 70px; }
.cap { display: block; font-size: 12px; margin-top: 6px; }
.cap input { padding: 2px 6px; width: 56px; }
.bar { background: var(--panel); border-radius: 5px; height: 14px; margin-top: 8px; overflow: hidden; }
.bar div { background: var(--accent); height: 100%; }
.lost, .wrong { color: var(--short); }
.stats { columns: 2; font-size: 12px; list-style: none; margin: 6px 0 0; padding: 0; }
.stats li { display: flex; justify-content: space-between; padding-right: 10px; }
</style>
