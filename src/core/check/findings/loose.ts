import { labelOf } from '../../plan/label-of.ts'
import type { ComparisonResult, Finding } from '../result.ts'
import { seenOf, type Seen } from './seen.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** How much of its threshold a comparison has to spare, as a share. */
function roomOf({ holds, slack, need }: ComparisonResult): number {
  return holds === 1 && slack !== null && need ? slack / Math.abs(need) : 0
}

/** loose: every kind of player passes it with more than a third of its threshold to spare. */
export const loose: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate, i): Finding[] => {
    const seen = seenOf(routes, i).filter(({ gate: { verdict } }) => verdict !== 'off_route')
    const isLoose = ({ gate: { verdict, comparisons } }: Seen) => verdict === 'clear' && comparisons.length > 0 && comparisons.every((one) => roomOf(one) > 1 / 3)
    if (!seen.length || !seen.every(isLoose)) return []
    const least = Math.min(...seen.flatMap(({ gate: { comparisons } }) => comparisons.map(roomOf)))
    return [finding('loose', 'note', 'gate', gate.id, `${labelOf(gate)} asks for ${gate.requires.text || 'its cost'}, and everyone has at least ${Math.floor(least * 100)} % more: no player will feel it.`)]
  })
