<script setup lang="ts">
import { computed, ref } from 'vue'
import { readEntry } from '../../../core/exchange/entry-line.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { entryContext, entrySpot } from './sheet-actions.ts'

/** One line that becomes a source, a gate, a place or a tally; it shows how it is read before it is taken. */
const props = defineProps<{ records: Records; row: SheetRow | undefined }>()
const emit = defineEmits<{ enter: [reading: ReturnType<typeof readEntry>]; leave: [] }>()

const line = ref('')
const refusal = ref(false)
const field = ref<HTMLInputElement>()
const spot = computed(() => entrySpot(props.records, props.row))
const placeName = computed(() => (spot.value?.place ? props.records.place.get(spot.value.place)?.name : null))
// Made anew when the plan changes, not with every letter.
const context = computed(() => entryContext(props.records, spot.value?.place ?? null))
const reading = computed(() => readEntry(line.value, context.value))
const hint = computed(() => {
  if (!line.value) return placeName.value ? `at ${placeName.value}` : 'type "place Harbour Depot" to begin'
  const where = reading.value.kind === 'source' || reading.value.kind === 'gate' ? ` · at ${placeName.value ?? 'no place yet'}` : ''
  return reading.value.kind === 'nothing' ? reading.value.says : `Enter adds: ${reading.value.says}${where}`
})

function enter(): void {
  if (reading.value.kind === 'nothing') {
    refusal.value = line.value !== ''
    return
  }
  emit('enter', reading.value)
  line.value = ''
  refusal.value = false
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="entry" :class="{ refusal }">
    <input
      ref="field" v-model="line" data-test="entry" aria-label="Entry line" aria-describedby="entry-hint" spellcheck="false"
      placeholder="12 drift hares 20 renown side   ·   door North hatch level >= 8 for 5 stamps   ·   place Gull Stair"
      @keydown.enter.prevent="enter" @keydown.esc.prevent="emit('leave')" @input="refusal = false"
    />
    <span id="entry-hint" class="hint" data-test="entry-hint" :class="{ wrong: line && reading.kind === 'nothing' }" aria-live="polite">{{ hint }}</span>
  </div>
</template>

<style scoped>
.entry { align-items: center; background: var(--raised); border: 1.5px solid var(--path); border-radius: 6px; display: flex; flex: none; flex-wrap: wrap; gap: 0 12px; margin: 6px 10px 8px; min-height: 36px; padding: 4px 10px; }
.entry:focus-within { border-color: var(--accent); }
.entry.refusal { border-color: var(--short); }
input { background: none; border: 0; color: var(--ink); flex: 1 1 320px; font: 13px var(--mono); min-width: 0; outline: none; padding: 3px 0; }
input::placeholder { color: var(--soft); font-size: 12px; opacity: 1; }
.hint { color: var(--soft); font-size: 12px; }
.hint.wrong { color: var(--short); }
</style>
