import type { ComparisonResult, GateResult, Verdict } from '../check/result.ts'
import { percentText, shortMarginText, shortNumberText } from './numbers.ts'

/** The words for each verdict: in a count, and of one gate. */
export const verdictWords = {
  clear: { one: 'clear', many: 'clear', means: 'opens for everyone of this kind' },
  depends: { one: 'depends', many: 'depend', means: 'opens for some of them' },
  short: { one: 'short', many: 'short', means: 'opens only with more units than were placed' },
  sealed: { one: 'sealed', many: 'sealed', means: 'no number of units opens it when it is due' },
  off_route: { one: 'off the route', many: 'off the route', means: 'this route neither meets nor needs it' },
} satisfies Record<Verdict, { one: string; many: string; means: string }>

export const verdictOrder: readonly Verdict[] = ['clear', 'depends', 'short', 'sealed', 'off_route']

/** A verdict in a few characters, for a column of them: `+1`, `61 %`, `−2`, `14 of 15`, `sealed`. */
export function verdictShort(gate: GateResult): string {
  if (gate.error) return 'error'
  switch (gate.verdict) {
    case 'off_route':
      return 'off'
    case 'depends':
      return percentText(gate.p, false)
    case 'clear': {
      const rooms = gate.comparisons.filter((c) => c.margin !== null && c.holds === 1).map((c) => Math.abs(c.margin!))
      return rooms.length ? shortMarginText(Math.min(...rooms)) : 'open'
    }
    case 'short':
    case 'sealed': {
      const unmet = worstUnmet(gate)
      if (!gate.met || !unmet || unmet.margin === null || unmet.margin === 0) return gate.verdict
      return gate.verdict === 'short' ? shortMarginText(unmet.margin) : `${shortNumberText(unmet.has!.median)} of ${shortNumberText(unmet.need!)}`
    }
  }
}

/** The unmet comparison that is farthest from holding, relative to what it needs. */
export function worstUnmet(gate: GateResult): ComparisonResult | undefined {
  const unmet = gate.comparisons.filter((c) => c.holds < 1)
  const distance = (c: ComparisonResult) => Math.abs(c.margin ?? 0) / Math.max(1, Math.abs(c.need ?? 1))
  return unmet.sort((a, b) => distance(b) - distance(a))[0]
}
