<script setup lang="ts">
import { computed, ref } from 'vue'
import { numberLines } from '../../../core/exchange/lines.ts'
import RequirementField from './RequirementField.vue'
import RuleEntry from './RuleEntry.vue'
import type { Curve, CurveRule } from '../../../core/plan/curve.ts'
import type { Records } from '../../../core/plan/records.ts'
import { levelTicks } from '../../../core/view/level-axis.ts'
import { numberText, typedNumber } from '../../../core/view/numbers.ts'
import { curveValues } from '../../../core/rules/curve-values.ts'

/** How a curve's values are made: a table, a growth, or a formula; with the values that come of it. */
const props = defineProps<{ value: unknown; records: Records; recordKey: string; take: (value: CurveRule, key: string) => boolean }>()

const give = (rule: CurveRule) => props.take(rule, props.recordKey)

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
/** Why what is typed is no rule. */
const says = ref('')
const growth = [['base', 'base'], ['factor', 'each ×'], ['add', 'plus']] as const

/** Another kind of rule begins with the values of the one before, as far as it can have them. */
function changeKind(event: Event): void {
  const kind = (event.target as HTMLSelectElement).value as CurveRule['kind']
  const exact = values.value.map((v) => Math.round(v * 10_000) / 10_000)
  if (kind === 'table') give({ kind, values: exact })
  if (kind === 'growth') give({ kind, base: exact[0] ?? 100, factor: 1.15, add: 0 })
  if (kind === 'formula') give({ kind, text: 'prev * 1.15 + 10 * L' })
}

function takeNumber(field: 'base' | 'factor' | 'add', text: string): boolean {
  const n = typedNumber(text)
  says.value = Number.isFinite(n) ? '' : 'a number is needed'
  return !says.value && rule.value.kind === 'growth' && give({ ...rule.value, [field]: n })
}

function takeTable(text: string): boolean {
  const read = numberLines.read(text, { tallies: [], characters: [] })
  says.value = read.ok ? '' : read.says
  return read.ok && give({ kind: 'table', values: read.value })
}
</script>

<template>
  <div class="rule" data-test="field rule">
    <select :value="rule.kind" aria-label="Kind of rule" data-test="field rule kind" @change="changeKind">
      <option value="growth">growth</option><option value="table">table</option><option value="formula">formula</option>
    </select>
    <div v-if="rule.kind === 'growth'" class="growth">
      <RuleEntry v-for="[field, label] in growth" :key="field" :label="label" :name="field" :value="String(rule[field])" :take="(text) => takeNumber(field, text)" @left="says = ''" />
    </div>
    <RuleEntry v-else-if="rule.kind === 'table'" label="values, one a line" name="values" :rows="6" :value="numberLines.print(rule.values)" :take="takeTable" @left="says = ''" />
    <RequirementField v-else :input-id="`${recordKey} formula`" :value="rule.text" :records="records" :record-key="recordKey" use="formula" :take="(text) => give({ kind: 'formula', text })" @typed="(text) => (typed = text)" />
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
select { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; width: 100%; }
.growth { display: grid; gap: 6px; grid-template-columns: repeat(3, minmax(0, 1fr)); }
.wrong { color: var(--short); font-size: 11px; margin: 0; }
.typed { font-size: 11px; margin: 0; }
.steps { max-height: 170px; overflow: auto; }
table { border-collapse: collapse; font-size: 12px; width: 100%; }
th { color: var(--soft); font-weight: 400; text-align: left; }
th.num { text-align: right; }
</style>
