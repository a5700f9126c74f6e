<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Diff } from '../../../core/change/diff.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import TurnsText from '../../components/TurnsText.vue'
import { usePlanStore } from '../../stores/plan.ts'
import { useTypedPreview } from '../../use-preview.ts'
import { editCell } from './sheet-actions.ts'
import type { CellEdit, Onward } from './use-cell-editing.ts'

/**
 * A cell being edited in place. Enter takes it, Tab takes it and goes on, Esc leaves it as it was. Going elsewhere takes it, too. The
 * verdicts that it would turn are shown while it is typed.
 */
const props = defineProps<{ edit: CellEdit; row: SheetRow }>()
const emit = defineEmits<{ commit: [text: string, then: Onward]; cancel: [] }>()

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

function commit(then: Onward): void {
  emit('commit', text.value, then)
}
function cancel(): void {
  isDone = true
  emit('cancel')
}
function leave(): void {
  if (!isDone) commit('elsewhere')
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
    ref="field" v-model="text" :aria-label="edit.cell" :aria-invalid="edit.says !== null" data-test="cell-editor"
    @keydown.enter.prevent.stop="commit('stay')" @keydown.tab.exact.prevent.stop="commit('next')" @keydown.shift.tab.exact.prevent.stop="commit('previous')"
    @keydown.esc.prevent.stop="cancel" @keydown.stop @mousedown.stop @blur="leave"
  />
  <span v-if="edit.says" class="says" role="alert">{{ edit.says }}</span>
  <span v-else-if="turns.length" class="says turns" role="status"><TurnsText :turns="turns" :most="3" /></span>
</template>

<style scoped>
input { background: var(--raised); border: 1.5px solid var(--accent); border-radius: 3px; color: var(--ink); font: inherit; height: 22px; left: 0; padding: 0 3px; position: absolute; top: 0; width: 100%; min-width: 130px; }
input[aria-invalid='true'] { border-color: var(--short); }
.says { background: var(--raised); border: 1px solid var(--short); border-radius: 4px; color: var(--short); font: 12px/1.35 var(--font); left: 0; max-width: 420px; padding: 4px 8px; position: absolute; top: 24px; white-space: normal; width: max-content; z-index: 6; }
.says.turns { border-color: var(--line); box-shadow: 0 4px 16px rgb(0 0 0 / 18%); color: var(--ink); }
</style>
