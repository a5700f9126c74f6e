<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useId, watch } from 'vue'
import type { Diff, Edited } from '../../../core/change/diff.ts'
import { requirementFault, type LineFault } from '../../../core/exchange/line-fault.ts'
import type { KindName } from '../../../core/plan/kinds.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { vocabularyOf } from '../../../core/rules/plan-index.ts'
import { typedNumber } from '../../../core/view/numbers.ts'
import { changedElsewhere } from '../../changed-elsewhere.ts'
import { usePlanStore } from '../../stores/plan.ts'
import type { Chosen } from '../../stores/selection.ts'
import ChoiceSelect from '../ChoiceSelect.vue'
import { choicesWith, type Choice } from '../choices.ts'
import GuardsField from './GuardsField.vue'
import MissingTallyKinds from './MissingTallyKinds.vue'
import RequirementField from './RequirementField.vue'
import RuleField from './RuleField.vue'
import StopsField from './StopsField.vue'
import TypedTurns from './TypedTurns.vue'
import type { FieldEntry } from './field-table.ts'
import { useTyped } from './use-typed.ts'

/**
 * One field: its label, its control, its unit, and under it what is wrong with it. It stays on the page from one record to the next: what
 * was typed is taken for the record that it was typed for.
 */
const props = defineProps<{ entry: FieldEntry; value: unknown; records: Records; issue: string | null; kind: KindName; recordKey: string; changeOf: (entry: FieldEntry, value: unknown, of: Chosen) => Edited }>()
const emit = defineEmits<{ refused: [says: string, of: Chosen] }>()

const plan = usePlanStore()
const id = useId()
const refusal = ref<LineFault | null>(null)
const context = computed(() => ({ tallies: inOrder(props.records, 'tally'), characters: inOrder(props.records, 'character') }))
const isSet = computed(() => props.value !== undefined && props.value !== null)
const yesOrNo: readonly Choice[] = [{ value: 'true', text: 'yes' }, { value: 'false', text: 'no' }]
const choices = computed((): Choice[] => {
  const { entry, value } = props
  if (entry.control === 'select' || entry.control === 'yesno') {
    const own = entry.control === 'yesno' ? yesOrNo : entry.options.map((option) => ({ value: option, text: option.replace('_', ' ') }))
    return [...(entry.optional ? [{ value: '', text: 'as the pattern' }] : []), ...own]
  }
  if (entry.control !== 'ref') return []
  const rows = inOrder(props.records, entry.kind) as readonly { id: string; name?: string }[]
  return [...(entry.nullable ? [{ value: '', text: entry.nullable }] : []), ...choicesWith(rows, isSet.value ? String(value) : null)]
})

const printed = computed((): string => {
  const { entry, value } = props
  if (entry.control === 'lines') return entry.format.print((value ?? []) as never[])
  return value === null || value === undefined ? '' : String(value)
})
const text = ref(printed.value)
const { elsewhere, isTyped, stands, taken, leave } = useTyped(printed.value, { read: () => text.value, write: (next) => (text.value = next) })
watch(printed, stands)
watch(() => props.recordKey, (_, before) => settle(before), { flush: 'sync' })
onBeforeUnmount(() => settle(props.recordKey))

/** A requirement that is typed and not taken yet; null: nothing is, or what is not understood. */
const requirement = ref<string | null>(null)
watch(() => props.recordKey, () => (requirement.value = null))
/** What is typed and not taken yet, where it may turn verdicts; null: nothing is. */
const typed = computed(() => requirement.value ?? (['number', 'lines'].includes(props.entry.control) && isTyped() ? text.value : null))
/** What would come of it; what is not understood is told when it is to be taken. */
function changeTyped(): Diff | null {
  const read = requirement.value === null ? readTyped() : { ok: true as const, value: requirement.value }
  const change = read.ok ? props.changeOf(props.entry, read.value, { kind: props.kind, key: props.recordKey }) : null
  return change && 'diff' in change ? change.diff : null
}

/** Whether it was taken; if not, it is told why. */
function give(value: unknown, key = props.recordKey): boolean {
  const change = props.changeOf(props.entry, value, { kind: props.kind, key })
  if ('diff' in change) {
    plan.edit(change.diff)
    refusal.value = requirement.value = null
    taken()
    return true
  }
  if (key !== props.recordKey) emit('refused', change.says, { kind: props.kind, key })
  else refusal.value = change
  return false
}

function giveText(key = props.recordKey): void {
  const typed = isTyped() ? readTyped() : null
  if (typed?.ok) give(typed.value, key)
  else refusal.value = typed
}

