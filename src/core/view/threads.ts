import { remembered } from '../plan/remembered.ts'
import type { ShownLine } from './lanes.ts'

/** From a peg that the line has not reached down to the row where it first does; to the foot where it never does. */
export interface Thread {
  row: number
  to: number
  at: number
  reached: boolean
}

/** By line: the most that it comes to from each row on. */
const known = new WeakMap<Float64Array, Float64Array>()

export function threadOf({ to }: Pick<ShownLine, 'to'>, row: number, at: number): Thread | null {
  const here = to[row] ?? NaN
  if (Number.isNaN(here) || here >= at - 1e-9) return null
  // In a large plan many gates wait for what never comes: each of them is told at once.
  const most = remembered(known, to, () => mostFromOn(to))
  const isReached = row + 1 < to.length && most[row + 1]! >= at - 1e-9
  if (!isReached) return { row, to: to.length - 1, at, reached: false }
  let i = row + 1
  while (!(to[i]! >= at - 1e-9)) i++
  return { row, to: i, at, reached: true }
}

function mostFromOn(to: Float64Array): Float64Array {
  const most = new Float64Array(to.length)
  let highest = -Infinity
  for (let i = to.length - 1; i >= 0; i--) {
    // Rows to which the route does not come have no amount.
    if (to[i]! > highest) highest = to[i]!
    most[i] = highest
  }
  return most
}
