/** Whether what is told of a gate or a stop is what was told of it before: tens of thousands are compared after each edit of a large plan. */
import { equal } from '../change/diff.ts'
import type { ComparisonResult, GateResult, Quantiles, StopRef, StopResult } from '../check/result.ts'
import { sameList } from '../plan/same-list.ts'

export function sameGate(a: GateResult, b: GateResult): boolean {
  return (
    a === b ||
    (a.gate === b.gate && a.verdict === b.verdict && a.p === b.p && a.exact === b.exact && a.opened === b.opened && a.ready === b.ready && a.wait === b.wait && a.error === b.error &&
      sameRef(a.met, b.met) && sameRef(a.due, b.due) && sameList(a.interval ?? [], b.interval ?? []) &&
      sameEach(a.comparisons, b.comparisons, sameComparison) && sameEach(a.from, b.from, equal) && sameEach(a.lost, b.lost, equal) && sameEach(a.debt, b.debt, equal))
  )
}

export function sameStop(a: StopResult, b: StopResult): boolean {
  return a === b || (a.place === b.place && a.minutes === b.minutes && sameById(a.tallies, b.tallies) && sameById(a.levels, b.levels) && sameById(a.positions, b.positions))
}

function sameComparison(a: ComparisonResult, b: ComparisonResult): boolean {
  return a.text === b.text && a.need === b.need && a.margin === b.margin && a.holds === b.holds && a.slack === b.slack && sameQuantiles(a.has, b.has)
}

function sameQuantiles(a: Quantiles | null, b: Quantiles | null): boolean {
  return a === b || (a !== null && b !== null && a.median === b.median && a.min === b.min && a.q05 === b.q05 && a.q95 === b.q95 && a.max === b.max)
}

function sameRef(a: StopRef | null, b: StopRef | null): boolean {
  return a === b || (a !== null && b !== null && a.stop === b.stop && a.place === b.place)
}

function sameEach<T>(a: readonly T[], b: readonly T[], isSame: (one: T, other: T) => boolean): boolean {
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (!isSame(a[i]!, b[i]!)) return false
  return true
}

function sameById(a: Record<string, Quantiles>, b: Record<string, Quantiles>): boolean {
  let more = 0
  for (const id in a) {
    if (!(id in b) || !sameQuantiles(a[id]!, b[id]!)) return false
    more++
  }
  for (const _ in b) more--
  return more === 0
}
