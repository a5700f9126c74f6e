import type { LaneLine } from './lanes.ts'

/** From a peg that the line has not reached down to the row where it first does; to the foot where it never does. */
export interface Thread {
  row: number
  to: number
  at: number
  reached: boolean
}

export function threadOf({ to }: Pick<LaneLine, 'to'>, row: number, at: number): Thread | null {
  const here = to[row] ?? NaN
  if (Number.isNaN(here) || here >= at - 1e-9) return null
  for (let i = row + 1; i < to.length; i++) if (to[i]! >= at - 1e-9) return { row, to: i, at, reached: true }
  return { row, to: to.length - 1, at, reached: false }
}
