import type { LanePoint } from './lanes.ts'

/** From a peg that the line has not reached down to the row where it first does; to the foot where it never does. */
export interface Thread {
  row: number
  to: number
  at: number
  reached: boolean
}

export function threadOf(points: readonly (LanePoint | null)[], row: number, at: number): Thread | null {
  const here = points[row]
  if (!here || here.to >= at - 1e-9) return null
  for (let i = row + 1; i < points.length; i++) {
    const point = points[i]
    if (point && point.to >= at - 1e-9) return { row, to: i, at, reached: true }
  }
  return { row, to: points.length - 1, at, reached: false }
}
