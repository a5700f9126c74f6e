<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import GuardsField from './GuardsField.vue'
import RequirementField from './RequirementField.vue'
import RuleField from './RuleField.vue'
import StopsField from './StopsField.vue'
import type { FieldEntry } from './field-table.ts'

/** One field: its label, its control, its unit, and under it what is wrong with it. */
const props = defineProps<{ entry: FieldEntry; value: unknown; records: Records; issue: string | null; recordKey: string; take: (value: unknown) => string | null }>()

const id = useId()
const refusal = ref<string | null>(null)
const context = computed(() => ({ tallies: inOrder(props.records, 'tally'), characters: inOrder(props.records, 'character') }))
const choices = computed(() => (props.entry.control === 'ref' ? (inOrder(props.records, props.entry.kind) as readonly { id: string; name?: string }[]) : []))
const isSet = computed(() => props.value !== undefined && props.value !== null)

const printed = computed((): string => {
  const { entry, value } = props
  if (entry.control === 'lines') return entry.format.print((value ?? []) as never[])
  return value === null || value === undefined ? '' : String(value)
})
const text = ref(printed.value)
watch(printed, (next) => (text.value = next))

function give(value: unknown): void {
  refusal.value = props.take(value)
}

function giveText(): void {
  const { entry } = props
  if (text.value === printed.value) return void (refusal.value = null)
  if (entry.control === 'lines') {
    if (entry.optional && text.value.trim() === '') return give(null)
    const read = entry.format.read(text.value, context.value)
    return read.ok ? give(read.value) : void (refusal.value = read.says)
  }
  if (entry.control === 'number') {
    if (text.value.trim() === '') return entry.nullable || entry.optional ? give(null) : void (refusal.value = 'a number is needed')
    const n = Number(text.value.replace(/,/g, ''))
    return Number.isFinite(n) ? give(n) : void (refusal.value = `"${text.value}" is no number`)
  }
  give(text.value)
}

function giveChoice(event: Event): void {
  const chosen = (event.target as HTMLSelectElement).value
  const { entry } = props
  if (chosen === '') return give(null)
  give(entry.field === 'respawns' ? chosen === 'true' : chosen)
}

function revert(): void {
  text.value = printed.value
  refusal.value = null
}
</script>

<template>
  <div class="field" :class="{ broad: entry.control === 'stops' }">
    <label :for="id">{{ entry.label }}<span v-if="entry.unit" class="soft"> ({{ entry.unit }})</span></label>
    <textarea
      v-if="entry.control === 'lines' || entry.control === 'longtext'" :id="id" v-model="text" :rows="entry.control === 'lines' ? Math.max(entry.rows, Math.min(8, text.split('\n').length)) : 2"
      :placeholder="entry.control === 'lines' ? (entry.optional && !isSet ? 'as the pattern' : entry.format.example) : ''" :class="{ mono: entry.control === 'lines' }" :data-test="`field ${entry.field}`"
      @change="giveText" @keydown.esc.stop="revert"
    />
    <RequirementField v-else-if="entry.control === 'requirement'" :input-id="id" :value="String(value ?? '')" :records="records" @take="give" />
    <RuleField v-else-if="entry.control === 'rule'" :value="value" :records="records" :record-key="recordKey" @take="give" />
    <GuardsField v-else-if="entry.control === 'guards'" :input-id="id" :value="value" :records="records" @take="give" />
    <StopsField v-else-if="entry.control === 'stops'" :value="value" :records="records" @take="give" />
    <select v-else-if="entry.control === 'select'" :id="id" :value="isSet ? String(value) : ''" :data-test="`field ${entry.field}`" @change="giveChoice">
      <option v-if="entry.optional" value="">as the pattern</option>
      <option v-for="option in entry.options" :key="option" :value="option">{{ option.replace('_', ' ') }}</option>
    </select>
    <select v-else-if="entry.control === 'ref'" :id="id" :value="isSet ? String(value) : ''" :data-test="`field ${entry.field}`" @change="giveChoice">
      <option v-if="entry.nullable" value="">{{ entry.nullable }}</option>
      <option v-if="isSet && !choices.some((c) => c.id === value)" :value="String(value)">{{ value }} (does not exist)</option>
      <option v-for="choice in choices" :key="choice.id" v-memo="[choice]" :value="choice.id">{{ choice.name || choice.id }}</option>
    </select>
    <input v-else-if="entry.control === 'switch'" :id="id" type="checkbox" :checked="value === true" :data-test="`field ${entry.field}`" @change="give(($event.target as HTMLInputElement).checked)" />
    <input
      v-else :id="id" v-model="text" :class="{ num: entry.control === 'number', mono: entry.control === 'id' }" :inputmode="entry.control === 'number' ? 'decimal' : undefined"
      :placeholder="entry.control === 'number' ? (entry.nullable ?? (entry.optional ? 'as the pattern' : '')) : ''" :data-test="`field ${entry.field}`"
      @change="giveText" @keydown.enter="giveText" @keydown.esc.stop="revert"
    />
    <p v-if="refusal || issue" class="wrong" role="alert">{{ refusal ?? issue }}</p>
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
