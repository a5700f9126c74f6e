import { labelOf } from '../../plan/label-of.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { askedNumbers } from './asked-numbers.ts'
import { finding, type FindingRule } from './finding-rule.ts'
import { mostThereIs } from './most-there-is.ts'

/** reset-starves: more of a tally that resets at each place than any one place gives. */
export const resetStarves: FindingRule = ({ game, held, reach }) => {
  const mostOf = mostThereIs({ game, held })
  return reach.closed.flatMap(({ gate: id }) => {
    const gate = game.gates.find((g) => g.id === id)!
    return askedNumbers(game, gate).flatMap(({ of, op, number, text }): Finding[] => {
      if (!('tally' in of) || game.tallies[of.tally]!.resets !== 'place' || !op.startsWith('>')) return []
      const most = mostOf(of)
      return most < number ? [finding('reset-starves', 'fault', 'gate', gate.id, `${labelOf(gate)} asks for ${text}, which starts anew in each place, and no place gives more than ${numberText(most)}.`)] : []
    })
  })
}
