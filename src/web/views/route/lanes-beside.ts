import type { InjectionKey } from 'vue'
import type { DrawnLane } from '../../draw/lane-scale.ts'

/** The lanes beside a row, by its index. What draws them asks for them itself: an edit that alters them alone draws nothing else of the row anew. */
export const lanesBeside: InjectionKey<(index: number) => readonly DrawnLane[]> = Symbol('the lanes beside a row')

/** For rows in view what there is now, for those around them what there was when all last came to rest. */
export function inViewFirst<T>(now: () => T, atRest: () => T, isInView: (index: number) => boolean): (index: number) => T {
  return (index) => {
    // Whoever asks follows both: a row that has come into view meanwhile is to change with the others.
    const [shown, around] = [now(), atRest()]
    return isInView(index) ? shown : around
  }
}
