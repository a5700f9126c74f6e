<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import LaneChooser from './LaneChooser.vue'
import type { LaneChoice } from './use-lane-choice.ts'

/** Names and axes over the lanes. A click on a narrow one's head makes it the wide one; the wide one's axis is zoomed and dragged. */
const props = defineProps<{ lanes: DrawnLane[]; choice: LaneChoice; crowded: { id: string; name: string }[]; width: number }>()
const emit = defineEmits<{ zoom: [by: number, at?: number]; pan: [lane: DrawnLane, by: number] }>()

/** What stands at the right of the wide lane's name, in pixels. */
const toolsWidth = 172

const heads = ref<HTMLElement>()
const chooser = ref<InstanceType<typeof LaneChooser>[]>([])
let panning: { lane: DrawnLane; x: number } | null = null

function amountAt(lane: DrawnLane, clientX: number): number {
  return lane.scale.invert(clientX - heads.value!.getBoundingClientRect().left)
}

function onWheel(event: WheelEvent, lane: DrawnLane): void {
  emit('zoom', event.deltaY < 0 ? 1.25 : 0.8, amountAt(lane, event.clientX))
}

useEventListener('pointermove', (event: PointerEvent) => {
  if (!panning) return
  const { lane, x } = panning
  emit('pan', lane, amountAt(lane, x) - amountAt(lane, event.clientX))
  panning.x = event.clientX
})
useEventListener(['pointerup', 'pointercancel'], () => (panning = null))

const wideOf = () => props.lanes.find((lane) => lane.wide)
defineExpose({ chooseLanes: () => chooser.value[0]?.toggle(), wideOf })
</script>

<template>
  <div ref="heads" class="heads" :style="{ width: `${width}px` }">
    <button
      v-for="lane in lanes" :key="lane.id" class="head" :class="{ wide: lane.wide }" :style="{ left: `${lane.left}px`, width: lane.wide ? `${lane.width - toolsWidth}px` : `${lane.width}px` }"
      :title="lane.wide ? lane.name : `Show ${lane.name} wide`" @click="choice.widen(lane.id)"
    >{{ lane.name }}</button>
    <span v-for="lane in lanes.filter((one) => one.wide)" :key="`zoom ${lane.id}`" class="tools" :style="{ left: `${lane.left + lane.width - toolsWidth}px` }">
      <LaneChooser ref="chooser" :choice="choice" :crowded="crowded" />
      <button class="quiet" aria-label="Zoom out" title="Zoom out (-)" :disabled="!lane.zoomed" @click="emit('zoom', 0.5)">−</button>
      <button class="quiet" aria-label="Zoom in" title="Zoom in (+)" @click="emit('zoom', 2)">+</button>
      <button class="quiet" aria-label="Show all of the scale" title="The whole scale (0)" :disabled="!lane.zoomed" @click="emit('zoom', 0)">all</button>
    </span>
    <svg :width="width" height="56" aria-hidden="true">
      <template v-for="lane in lanes" :key="lane.id">
        <line :x1="lane.left" y1="0" :x2="lane.left" y2="56" class="edge" />
        <rect v-if="lane.wide" class="axis" :class="{ zoomed: lane.zoomed }" :x="lane.left" y="26" :width="lane.width" height="30" @wheel.prevent="onWheel($event, lane)" @pointerdown="lane.zoomed && (panning = { lane, x: $event.clientX })"><title>Turn the wheel to zoom{{ lane.zoomed ? ', drag to move' : '' }}</title></rect>
        <g v-for="tick in lane.ticks" :key="tick.x" class="tick">
          <text :x="tick.x" :y="lane.wide && tick.under ? 39 : 50" class="label">{{ tick.label }}</text>
          <text v-if="tick.under" :x="tick.x" y="52" class="under">{{ tick.under }}</text>
        </g>
      </template>
    </svg>
  </div>
</template>

<style scoped>
.heads { flex: none; position: relative; }
svg { display: block; overflow: visible; }
.head { background: none; border: 0; color: var(--ink); cursor: pointer; font-size: 11px; font-weight: 600; line-height: 1.15; max-height: 39px; overflow: hidden; overflow-wrap: anywhere; padding: 3px 2px 0 6px; position: absolute; text-align: left; top: 0; z-index: 1; }
.head.wide { font-size: 13px; padding: 6px 4px 0 12px; text-overflow: ellipsis; white-space: nowrap; }
.tools { display: flex; justify-content: end; position: absolute; top: 1px; width: 170px; z-index: 1; }
.tools .quiet { font-size: 12px; padding: 4px 6px; }
.edge { stroke: var(--line); }
.tick { pointer-events: none; }
.label { fill: var(--ink); font-size: 11px; text-anchor: middle; }
.under { fill: var(--soft); font-size: 10px; text-anchor: middle; }
.axis { fill: transparent; }
.axis.zoomed { cursor: grab; fill: color-mix(in srgb, var(--path) 8%, transparent); }
</style>
