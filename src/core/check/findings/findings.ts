import type { Finding } from '../result.ts'
import { capBelowGate } from './cap-below-gate.ts'
import { curveDip } from './curve-dip.ts'
import { curveError } from './curve-error.ts'
import { deadEnd } from './dead-end.ts'
import { drought } from './drought.ts'
import { type FindingContext, findingIds, type FindingRule } from './finding-rule.ts'
import { forms } from './forms.ts'
import { gateVerdicts } from './gate-verdicts.ts'
import { levelLag } from './level-lag.ts'
import { lockouts } from './lockouts.ts'
import { loose } from './loose.ts'
import { needsRepeats } from './needs-repeats.ts'
import { noText } from './no-text.ts'
import { offByOne } from './off-by-one.ts'
import { oneWayLoss } from './one-way-loss.ts'
import { pileUp } from './pile-up.ts'
import { resetStarves } from './reset-starves.ts'
import { resetSurprise } from './reset-surprise.ts'
import { rewardChain } from './reward-chain.ts'
import { rings } from './rings.ts'
import { sideNeeded } from './side-needed.ts'
import { textMismatch } from './text-mismatch.ts'
import { unaffordable } from './unaffordable.ts'
import { unreachable } from './unreachable.ts'
import { unused } from './unused.ts'
import { xpLost } from './xp-lost.ts'
import { zeroYield } from './zero-yield.ts'

/** Every kind of finding, in the order of docs/checks.md 4. */
const rules: readonly FindingRule[] = [
  gateVerdicts, unreachable, needsRepeats, rings, lockouts, offByOne, capBelowGate, xpLost, levelLag, curveError, curveDip, forms, resetStarves, resetSurprise,
  rewardChain, textMismatch, noText, deadEnd, oneWayLoss, unaffordable, sideNeeded, loose, drought, pileUp, unused, zeroYield,
]

const severities: readonly Finding['severity'][] = ['fault', 'risk', 'note']

/** All findings of a plan, the gravest first (docs/checks.md 4), rule by rule: whoever has to can do something else between them. */
export function* allFindings(context: FindingContext): Generator<void, Finding[]> {
  const found: Finding[] = []
  for (const rule of rules) {
    found.push(...rule(context))
    yield
  }
  const rank = ({ severity, id }: Finding) => severities.indexOf(severity) * 100 + findingIds.indexOf(id as (typeof findingIds)[number])
  return found.sort((a, b) => rank(a) - rank(b))
}
