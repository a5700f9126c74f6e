<script setup lang="ts">
import { computed } from 'vue'
import { inOrder, type Records } from '../../../core/plan/records.ts'

/** A route as the order of its places: moved, taken out, added at the end. */
const props = defineProps<{ value: unknown; records: Records }>()
const emit = defineEmits<{ take: [value: string[]] }>()

const stops = computed(() => props.value as string[])
const places = computed(() => inOrder(props.records, 'place'))
const names = computed(() => new Map(places.value.map((place) => [place.id, place.name || place.id])))

function move(i: number, by: 1 | -1): void {
  const next = [...stops.value]
  const [stop] = next.splice(i, 1)
  next.splice(i + by, 0, stop!)
  emit('take', next)
}
function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  if (select.value) emit('take', [...stops.value, select.value])
  select.value = ''
}
</script>

<template>
  <div>
    <ol>
      <li v-for="(stop, i) in stops" :key="`${i} ${stop}`">
        <span class="name">{{ names.get(stop) ?? `${stop} (does not exist)` }}</span>
        <button class="quiet" :disabled="i === 0" :aria-label="`Move ${stop} up`" @click="move(i, -1)">↑</button>
        <button class="quiet" :disabled="i === stops.length - 1" :aria-label="`Move ${stop} down`" @click="move(i, 1)">↓</button>
        <button class="quiet" :aria-label="`Take ${stop} out`" @click="emit('take', stops.filter((_, j) => j !== i))">×</button>
      </li>
    </ol>
    <select aria-label="Add a stop" data-test="add stop" @change="add">
      <option value="">Add a stop …</option>
      <option v-for="place in places" :key="place.key" v-memo="[place]" :value="place.id">{{ place.name || place.id }}</option>
    </select>
  </div>
</template>

<style scoped>
ol { margin: 0 0 4px; padding-left: 22px; }
li { font-size: 12px; }
li::marker { color: var(--soft); }
.name { display: inline-block; width: calc(100% - 84px); }
.quiet { padding: 2px 5px; }
select { background: var(--raised); border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font-size: 13px; padding: 4px 6px; width: 100%; }
</style>
