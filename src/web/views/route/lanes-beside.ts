import type { InjectionKey } from 'vue'
import type { DrawnLane } from '../../draw/lane-scale.ts'

/** The lanes beside a row, by its index. What draws them asks for them itself: an edit that alters them alone draws nothing else of the row anew. */
export const lanesBeside: InjectionKey<(index: number) => readonly DrawnLane[]> = Symbol('the lanes beside a row')
