import type { Finding } from '../result.ts'
import { type FindingContext, findingIds, type FindingRule } from './finding-rule.ts'
import { gateVerdicts } from './gate-verdicts.ts'
import { unused, zeroYield } from './leftovers.ts'
import { capBelowGate, curveDip, curveError, forms, levelLag, rewardChain, xpLost } from './levels.ts'
import { lockouts, needsRepeats, rings, unreachable } from './reached.ts'
import { drought, pileUp } from './rhythm.ts'
import { noText, textMismatch } from './texts.ts'
import { loose, offByOne, resetStarves, resetSurprise, sideNeeded, unaffordable } from './thresholds.ts'
import { deadEnd, oneWayLoss } from './ways.ts'

/** Every kind of finding, in the order of docs/checks.md 4. */
const rules: readonly FindingRule[] = [
  gateVerdicts, unreachable, needsRepeats, rings, lockouts, offByOne, capBelowGate, xpLost, levelLag, curveError, curveDip, forms, resetStarves, resetSurprise,
  rewardChain, textMismatch, noText, deadEnd, oneWayLoss, unaffordable, sideNeeded, loose, drought, pileUp, unused, zeroYield,
]

const severities: readonly Finding['severity'][] = ['fault', 'risk', 'note']

/** All findings of a plan, the gravest first (docs/checks.md 4). */
export function allFindings(context: FindingContext): Finding[] {
  const rank = (found: Finding) => severities.indexOf(found.severity) * 100 + findingIds.indexOf(found.id as (typeof findingIds)[number])
  return rules.flatMap((rule) => rule(context)).sort((a, b) => rank(a) - rank(b))
}
