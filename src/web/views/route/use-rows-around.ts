import { defaultRangeExtractor, type Range } from '@tanstack/vue-virtual'
import { onScopeDispose, shallowRef } from 'vue'

/** Rows drawn beyond each end of the view, so that what is scrolled to stands there already. */
const most = 8
/** Pictures after a jump until they are begun, and how many more there are in each. */
const patience = 4
const more = 2
const settled = patience + Math.ceil(most / more)
/** Pictures for which they wait at most while there is something else to do. */
const longest = 15

/**
 * What is drawn of the sheet so many pictures after a jump: at first the texts of the rows in view, then their lanes, then the rows
 * around. No picture is to wait for what is not looked at yet, and so nothing else that is to be drawn: `isBusy`. `nextPicture` calls back
 * before the next one.
 */
export function useRowsAround(isBusy: () => boolean, nextPicture: (then: () => void) => unknown = requestAnimationFrame) {
  let pictures = 0
  let waited = 0
  let wasBusy = false
  let isWaiting = false
  let isGone = false
  let before = { startIndex: -1, endIndex: -1 }

  function rowsAt(range: Range): number[] {
    if (range.startIndex > before.endIndex || range.endIndex < before.startIndex) jump()
    before = range
    return defaultRangeExtractor({ ...range, overscan: Math.min(most, more * Math.max(0, pictures - patience)) })
  }

  /** Other rows come into view than those that stood there. */
  function jump(): void {
    // The picture of the jump itself is still to come.
    pictures = -1
    waited = 0
    if (!isWaiting) nextPicture(step)
    isWaiting = true
  }

  function step(): void {
    if (isGone) return
    if (pictures >= patience && mustWait()) return void nextPicture(step)
    pictures++
    if (pictures === 1 || pictures > patience) rangeExtractor.value = (range) => rowsAt(range)
    isWaiting = pictures < settled
    if (isWaiting) nextPicture(step)
  }

  /** Also for the picture in which what was done is shown. */
  function mustWait(): boolean {
    const is = isBusy()
    const must = is || wasBusy
    wasBusy = is
    return must && waited++ < longest
  }

  /** Another one whenever more is to be drawn. */
  const rangeExtractor = shallowRef((range: Range) => rowsAt(range))
  const isInView = (index: number) => before.startIndex <= index && index <= before.endIndex
  onScopeDispose(() => (isGone = true))
  return { rangeExtractor, hasLanes: () => pictures > 0, isInView, jump }
}
