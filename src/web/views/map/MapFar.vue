<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import type { ZoomTransform } from 'd3-zoom'
import { onMounted, ref, watch } from 'vue'
import { placeSize, type MapLayout } from '../../../core/view/map-layout.ts'

/** The map from afar, on a canvas: thousands of places as blocks, where their words could not be read anyway. */
export interface FarPlace {
  key: string
  isOpen: boolean
  isNever: boolean
  isMarked: boolean
}
const props = defineProps<{ layout: MapLayout; places: readonly FarPlace[]; ways: readonly { path: Path2D; isOpen: boolean }[]; transform: ZoomTransform }>()
const canvas = ref<HTMLCanvasElement>()
let asked = 0

function draw(): void {
  const element = canvas.value
  const context = element?.getContext('2d')
  if (!element || !context) return
  const ratio = window.devicePixelRatio
  const { clientWidth: width, clientHeight: height } = element
  if (element.width !== width * ratio || element.height !== height * ratio) Object.assign(element, { width: width * ratio, height: height * ratio })
  const style = getComputedStyle(element)
  const colour = (name: string) => style.getPropertyValue(name)
  const { k, x, y } = props.transform
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.clearRect(0, 0, element.width, element.height)
  context.setTransform(k * ratio, 0, 0, k * ratio, x * ratio, y * ratio)
  for (const isOpen of [false, true]) {
    context.globalAlpha = isOpen ? 1 : 0.4
    context.strokeStyle = colour(isOpen ? '--path' : '--off')
    context.lineWidth = (isOpen ? 1.5 : 1) / k
    for (const way of props.ways) if (way.isOpen === isOpen) context.stroke(way.path)
  }
  context.globalAlpha = 1
  const [left, top, right, bottom] = [-x / k - placeSize.width, -y / k - placeSize.height, (width - x) / k + placeSize.width, (height - y) / k + placeSize.height]
  for (const place of props.places) {
    const spot = props.layout.places[place.key]
    if (!spot || spot.x < left || spot.x > right || spot.y < top || spot.y > bottom) continue
    context.fillStyle = colour(place.isMarked ? '--accent' : place.isNever ? '--sealed' : place.isOpen ? '--path' : '--line')
    context.fillRect(spot.x - placeSize.width / 2, spot.y - placeSize.height / 2, placeSize.width, placeSize.height)
  }
}
/** Once for each frame, however often something changes. */
function drawSoon(): void {
  if (asked) return
  asked = requestAnimationFrame(() => {
    asked = 0
    draw()
  })
}
watch(() => [props.layout, props.places, props.ways, props.transform], drawSoon)
useResizeObserver(canvas, drawSoon)
onMounted(drawSoon)
</script>

<template>
  <canvas ref="canvas" class="far" aria-hidden="true" data-test="far map" />
</template>

<style scoped>
.far { height: 100%; inset: 0; pointer-events: none; position: absolute; width: 100%; }
</style>
