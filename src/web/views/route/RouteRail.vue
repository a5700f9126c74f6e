<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { railMarks, railY } from '../../../core/view/rail.ts'
import type { GateRow } from '../../../core/view/sheet.ts'
import { useCheckStore } from '../../stores/check.ts'

/** The whole route at the right edge: a mark for every gate, or for those in trouble, a window for what is on the screen. */
const props = defineProps<{ gates: readonly GateRow[]; rows: number; first: number; last: number }>()
const emit = defineEmits<{ go: [index: number] }>()

const check = useCheckStore()
const rail = ref<SVGSVGElement>()
const { height } = useElementSize(rail)
const y = (index: number) => railY(index, props.rows, height.value)
const marks = computed(() => railMarks(props.gates, check.gatesById, props.rows, height.value))

function go(event: MouseEvent): void {
  const top = rail.value!.getBoundingClientRect().top
  emit('go', Math.round(((event.clientY - top - 4) / (height.value - 8)) * props.rows))
}
</script>

<template>
  <svg ref="rail" class="rail" width="26" height="100%" aria-hidden="true" @mousedown="go">
    <rect v-for="mark in marks" :key="mark.row" x="8" :y="mark.y" width="10" height="2.5" :class="`verdict-${mark.verdict}`" fill="currentColor" />
    <rect x="4" :y="y(first)" width="18" :height="Math.max(10, y(last + 1) - y(first))" rx="3" class="window" />
  </svg>
</template>

<style scoped>
.rail { border-left: 1px solid var(--line); cursor: pointer; flex: none; }
.window { fill: color-mix(in srgb, var(--path) 14%, transparent); stroke: var(--path); }
</style>
