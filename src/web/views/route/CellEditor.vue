<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { CellEdit, Onward } from './use-cell-editing.ts'

/** A cell being edited in place. Enter takes it, Tab takes it and goes on, Esc leaves it as it was. Going elsewhere takes it, too. */
const props = defineProps<{ edit: CellEdit }>()
const emit = defineEmits<{ commit: [text: string, then: Onward]; cancel: [] }>()

const field = ref<HTMLInputElement>()
const text = ref(props.edit.typed)
let isDone = false

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
</template>

<style scoped>
input { background: var(--raised); border: 1.5px solid var(--accent); border-radius: 3px; color: var(--ink); font: inherit; height: 22px; left: 0; padding: 0 3px; position: absolute; top: 0; width: 100%; min-width: 130px; }
input[aria-invalid='true'] { border-color: var(--short); }
.says { background: var(--raised); border: 1px solid var(--short); border-radius: 4px; color: var(--short); font: 12px/1.35 var(--font); left: 0; max-width: 420px; padding: 4px 8px; position: absolute; top: 24px; white-space: normal; width: max-content; z-index: 6; }
</style>
