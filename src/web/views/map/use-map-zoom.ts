import { select } from 'd3-selection'
import { zoom as d3zoom, zoomIdentity, type ZoomTransform } from 'd3-zoom'
import { onMounted, ref, watch, type Ref } from 'vue'
import type { MapLayout } from '../../../core/view/map-layout.ts'

/** As much as can be read, and as little as shows all. */
const [readable, smallest] = [0.8, 0.04]

/** How large the map is drawn, and which part of it is in sight. */
export function useMapZoom(svg: Ref<SVGSVGElement | undefined>, layout: Readonly<Ref<MapLayout | null>>) {
  const transform = ref<ZoomTransform>(zoomIdentity)
  const zoomer = d3zoom<SVGSVGElement, unknown>().scaleExtent([smallest, 3]).on('zoom', (event: { transform: ZoomTransform }) => (transform.value = event.transform))
  onMounted(() => svg.value && select(svg.value).call(zoomer).on('dblclick.zoom', null))
  watch(svg, (now) => now && select(now).call(zoomer).on('dblclick.zoom', null))

  /** All of it, however small. */
  function fit(): void {
    frame(smallest)
  }

  /** As much as can be read: a long plan begins at its top left. */
  function begin(): void {
    frame(readable)
  }

  function frame(least: number): void {
    if (!svg.value || !layout.value) return
    const { clientWidth, clientHeight } = svg.value
    const scale = Math.max(least, Math.min(1.2, clientWidth / layout.value.width, clientHeight / (layout.value.height + 40)))
    const spare = (room: number, size: number) => Math.max(0, (room - size * scale) / 2)
    select(svg.value).call(zoomer.transform, zoomIdentity.translate(spare(clientWidth, layout.value.width), spare(clientHeight, layout.value.height)).scale(scale))
  }

  function zoomBy(by: number): void {
    if (svg.value) select(svg.value).call(zoomer.scaleBy, by)
  }

  /** Brings a place into sight. */
  function show(key: string): void {
    const spot = layout.value?.places[key]
    if (!spot || !svg.value) return
    const [x, y] = transform.value.apply([spot.x, spot.y])
    const { clientWidth, clientHeight } = svg.value
    if (x > 80 && x < clientWidth - 80 && y > 40 && y < clientHeight - 40) return
    select(svg.value).call(zoomer.translateTo, spot.x, spot.y)
  }

  return { transform, fit, begin, zoomBy, show }
}
