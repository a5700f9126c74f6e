import type { StopResult } from '../check/result.ts'
import type { Curve } from '../plan/curve.ts'
import { labelOf } from '../plan/label-of.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { wholeFrom } from '../plan/source.ts'
import { curveValues } from '../rules/curve-values.ts'

/** One step of a curve, from a level to the next. XP as in the plan. */
export interface CurveStep {
  from: number
  to: number
  /** XP for this step alone, and from the first level on. */
  step: number
  total: number
  /** This step over the one before; null for the first. */
  growth: number | null
}

/** The steps of a curve, as far as its values can be made. */
export function curveSteps(curve: Curve): CurveStep[] {
  const steps: CurveStep[] = []
  let total = 0
  for (const [i, value] of curveValues(curve).values.entries()) {
    const xp = value.toNumber()
    if (!Number.isFinite(xp)) break
    const step = tidy(curve.counts === 'total' ? xp - total : xp)
    total = tidy(total + step)
    const before = steps.at(-1)?.step
    steps.push({ from: curve.firstLevel + i, to: curve.firstLevel + i + 1, step, total, growth: before ? step / before : null })
  }
  return steps
}

/** What a unit of XP is counted in: so much of it is one. */
export interface XpUnit {
  id: string
  name: string
  xp: number
}

/** Sources that give an experience tally, each as a unit of it; the middle of what a range gives. */
export function xpUnits(records: Records, tally: string): XpUnit[] {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  return inOrder(records, 'source').flatMap((row) => {
    const { yields } = wholeOf(row)
    const xp = yields.reduce((sum, y) => (y.tally === tally ? sum + (y.min + y.max) / 2 : sum), 0)
    return xp > 0 ? [{ id: row.id, name: labelOf(row), xp }] : []
  })
}

/** The stop at which half of such players have reached a level; null: on this route they do not. */
export function stopReached(stops: readonly StopResult[], character: string, level: number): number | null {
  const at = stops.findIndex((stop) => (stop.levels[character]?.median ?? -Infinity) >= level)
  return at < 0 ? null : at
}

function tidy(n: number): number {
  return Math.round(n * 10_000) / 10_000
}
