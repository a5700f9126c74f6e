import { watch, type Ref } from 'vue'
import type { DrawnLane } from '../../draw/lane-scale.ts'
import { useCheckStore } from '../../stores/check.ts'
import type { LaneChoice } from './use-lane-choice.ts'

const mostTimes = 64

/** How far lanes are zoomed into, and where. */
export function useLaneZoom(lanes: Readonly<Ref<readonly DrawnLane[]>>, choice: LaneChoice, activeIndex: Readonly<Ref<number>>) {
  const check = useCheckStore()

  /** Zooms the wide lane; 0 shows all of it. Without an amount to keep in place it is the active row's. */
  function zoom(by: number, at?: number): void {
    const lane = lanes.value.find((one) => one.wide)
    if (!lane) return
    if (by === 0) return choice.setZoom(lane.id, null)
    const [low, high] = lane.scale.domain() as [number, number]
    const before = choice.zoomOf(lane.id)
    const here = at ?? lane.line?.at(activeIndex.value)?.to ?? (low + high) / 2
    const times = Math.min(mostTimes, Math.max(1, (before?.times ?? 1) * by))
    // What is under the pointer stays there.
    const middle = at === undefined ? here : here + ((low + high) / 2 - here) / by
    choice.setZoom(lane.id, times > 1.01 ? { times, at: middle } : null)
  }

  function pan(lane: DrawnLane, by: number): void {
    const zoomed = choice.zoomOf(lane.id)
    const [low, high] = lane.scale.domain() as [number, number]
    if (zoomed) choice.setZoom(lane.id, { ...zoomed, at: (low + high) / 2 + by })
  }

  // A zoomed lane follows the active row, so that its line is never out of sight there.
  watch([activeIndex, () => check.view], () => {
    const lane = lanes.value.find((one) => one.wide && one.zoomed)
    const at = lane?.line?.at(activeIndex.value)?.to
    const zoomed = lane && choice.zoomOf(lane.id)
    if (!lane || !zoomed || at === undefined) return
    const [low, high] = lane.scale.domain() as [number, number]
    if (at < low || at > high) choice.setZoom(lane.id, { ...zoomed, at })
  })

  return { zoom, pan }
}
