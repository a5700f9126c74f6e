<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Diff } from '../../../core/change/diff.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { missingOptions } from '../../components/missing-options.ts'
import OptionList from '../../components/OptionList.vue'
import TurnsText from '../../components/TurnsText.vue'
import { useMarkedOption } from '../../components/use-marked-option.ts'
import { usePlanStore } from '../../stores/plan.ts'
import { useTypedPreview } from '../../use-preview.ts'
import { editCell } from './sheet-actions.ts'
import type { TallyKind } from '../../../core/change/missing-tally.ts'
import type { CellEdit, Onward } from './use-cell-editing.ts'

/**
 * A cell being edited in place. Enter takes it, Tab takes it and goes on, Esc leaves it as it was. Going elsewhere takes it, too. The
 * verdicts that it would turn are shown while it is typed. Where it was refused for want of a tally, one can be added with it.
 */
const props = defineProps<{ edit: CellEdit; row: SheetRow }>()
const emit = defineEmits<{ commit: [text: string, then: Onward, adding?: TallyKind]; cancel: [] }>()

const field = ref<HTMLInputElement>()
const text = ref(props.edit.typed)
let isDone = false

const plan = usePlanStore()
/** What would come of it. Names turn no verdict, and what is not understood is told when it is to be taken. */
function change(): Diff | null {
  const { records } = plan
  if (!records || props.edit.cell !== 'asks' || text.value === props.edit.text) return null
  const edited = editCell(records, props.row, 'asks', text.value)
  return 'diff' in edited ? edited.diff : null
}
const turns = useTypedPreview(() => [text.value, plan.records], change)

const missing = computed(() => (text.value === props.edit.typed ? props.edit.fault?.missing : undefined))
const options = computed(() => (missing.value ? missingOptions(missing.value) : []))
const { marked, onArrow } = useMarkedOption(() => options.value.length)

function commit(then: Onward, option = -1): void {
  emit('commit', text.value, then, missing.value?.kinds[option])
}
function cancel(): void {
  isDone = true
  emit('cancel')
}
function leave(): void {
  if (!isDone) commit('elsewhere')
}

function onKey(event: KeyboardEvent): void {
  if (onArrow(event) || (event.key === 'Tab' && (event.ctrlKey || event.metaKey || event.altKey))) return
  const acts: Record<string, () => void> = { Enter: () => commit('stay', marked.value), Tab: () => commit(event.shiftKey ? 'previous' : 'next'), Escape: cancel }
  const act = acts[event.key]
  if (!act) return
  event.preventDefault()
  act()
}

// What was refused has the keyboard again, wherever it went in the meantime.
watch(() => props.edit, () => setTimeout(() => field.value?.focus()))
// Where the row is drawn no more, be it scrolled away or deleted, nothing is left unsaid.
onBeforeUnmount(leave)
onMounted(() => {
  field.value?.focus()
  field.value?.select()
})
</script>

<template>
  <input
    ref="field" v-model="text" :aria-label="edit.cell" :aria-invalid="edit.fault !== null" data-test="cell-editor"
    :role="options.length ? 'combobox' : undefined" :aria-expanded="options.length ? true : undefined" :aria-controls="options.length ? 'cell-options' : undefined" :aria-activedescendant="marked >= 0 ? `cell-options-${marked}` : undefined"
    @keydown.stop="onKey" @mousedown.stop @blur="leave"
  />
  <div v-if="edit.fault" class="says" role="alert">
    {{ edit.fault.says }}
    <OptionList v-if="options.length" name="cell-options" class="kinds" :options="options" :marked="marked" label="Tallies to add" keys="arrow keys and Enter add it and take what was typed" @take="(option) => commit('stay', option)" />
  </div>
  <span v-else-if="turns.length" class="says turns" role="status"><TurnsText :turns="turns" :most="3" /></span>
</template>

<style scoped>
input { background: var(--raised); border: 1.5px solid var(--accent); border-radius: 3px; color: var(--ink); font: inherit; height: 22px; left: 0; padding: 0 3px; position: absolute; top: 0; width: 100%; min-width: 130px; }
input[aria-invalid='true'] { border-color: var(--short); }
.says { background: var(--raised); border: 1px solid var(--short); border-radius: 4px; color: var(--short); font: 12px/1.35 var(--font); left: 0; max-width: 420px; padding: 4px 8px; position: absolute; top: 24px; white-space: normal; width: max-content; z-index: 6; }
.says .kinds { margin: 4px -8px 0; }
.says.turns { border-color: var(--line); box-shadow: 0 4px 16px rgb(0 0 0 / 18%); color: var(--ink); }
</style>
