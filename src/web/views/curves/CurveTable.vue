<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed, nextTick, ref } from 'vue'
import { setCurveValue } from '../../../core/change/curve-edits.ts'
import type { Records, Row } from '../../../core/plan/records.ts'
import type { CurveStep, XpUnit } from '../../../core/view/curve-table.ts'
import { numberText, typedNumber } from '../../../core/view/numbers.ts'
import { usePlanStore } from '../../stores/plan.ts'

/** One row for each step, written 4 → 5; the number that the curve is made of is edited in place. */
const props = defineProps<{ records: Records; curve: Row<'curve'>; steps: CurveStep[]; unit: XpUnit | null; focus: number | null; reached: { name: string; at: (level: number) => string }[] }>()
const emit = defineEmits<{ focus: [level: number]; paste: [text: string] }>()
const plan = usePlanStore()

const editing = ref<number | null>(null)
const text = ref('')
const says = ref('')
const body = ref<HTMLElement>()
const edited = computed(() => (props.curve.counts === 'total' ? 'total' : 'step'))

function begin(step: CurveStep): void {
  editing.value = step.from
  text.value = String(step[edited.value])
  says.value = ''
  void nextTick(() => body.value?.querySelector<HTMLInputElement>('input')?.select())
}

/** Takes what was typed; `goesOn`: the keyboard stays in the table. */
async function take(step: CurveStep, goesOn: boolean): Promise<void> {
  if (editing.value !== step.from) return
  const value = typedNumber(text.value)
  if (!Number.isFinite(value) || text.value.trim() === '') return void (says.value = 'a number is needed')
  editing.value = null
  const stay = () => goesOn && focusRow(step.from)
  if (value === step[edited.value]) return void stay()
  if (props.curve.rule.kind !== 'table') {
    const isTaken = await ElMessageBox.confirm(`The values of ${props.curve.name} come from a ${props.curve.rule.kind}. To change one of them, all are written down as a table; that is one step and can be undone.`, 'Make it a table?', { confirmButtonText: 'Make it a table', cancelButtonText: 'Leave it' }).then(() => true, () => false)
    if (!isTaken) return
  }
  plan.edit(setCurveValue(props.records, props.curve, step.from, value))
  stay()
}

function focusRow(level: number): void {
  void nextTick(() => body.value?.querySelector<HTMLElement>(`[data-level="${level}"]`)?.focus())
}

function move(level: number, by: 1 | -1): void {
  emit('focus', level + by)
  focusRow(level + by)
}
</script>

<template>
  <div ref="body" class="scroll" tabindex="-1" @paste="editing === null && ($event.preventDefault(), emit('paste', $event.clipboardData?.getData('text/plain') ?? ''))">
    <table data-test="curve table">
      <thead>
        <tr><th>step</th><th class="num">XP</th><th class="num">in all</th><th class="num">growth</th><th class="num">{{ unit ? `in ${unit.name}` : 'units' }}</th><th v-for="one in reached" :key="one.name">{{ one.name }} reaches it</th></tr>
      </thead>
      <tbody>
        <tr v-for="step in steps" :key="step.from" :class="{ on: step.from === focus }" @mousedown="emit('focus', step.from)">
          <td>{{ step.from }} → {{ step.to }}</td>
          <td v-for="field in (['step', 'total'] as const)" :key="field" class="num">
            <input v-if="editing === step.from && field === edited" v-model="text" class="num" :aria-label="`XP from ${step.from} to ${step.to}`" data-test="step editor" @keydown.enter.prevent="take(step, true)" @keydown.esc.prevent="editing = null; focusRow(step.from)" @blur="take(step, false)" />
            <button v-else-if="field === edited" class="cell" :data-level="step.from" :title="'Enter edits it'" @click="begin(step)" @keydown.down.prevent="move(step.from, 1)" @keydown.up.prevent="move(step.from, -1)">{{ numberText(step[field]) }}</button>
            <template v-else>{{ numberText(step[field]) }}</template>
          </td>
          <td class="num">{{ step.growth ? `× ${step.growth.toFixed(3)}` : '' }}</td>
          <td class="num">{{ unit ? numberText(Math.round((step.step / unit.xp) * 10) / 10) : '' }}</td>
          <td v-for="one in reached" :key="one.name">{{ one.at(step.to) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
  </div>
</template>

<style scoped>
.scroll { flex: 1; min-height: 120px; overflow: auto; }
table { border-collapse: collapse; width: 100%; }
th { background: var(--paper); color: var(--soft); font-size: 12px; font-weight: 400; padding: 3px 8px; position: sticky; text-align: left; top: 0; }
th.num { text-align: right; }
td { border-top: 1px solid var(--line); padding: 1px 8px; white-space: nowrap; }
tr.on { background: var(--mark); }
.cell { background: none; border: 1px solid transparent; border-radius: 3px; color: var(--ink); cursor: text; font-size: 13px; font-variant-numeric: tabular-nums; padding: 1px 4px; text-align: right; }
.cell:hover { border-color: var(--line); }
input { background: var(--raised); border: 1.5px solid var(--accent); border-radius: 3px; color: var(--ink); font-size: 13px; padding: 0 4px; width: 84px; }
.wrong { color: var(--short); }
</style>
