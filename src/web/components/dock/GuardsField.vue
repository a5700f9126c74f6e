<script setup lang="ts">
import { computed } from 'vue'
import type { Guards } from '../../../core/plan/gate.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'

/** What a gate bars: nothing, one passage, or every passage into one place. */
const props = defineProps<{ inputId: string; value: unknown; records: Records }>()
const emit = defineEmits<{ take: [value: Guards | null] }>()

const guards = computed(() => props.value as Guards | null)
const chosen = computed(() => (guards.value?.passage ? `passage ${guards.value.passage}` : guards.value?.place ? `place ${guards.value.place}` : ''))
/** The same while the places are. */
const names = computed((before?: { places: Records['place']; of: Map<string, string> }) => {
  const { place: places } = props.records
  return before?.places === places ? before : { places, of: new Map([...places.values()].map((place) => [place.id, place.name || place.id])) }
})

function take(event: Event): void {
  const [kind, id] = (event.target as HTMLSelectElement).value.split(' ')
  emit('take', id === undefined ? null : kind === 'passage' ? { passage: id } : { place: id })
}
</script>

<template>
  <select :id="inputId" :value="chosen" data-test="field guards" @change="take">
    <option value="">no way</option>
    <optgroup v-memo="[records.passage, names]" label="A passage">
      <option v-for="passage in inOrder(records, 'passage')" :key="passage.key" :value="`passage ${passage.id}`">{{ names.of.get(passage.from) }} {{ passage.twoWay ? '↔' : '→' }} {{ names.of.get(passage.to) }}</option>
    </optgroup>
    <optgroup v-memo="[records.place]" label="Every way into a place">
      <option v-for="place in inOrder(records, 'place')" :key="place.key" :value="`place ${place.id}`">{{ place.name || place.id }}</option>
    </optgroup>
  </select>
</template>

<style scoped>
select { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; min-width: 0; padding: 4px 6px; width: 100%; }
</style>
