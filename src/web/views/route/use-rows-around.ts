import { defaultRangeExtractor, type Range } from '@tanstack/vue-virtual'
import { onScopeDispose, shallowRef } from 'vue'

/** Rows drawn beyond each end of the view, so that what is scrolled to stands there already. */
const most = 8
/** Pictures after a jump until they are begun, and how many more there are in each. */
const patience = 4
const more = 4
const settled = patience + Math.ceil(most / more)

/**
 * What is drawn of the sheet so many pictures after a jump: at first the texts of the rows in view, then their lanes, then the rows
 * around. No picture is to wait for what is not looked at yet. `nextPicture` calls back before the next one.
 */
export function useRowsAround(nextPicture: (then: () => void) => unknown = requestAnimationFrame) {
  let pictures = 0
  let isWaiting = false
  let isGone = false
  let before = { startIndex: -1, endIndex: -1 }

  function rowsAt(range: Range): number[] {
    if (range.startIndex > before.endIndex || range.endIndex < before.startIndex) jump()
    before = range
    return defaultRangeExtractor({ ...range, overscan: Math.min(most, more * Math.max(0, pictures - patience)) })
  }

  function jump(): void {
    // The picture of the jump itself is still to come.
    pictures = -1
    if (!isWaiting) nextPicture(step)
    isWaiting = true
  }

  function step(): void {
    if (isGone) return
    pictures++
    if (pictures === 1 || pictures > patience) rangeExtractor.value = (range) => rowsAt(range)
    isWaiting = pictures < settled
    if (isWaiting) nextPicture(step)
  }

  /** Another one whenever more is to be drawn. */
  const rangeExtractor = shallowRef((range: Range) => rowsAt(range))
  onScopeDispose(() => (isGone = true))
  return { rangeExtractor, hasLanes: () => pictures > 0 }
}
