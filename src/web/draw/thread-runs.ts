import type { Thread } from '../../core/view/threads.ts'
import { sameFields } from '../stable.ts'
import type { DrawnLane } from './lane-scale.ts'

/** Threads that run down the same line of pixels, drawn as one: from where the first begins to where the last ends. */
export interface ThreadRun {
  x: number
  row: number
  to: number
  /** Whether the line gets there in the end. */
  reached: boolean
}

const noRuns: readonly ThreadRun[] = []

/**
 * What runs through each row of all threads. However many gates wait for the same, no more is drawn than there is room for; rows whose
 * runs are as they were before have the same list again.
 */
export class ThreadRuns {
  private readonly runs: ThreadRun[] = []
  /** By lane and pixel the run that was begun last. */
  private readonly last = new Map<string, ThreadRun>()
  private readonly byRow = new Map<number, readonly ThreadRun[]>()
  private readonly before: ReadonlyMap<number, readonly ThreadRun[]>

  constructor(before?: ThreadRuns) {
    this.before = before?.byRow ?? new Map<number, readonly ThreadRun[]>()
  }

  /** Threads are added in the order of the rows that they begin in. */
  add({ id, left, width, scale }: DrawnLane, { row, to, at, reached }: Thread): void {
    const x = scale(at)
    if (x < left || x > left + width) return
    const column = `${id} ${Math.round(x)}`
    const above = this.last.get(column)
    if (above && row <= above.to) {
      if (to > above.to) Object.assign(above, { to, reached })
      return
    }
    const run = { x, row, to, reached }
    this.runs.push(run)
    this.last.set(column, run)
  }

  /** Those that begin, pass or end in a row. */
  at(row: number): readonly ThreadRun[] {
    const known = this.byRow.get(row)
    if (known) return known
    const found = this.runs.filter((run) => run.row <= row && row <= run.to)
    const before = this.before.get(row)
    const isAlike = before?.length === found.length && found.every((run, i) => sameFields(run, before[i]!))
    const runs = isAlike ? before! : found.length ? found : noRuns
    this.byRow.set(row, runs)
    return runs
  }
}
