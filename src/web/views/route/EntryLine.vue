<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { MissingTally } from '../../../core/change/missing-tally.ts'
import { completeEntry, type EntryOption } from '../../../core/exchange/complete-entry.ts'
import { readEntry, type EntryContext, type EntryReading } from '../../../core/exchange/entry-line.ts'
import { missingOptions } from '../../components/missing-options.ts'
import OptionList from '../../components/OptionList.vue'
import TurnsText from '../../components/TurnsText.vue'
import { useMarkedOption } from '../../components/use-marked-option.ts'
import { useMissingTally } from '../../use-missing-tally.ts'
import { useTypedPreview } from '../../use-preview.ts'
import type { Added } from './sheet-actions.ts'

/**
 * One line that becomes a source, a gate, a place or a tally; it shows how it is read before it is taken, and which verdicts it would turn,
 * completes names, and adds a tally that it names and the plan has not. `add`: what comes of what was read, or why it cannot be added.
 */
const props = defineProps<{ context: EntryContext; placeName: string | null; add: (reading: EntryReading) => Added | { says: string } }>()
const emit = defineEmits<{ enter: [added: Added]; leave: [] }>()

const addMissing = useMissingTally()
const line = ref('')
const caret = ref(0)
/** Why it was not taken. */
const refusal = ref<string | null>(null)
const field = ref<HTMLInputElement>()
const isClosed = ref(false)
const reading = computed(() => readEntry(line.value, props.context))
const added = computed(() => props.add(reading.value))
const isItem = computed(() => reading.value.kind === 'source' || reading.value.kind === 'gate')
const turns = useTypedPreview(() => reading.value, () => (isItem.value && 'diff' in added.value ? added.value.diff : null))
const completion = computed(() => (isClosed.value ? { from: 0, options: [] } : completeEntry(line.value, caret.value, props.context)))
/** The tally that would make the line understood, where no name fits what is being typed. */
const missing = computed(() => (!isClosed.value && reading.value.kind === 'nothing' && !completion.value.options.length ? reading.value.missing : undefined))
const options = computed(() => (missing.value ? missingOptions(missing.value) : completion.value.options))
const { marked, onArrow, unmark } = useMarkedOption(() => options.value.length)
const hint = computed(() => {
  if (refusal.value !== null) return refusal.value
  if (!line.value) return props.placeName ? `at ${props.placeName}` : 'type "place Harbour Depot" to begin'
  const where = isItem.value ? ` · at ${props.placeName ?? 'no place yet'}` : ''
  return reading.value.kind === 'nothing' ? reading.value.says : `Enter adds: ${reading.value.says}${where}`
})

function typed(): void {
  refusal.value = null
  isClosed.value = false
  unmark()
  moved()
}
function moved(): void {
  caret.value = field.value?.selectionStart ?? line.value.length
}

function take(index: number): void {
  if (missing.value) return addTally(missing.value, index)
  complete(completion.value.options[index]!)
}

/** The line stays as it is, and is understood then. */
function addTally(tally: MissingTally, index: number): void {
  refusal.value = addMissing(tally, tally.kinds[index]!)
  unmark()
}

function complete(option: EntryOption): void {
  const { from } = completion.value
  const rest = line.value.slice(caret.value)
  line.value = `${line.value.slice(0, from)}${option.text}${rest.startsWith(' ') || option.text.endsWith('(') ? '' : ' '}${rest}`
  unmark()
  void nextTick(() => {
    const at = from + option.text.length + 1
    field.value?.focus()
    field.value?.setSelectionRange(at, at)
    moved()
  })
}

function onKey(event: KeyboardEvent): void {
  const { length } = options.value
  if (onArrow(event)) return
  if (length && event.key === 'Tab' && !event.shiftKey) {
    event.preventDefault()
    take(Math.max(0, marked.value))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    if (marked.value >= 0) take(marked.value)
    else enter()
  } else if (event.key === 'Escape') {
    event.preventDefault()
    if (length) isClosed.value = true
    else emit('leave')
  }
}

function enter(): void {
  if (!line.value) return
  const made = added.value
  if ('says' in made) {
    refusal.value = made.says
    return
  }
  emit('enter', made)
  line.value = ''
  caret.value = 0
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="entry" :class="{ refusal: refusal !== null }">
    <OptionList v-if="options.length" name="entry-options" class="above" :options="options" :marked="marked" label="What fits here" keys="Tab takes the first; arrow keys choose" @take="take" />
    <span v-if="isItem && turns.length" class="ahead" role="status"><TurnsText :turns="turns" /></span>
    <input
      ref="field" v-model="line" data-test="entry" role="combobox" aria-label="Entry line" aria-describedby="entry-hint" aria-autocomplete="list" aria-controls="entry-options" :aria-expanded="options.length > 0"
      :aria-activedescendant="marked >= 0 ? `entry-options-${marked}` : undefined" spellcheck="false" autocomplete="off"
      placeholder="12 drift hares 20 renown side   ·   door North hatch level >= 8 for 5 stamps   ·   place Gull Stair"
      @keydown="onKey" @input="typed" @keyup="moved" @click="moved" @blur="isClosed = true" @focus="isClosed = false"
    />
    <span id="entry-hint" class="hint" data-test="entry-hint" :class="{ wrong: line && (refusal !== null || reading.kind === 'nothing') }" aria-live="polite">{{ hint }}</span>
  </div>
</template>

<style scoped>
.entry { align-items: center; background: var(--raised); border: 1.5px solid var(--path); border-radius: 6px; display: flex; flex: none; flex-wrap: wrap; gap: 0 12px; margin: 6px 10px 8px; min-height: 36px; padding: 4px 10px; position: relative; }
.entry:focus-within { border-color: var(--accent); }
.entry.refusal { border-color: var(--short); }
input { background: none; border: 0; color: var(--ink); flex: 1 1 320px; font: 13px var(--mono); min-width: 0; outline: none; padding: 3px 0; }
input::placeholder { color: var(--soft); font-size: 12px; opacity: 1; }
.hint { color: var(--soft); font-size: 12px; }
.hint.wrong { color: var(--short); }
.above { bottom: calc(100% + 4px); left: 0; }
.ahead { background: var(--raised); border: 1px solid var(--line); border-radius: 6px; bottom: calc(100% + 4px); box-shadow: 0 4px 16px rgb(0 0 0 / 14%); position: absolute; z-index: 8; font-size: 12px; max-width: 440px; padding: 4px 10px; right: 0; }
</style>