/** What is typed as a value, or why it is none. */
function readTyped(): { ok: true; value: unknown } | ({ ok: false } & LineFault) {
  const { entry } = props
  const isEmpty = text.value.trim() === ''
  if (entry.control === 'lines') return entry.optional && isEmpty ? { ok: true, value: null } : entry.format.read(text.value, context.value)
  if (entry.control !== 'number') return { ok: true, value: text.value }
  if (isEmpty) return entry.nullable || entry.optional ? { ok: true, value: null } : { ok: false, says: 'a number is needed' }
  const n = typedNumber(text.value)
  return Number.isFinite(n) ? { ok: true, value: n } : { ok: false, says: `"${text.value}" is no number` }
}

/** Before another record is shown: what was typed for this one is taken, or it is told why not. */
function settle(key: string): void {
  giveText(key)
  if (refusal.value) emit('refused', refusal.value.says, { kind: props.kind, key })
  revert()
}

function giveChoice(chosen: string): void {
  const value = props.entry.control === 'yesno' ? chosen === 'true' : chosen
  give(chosen === '' ? null : value)
}

/** What is wrong in the text of a requirement that stands there, which its editor tells; null: nothing is. */
const fault = computed(() => (props.entry.control === 'requirement' && props.issue ? requirementFault(String(props.value ?? ''), vocabularyOf(props.records)) : null))
/** The tally for want of which what was typed was refused, or what stands there is in error. */
const missing = computed(() => (refusal.value ?? fault.value)?.missing)

function revert(): void {
  leave(printed.value)
  refusal.value = null
}
</script>

<template>
  <div class="field" :class="{ broad: entry.control === 'stops' || entry.control === 'guards' }">
    <label :for="id">{{ entry.label }}<span v-if="entry.unit" class="soft"> ({{ entry.unit }})</span></label>
    <textarea
      v-if="entry.control === 'lines' || entry.control === 'longtext'" :id="id" v-model="text" :rows="entry.control === 'lines' ? Math.max(entry.rows, Math.min(8, text.split('\n').length)) : 2"
      :placeholder="entry.control === 'lines' ? (entry.optional && !isSet ? 'as the pattern' : entry.format.example) : ''" :class="{ mono: entry.control === 'lines' }" :data-test="`field ${entry.field}`"
      @change="giveText()" @keydown.esc.stop="revert"
    />
    <RequirementField v-else-if="entry.control === 'requirement'" :input-id="id" :value="String(value ?? '')" :records="records" :record-key="recordKey" :take="give" @typed="(text, isChange) => (requirement = isChange ? text : null)" @left="refusal = requirement = null" />
    <RuleField v-else-if="entry.control === 'rule'" :key="recordKey" :value="value" :records="records" :record-key="recordKey" :take="give" />
    <GuardsField v-else-if="entry.control === 'guards'" :input-id="id" :value="value" :records="records" @take="give" />
    <StopsField v-else-if="entry.control === 'stops'" :value="value" :records="records" @take="give" />
    <ChoiceSelect v-else-if="['select', 'yesno', 'ref'].includes(entry.control)" :input-id="id" :value="isSet ? String(value) : ''" :choices="choices" :test="`field ${entry.field}`" @choose="giveChoice" />
    <input v-else-if="entry.control === 'switch'" :id="id" type="checkbox" :checked="value === true" :data-test="`field ${entry.field}`" @change="give(($event.target as HTMLInputElement).checked)" />
    <input
      v-else :id="id" v-model="text" :class="{ num: entry.control === 'number', mono: entry.control === 'id' }" :inputmode="entry.control === 'number' ? 'decimal' : undefined"
      :placeholder="entry.control === 'number' ? (entry.nullable ?? (entry.optional ? 'as the pattern' : '')) : ''" :data-test="`field ${entry.field}`"
      @change="giveText()" @keydown.enter="giveText()" @keydown.esc.stop="revert"
    />
    <template v-if="refusal || issue">
      <p v-if="refusal || !fault" class="wrong" role="alert">{{ refusal?.says ?? issue }}</p>
      <MissingTallyKinds v-if="missing" :tally="missing" @added="giveText()" @refused="(says) => (refusal = { says })" />
    </template>
    <p v-else-if="elsewhere !== null" class="wrong" role="status">{{ changedElsewhere(elsewhere) }}</p>
    <TypedTurns v-else-if="typed !== null" :typed="typed" :change="changeTyped" />
    <p v-else-if="entry.help" class="help">{{ entry.help }}</p>
  </div>
</template>

<style scoped>
.field { display: grid; gap: 2px; grid-template-columns: 104px minmax(0, 1fr); align-items: start; }
label { color: var(--soft); padding-top: 4px; font-size: 12px; }
input, select, textarea { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; width: 100%; }
input[type='checkbox'] { justify-self: start; margin-top: 6px; width: auto; }
textarea { resize: vertical; line-height: 1.35; }
textarea.mono, input.mono { font-family: var(--mono); font-size: 12px; }
.field.broad { grid-template-columns: minmax(0, 1fr); }
.help, .wrong { font-size: 11px; grid-column: 2; margin: 0; color: var(--soft); }
.wrong { color: var(--short); }
</style>
