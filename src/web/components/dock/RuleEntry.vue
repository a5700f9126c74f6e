<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue'
import { changedElsewhere } from '../../changed-elsewhere.ts'
import { useTyped } from './use-typed.ts'

/** What is typed of a curve's rule: a number, or all values of a table. Taken when it is left, and before another record is shown. */
const props = defineProps<{ label: string; name: string; value: string; rows?: number; take: (text: string) => boolean }>()
const emit = defineEmits<{ left: [] }>()

const text = ref(props.value)
const { elsewhere, isTyped, stands, taken, leave } = useTyped(props.value, { read: () => text.value, write: (next) => (text.value = next) })
watch(() => props.value, stands)
onBeforeUnmount(give)

function give(): void {
  if (isTyped() && props.take(text.value)) taken()
}

/** Leaves what stands in the record. */
function revert(): void {
  leave()
  emit('left')
}
</script>

<template>
  <label>
    {{ label }}
    <textarea v-if="rows" v-model="text" :rows="rows" class="mono" :data-test="`field ${name}`" @change="give" @keydown.esc.stop="revert" />
    <input v-else v-model="text" inputmode="decimal" :data-test="`field ${name}`" @change="give" @keydown.enter="give" @keydown.esc.stop="revert" />
    <span v-if="elsewhere !== null" class="says" role="status">{{ changedElsewhere(elsewhere) }}</span>
  </label>
</template>

<style scoped>
label { color: var(--soft); font-size: 11px; }
input, textarea { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; width: 100%; }
input { text-align: right; }
.mono { font-family: var(--mono); font-size: 12px; }
.says { color: var(--short); display: block; }
</style>
