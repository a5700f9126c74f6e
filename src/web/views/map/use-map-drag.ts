import { useEventListener } from '@vueuse/core'
import type { ZoomTransform } from 'd3-zoom'
import { ref, type Ref } from 'vue'
import { placeSize, type MapLayout } from '../../../core/view/map-layout.ts'

interface Point {
  x: number
  y: number
}

/** So far a pointer may wander in a click. */
const clickSlack = 4

/** The place whose block a point of the map lies in. */
export function placeAt(layout: MapLayout, { x, y }: Point): string | null {
  const hit = Object.entries(layout.places).find(([, spot]) => Math.abs(spot.x - x) <= placeSize.width / 2 && Math.abs(spot.y - y) <= placeSize.height / 2)
  return hit?.[0] ?? null
}

/**
 * Dragging a place puts it elsewhere, where it stays; with Shift it draws a passage to the place where it ends. `line`: the
 * passage that is being drawn.
 */
export function useMapDrag(map: { svg: Ref<SVGSVGElement | undefined>; transform: Ref<ZoomTransform>; layout: Ref<MapLayout | null>; move: (key: string, at: Point) => void; join: (from: string, to: string) => void }) {
  const line = ref<{ from: Point; to: Point } | null>(null)
  let dragged: { key: string; joins: boolean; begun: Point; hasMoved: boolean } | null = null
  let wasDragged = false

  function pointOf(event: MouseEvent): Point {
    const box = map.svg.value!.getBoundingClientRect()
    const [x, y] = map.transform.value.invert([event.clientX - box.left, event.clientY - box.top])
    return { x, y }
  }

  function begin(event: MouseEvent, key: string): void {
    if (event.button !== 0) return
    dragged = { key, joins: event.shiftKey, begun: { x: event.clientX, y: event.clientY }, hasMoved: false }
    wasDragged = false
  }

  useEventListener(window, 'mousemove', (event) => {
    if (!dragged || !map.svg.value || !map.layout.value) return
    if (!dragged.hasMoved && Math.hypot(event.clientX - dragged.begun.x, event.clientY - dragged.begun.y) < clickSlack) return
    dragged.hasMoved = wasDragged = true
    const at = pointOf(event)
    if (dragged.joins) line.value = { from: map.layout.value.places[dragged.key]!, to: at }
    else map.move(dragged.key, at)
  })
  useEventListener(window, 'mouseup', (event) => {
    if (dragged?.joins && dragged.hasMoved && map.svg.value && map.layout.value) {
      const to = placeAt(map.layout.value, pointOf(event))
      if (to && to !== dragged.key) map.join(dragged.key, to)
    }
    dragged = null
    line.value = null
  })

  /** Whether the click that comes now ends a drag, and means nothing else. */
  const endsDrag = () => wasDragged

  return { line, begin, endsDrag, pointOf }
}
