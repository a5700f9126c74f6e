<script setup lang="ts">
import { computed } from 'vue'
import { labelOf } from '../../../core/plan/label-of.ts'
import { contentsByPlace, type Records } from '../../../core/plan/records.ts'
import type { MapData } from '../../../core/view/map.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import { placeSums, placeSumText } from '../../../core/view/place-sums.ts'
import { useSelectionStore } from '../../stores/selection.ts'

/** A place of the map: what is in it, what it gives, how it is come to and left, and when it is first had. */
const props = defineProps<{ records: Records; data: MapData; placeKey: string; lossy: ReadonlySet<string> }>()
const selection = useSelectionStore()

const place = computed(() => props.data.places.find(({ key }) => key === props.placeKey))
const names = computed(() => new Map(props.data.places.map(({ key, name }) => [key, name])))
const contents = computed(() => contentsByPlace(props.records).get(props.placeKey) ?? [])
const gives = computed(() => placeSumText(placeSums(props.records).get(props.placeKey) ?? []))
const gates = computed(() => contents.value.flatMap(({ kind, row }) => (kind === 'gate' ? [row] : [])))
const ways = computed(() => props.data.passages.flatMap(({ key, id, from, to, twoWay }) => {
  if (from !== props.placeKey && to !== props.placeKey) return []
  const other = names.value.get(from === props.placeKey ? to : from) ?? ''
  const leads = twoWay ? 'to and from' : from === props.placeKey ? 'only on to' : 'only from'
  return [{ key, text: `${leads} ${other}`, loses: props.lossy.has(id) }]
}))
const wave = (n: number | null) => (n === null ? 'never' : `wave ${n}`)
</script>

<template>
  <footer v-if="place" class="told" data-test="chosen place">
    <span><b>{{ place.name }}</b>: {{ wave(place.waves.once) }}<template v-if="place.waves.repeated !== place.waves.once">, with repeats {{ wave(place.waves.repeated) }}</template><b v-if="place.isDeadEnd" class="bad"> – a dead end: no way on, none back, and no goal</b></span>
    <span>{{ countText(contents.length - gates.length, 'source') }}, {{ countText(gates.length, 'gate') }}; in all {{ gives || 'it gives nothing' }}<template v-if="place.earns.length">; to be earned: {{ place.earns.map(({ tally, most }) => `0 to ${numberText(most)} ${tally}`).join(', ') }}</template>.</span>
    <span v-if="ways.length">Ways: <button v-for="way in ways" :key="way.key" class="link" :class="{ bad: way.loses }" @click="selection.choose('passage', way.key)">{{ way.text }}<template v-if="way.loses"> (main content is lost behind it)</template></button></span>
    <span v-else class="bad">No way leads to it or from it: <kbd>j</kbd> joins it to another.</span>
    <span v-if="gates.length">Gates: <button v-for="gate in gates.slice(0, 6)" :key="gate.key" class="link" @click="selection.choose('gate', gate.key)">{{ labelOf(gate) }}</button><template v-if="gates.length > 6">and {{ gates.length - 6 }} more</template></span>
  </footer>
</template>

<style scoped>
.told { align-items: baseline; border-top: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; gap: 2px 14px; max-height: 130px; overflow: auto; padding: 6px 12px; }
.link { background: none; border: 0; color: var(--accent); cursor: pointer; font-size: 13px; padding: 0 8px 0 0; }
.bad { color: var(--short); }
kbd { background: var(--panel); border-radius: 3px; font-family: var(--mono); padding: 0 4px; }
</style>
