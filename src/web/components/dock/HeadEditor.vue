<script setup lang="ts">
import { computed, ref } from 'vue'
import { setHead } from '../../../core/change/edits.ts'
import type { Head } from '../../../core/plan/head.ts'
import { recordFault } from '../../../core/plan/record-fault.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { typedNumber } from '../../../core/view/numbers.ts'
import { usePlanStore } from '../../stores/plan.ts'
import ChoiceSelect from '../ChoiceSelect.vue'
import { choicesWith } from '../choices.ts'

/** What is said of the plan as a whole: where it starts, its notes, its two settings. */
const props = defineProps<{ records: Records }>()
const plan = usePlanStore()
const says = ref('')
const places = computed(() => inOrder(props.records, 'place'))
const start = computed(() => props.records.head.start)
const starts = computed(() => choicesWith(places.value, start.value))

function take(fields: Partial<Head>, name: string): void {
  says.value = recordFault('head', { ...props.records.head, ...fields }) ?? ''
  if (!says.value) plan.edit(setHead(props.records, fields, name))
}

function takeNumber(event: Event, make: (n: number) => Partial<Head>, name: string): void {
  const n = typedNumber((event.target as HTMLInputElement).value)
  if (Number.isFinite(n)) take(make(n), `${name} ${n}`)
  else says.value = 'a number is needed'
}

const valueOf = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <details class="head">
    <summary>The plan as a whole</summary>
    <div class="label">Starts at
      <ChoiceSelect :value="start" :choices="starts" label="Starts at" test="field start" @choose="(id) => take({ start: id }, `start at ${id}`)" />
    </div>
    <label>Nothing new for longer than (min), a drought
      <input :value="records.head.settings.droughtMinutes" class="num" inputmode="decimal" @change="takeNumber($event, (n) => ({ settings: { ...records.head.settings, droughtMinutes: n } }), 'drought after')" />
    </label>
    <label>Unlocks at once, a pile-up
      <input :value="records.head.settings.pileUp.unlocks" class="num" inputmode="numeric" @change="takeNumber($event, (n) => ({ settings: { ...records.head.settings, pileUp: { ...records.head.settings.pileUp, unlocks: n } } }), 'pile-up of')" />
    </label>
    <label>… within (min)
      <input :value="records.head.settings.pileUp.minutes" class="num" inputmode="decimal" @change="takeNumber($event, (n) => ({ settings: { ...records.head.settings, pileUp: { ...records.head.settings.pileUp, minutes: n } } }), 'pile-up within')" />
    </label>
    <label>Notes <textarea :value="records.head.notes" rows="4" @change="take({ notes: valueOf($event) }, 'notes')" /></label>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
  </details>
</template>

<style scoped>
.head { margin-bottom: 12px; }
summary { cursor: pointer; font-weight: 600; }
label, .label { color: var(--soft); display: block; font-size: 12px; margin-top: 6px; }
input, .choice, textarea { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); display: block; font-size: 13px; margin-top: 2px; padding: 4px 6px; width: 100%; }
.wrong { color: var(--short); font-size: 11px; }
</style>
