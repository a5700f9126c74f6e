import { isTrouble, type GateResult, type Verdict } from '../check/result.ts'
import type { GateRow } from './sheet.ts'
import { verdictOrder } from './verdict-text.ts'

/** Marks for more gates than this would run into each other: then only those in trouble are marked. */
const roomFor = 150
/** Marks closer than this, in pixels, cannot be told apart: one stands for all of them. */
const apart = 3

/** A mark of one or several gates, at the first of their rows. */
export interface RailMark {
  row: number
  y: number
  verdict: Verdict
}

/** Where rows stand on the rail, in pixels from its top. */
export function railY(row: number, rows: number, height: number): number {
  return 4 + (row / Math.max(1, rows)) * (height - 8)
}

/** The gates of a sheet as marks on a rail of some height, each with the worst verdict of those that it stands for. */
export function railMarks(gates: readonly GateRow[], results: ReadonlyMap<string, GateResult>, rows: number, height: number): RailMark[] {
  const marks: RailMark[] = []
  for (const { row, gate } of gates) {
    const verdict = results.get(gate.id)?.verdict ?? 'off_route'
    if (gates.length > roomFor && !isTrouble(verdict)) continue
    const y = railY(row, rows, height)
    const last = marks.at(-1)
    if (gates.length <= roomFor || !last || y - last.y >= apart) marks.push({ row, y, verdict })
    else if (verdictOrder.indexOf(verdict) > verdictOrder.indexOf(last.verdict)) last.verdict = verdict
  }
  return marks
}
