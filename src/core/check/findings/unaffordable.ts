import { fromUnits } from '../../rules/compile.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** unaffordable: the sum of all main costs of a currency is more than can ever be earned. */
export const unaffordable: FindingRule = ({ game, held }) =>
  game.tallies.flatMap((tally, t): Finding[] => {
    const costs = game.gates.filter((gate) => gate.main).flatMap((gate) => gate.costs).filter((cost) => cost.tally === t)
    const sum = costs.reduce((all, cost) => all + cost.amount, 0)
    if (sum === 0 || game.start < 0) return []
    // What is clamped can be earned again once it is spent, so only sums that were never clamped tell.
    const earned = held.earned(t)
    const floor = tally.min === -Infinity ? -Infinity : tally.min
    return tally.start + earned - floor < sum ? [finding('unaffordable', 'fault', 'tally', tally.id, `All main gates together cost ${numberText(fromUnits(sum))} ${tally.id}, and ${numberText(fromUnits(tally.start + earned))} can be had in all.`)] : []
  })
