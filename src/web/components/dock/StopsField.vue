<script setup lang="ts">
import { computed, ref } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import ChoiceSelect from '../ChoiceSelect.vue'
import { choicesOf } from '../choices.ts'

/** A route as the order of its places: moved, taken out, added at the end. */
const props = defineProps<{ value: unknown; records: Records }>()
const emit = defineEmits<{ take: [value: string[]] }>()

const stops = computed(() => props.value as string[])
const places = computed(() => inOrder(props.records, 'place'))
const names = computed(() => new Map(places.value.map((place) => [place.id, labelOf(place)])))
const choices = computed(() => [{ value: '', text: 'Add a stop …' }, ...choicesOf(places.value)])
/** Another one after each stop that is added: what was chosen is chosen no more. */
const added = ref(0)

function move(i: number, by: 1 | -1): void {
  const next = [...stops.value]
  const [stop] = next.splice(i, 1)
  next.splice(i + by, 0, stop!)
  emit('take', next)
}
function add(id: string): void {
  if (id) emit('take', [...stops.value, id])
  added.value++
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
    <ChoiceSelect :key="added" value="" :choices="choices" label="Add a stop" test="add stop" @choose="add" />
  </div>
</template>

<style scoped>
ol { margin: 0 0 4px; padding-left: 22px; }
li { font-size: 12px; }
li::marker { color: var(--soft); }
.name { display: inline-block; width: calc(100% - 84px); }
.quiet { padding: 2px 5px; }
.choice { width: 100%; }
</style>
