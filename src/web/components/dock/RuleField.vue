<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { numberLines } from '../../../core/exchange/lines.ts'
import RequirementField from './RequirementField.vue'
import type { Curve, CurveRule } from '../../../core/plan/curve.ts'
import type { Records } from '../../../core/plan/records.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { numberText } from '../../../core/view/numbers.ts'
import { curveValues } from '../../../core/rules/curve-values.ts'

/** How a curve's values are made: a table, a growth, or a formula; with the values that come of it. */
const props = defineProps<{ value: unknown; records: Records; recordKey: string }>()
const emit = defineEmits<{ take: [value: CurveRule] }>()

const rule = computed(() => props.value as CurveRule)
const curve = computed(() => props.records.curve.get(props.recordKey) as Curve | undefined)
const values = computed(() => (curve.value ? curveValues(curve.value).values.map((v) => v.toNumber()) : []))
const ticks = computed(() => (curve.value ? levelTicks(curve.value) : []))
/** A formula while it is typed, before it is taken. */
const typed = ref<string | null>(null)
const typedTicks = computed(() => {
  if (!curve.value || rule.value.kind !== 'formula' || typed.value === null || typed.value === rule.value.text) return []
  return levelTicks({ ...curve.value, rule: { kind: 'formula', text: typed.value } }).slice(1, 6)
})
const says = ref('')
const table = ref('')
watch(rule, (next) => (table.value = next.kind === 'table' ? numberLines.print(next.values) : ''), { immediate: true })

/** Another kind of rule begins with the values of the one before, as far as it can have them. */
function changeKind(event: Event): void {
  const kind = (event.target as HTMLSelectElement).value as CurveRule['kind']
  const exact = values.value.map((v) => Math.round(v * 10_000) / 10_000)
  if (kind === 'table') emit('take', { kind, values: exact })
  if (kind === 'growth') emit('take', { kind, base: exact[0] ?? 100, factor: 1.15, add: 0 })
  if (kind === 'formula') emit('take', { kind, text: 'prev * 1.15 + 10 * L' })
}

function takeNumber(field: 'base' | 'factor' | 'add', event: Event): void {
  const n = Number((event.target as HTMLInputElement).value)
  if (!Number.isFinite(n)) return void (says.value = 'a number is needed')
  says.value = ''
  if (rule.value.kind === 'growth') emit('take', { ...rule.value, [field]: n })
}

function takeTable(): void {
  const read = numberLines.read(table.value, { tallies: [], characters: [] })
  says.value = read.ok ? '' : read.says
  if (read.ok) emit('take', { kind: 'table', values: read.value })
}
</script>

<template>
  <div class="rule">
    <select :value="rule.kind" aria-label="Kind of rule" data-test="field rule kind" @change="changeKind">
      <option value="growth">growth</option><option value="table">table</option><option value="formula">formula</option>
    </select>
    <div v-if="rule.kind === 'growth'" class="growth">
      <label>base <input :value="rule.base" inputmode="decimal" data-test="field base" @change="takeNumber('base', $event)" /></label>
      <label>each × <input :value="rule.factor" inputmode="decimal" data-test="field factor" @change="takeNumber('factor', $event)" /></label>
      <label>plus <input :value="rule.add" inputmode="decimal" data-test="field add" @change="takeNumber('add', $event)" /></label>
    </div>
    <textarea v-else-if="rule.kind === 'table'" v-model="table" rows="6" aria-label="Values, one a line" class="mono" @change="takeTable" />
    <RequirementField v-else :key="recordKey" :input-id="`${recordKey} formula`" :value="rule.text" :records="records" use="formula" @take="(text) => emit('take', { kind: 'formula', text })" @typed="(text) => (typed = text)" />
    <p v-if="typedTicks.length" class="soft typed" data-test="typed values">as typed: {{ typedTicks.map((tick) => `level ${tick.level} at ${numberText(tick.xp)}`).join(', ') }} …</p>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <div class="steps">
      <table>
        <thead><tr><th>step</th><th class="num">XP</th><th class="num">in all</th></tr></thead>
        <tbody><tr v-for="(tick, i) in ticks.slice(1)" :key="tick.level"><td>{{ tick.level - 1 }} → {{ tick.level }}</td><td class="num">{{ numberText(curve?.counts === 'total' ? tick.xp - (ticks[i]?.xp ?? 0) : (values[i] ?? 0)) }}</td><td class="num">{{ numberText(tick.xp) }}</td></tr></tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.rule { display: grid; gap: 4px; }
input, select, textarea { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; width: 100%; }
.mono { font-family: var(--mono); font-size: 12px; }
.growth { display: grid; gap: 6px; grid-template-columns: repeat(3, minmax(0, 1fr)); }
.growth label { color: var(--soft); font-size: 11px; }
.growth input { text-align: right; }
.wrong { color: var(--short); font-size: 11px; margin: 0; }
.typed { font-size: 11px; margin: 0; }
.steps { max-height: 170px; overflow: auto; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
th { color: var(--soft); font-weight: 400; text-align: left; }
th.num { text-align: right; }
</style>
