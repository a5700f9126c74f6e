<script setup lang="ts">
import { computed } from 'vue'
import { numberText } from '../../../core/view/numbers.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import { nameOf } from './row-words.ts'

/** What the player has at one row, in numbers: the row under the pointer, else the active one. */
const props = defineProps<{ row: SheetRow | undefined; index: number; lanes: DrawnLane[] }>()

const name = computed(() => (props.row ? nameOf(props.row).name : ''))
const short = (n: number) => numberText(Math.round(n * 100) / 100)
const values = computed(() => props.lanes.flatMap((lane) => {
  const point = lane.line?.at(props.index)
  if (!point) return []
  const about = point.isAbout ? 'about ' : ''
  const band = point.low === point.high ? [] : [`${about}${short(point.low)} to ${short(point.high)}`]
  const bounds = point.least === point.most || !lane.wide ? [] : [`at the least ${about}${short(point.least)}, at the most ${about}${short(point.most)}`]
  const range = band.length + bounds.length ? ` (${[...band, ...bounds].join('; ')})` : ''
  return [{ id: lane.id, name: lane.name, text: `${short(point.to)}${range}${point.lost > 0 ? `, ${short(point.lost)} XP lost` : ''}` }]
}))
/** Why there are no numbers. */
const untold = computed(() => {
  const { row } = props
  if (!row) return 'A row under the pointer, or the active one, is read out here.'
  if (row.type === 'heading') return row.hint
  return row.type === 'gate' && row.gate.place === null ? 'It stands in no place; what the player has when it is due is told beside.' : 'The route does not come here.'
})
</script>

<template>
  <p id="lane-readout" class="readout" data-test="readout">
    <template v-if="values.length"><span class="soft">after {{ name }}:</span> <span v-for="value in values" :key="value.id">{{ value.name }} <b>{{ value.text }}</b></span></template>
    <span v-else class="soft">{{ untold }}</span>
  </p>
</template>

<style scoped>
.readout { border-top: 1px solid var(--line); display: flex; flex: none; flex-wrap: wrap; font-size: 12px; gap: 0 12px; margin: 0; max-height: 42px; min-height: 23px; overflow: hidden; padding: 2px 12px; }
</style>
