import { labelOf } from '../../plan/label-of.ts'
import { fromUnits } from '../../rules/compile.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { askedNumbers } from './asked-numbers.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** reset-starves: more of a tally that resets at each place than any one place gives. */
export const resetStarves: FindingRule = ({ game, held, reach }) =>
  reach.closed.flatMap(({ gate: id }) => {
    const gate = game.gates.find((g) => g.id === id)!
    return askedNumbers(game, gate).flatMap(({ of, op, number, text }): Finding[] => {
      if (!('tally' in of) || game.tallies[of.tally]!.resets !== 'place' || !op.startsWith('>')) return []
      const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
      const most = Math.max(...places.map((p) => fromUnits(held.stateAt(p).tallies[of.tally]!)), 0)
      return most < number ? [finding('reset-starves', 'fault', 'gate', gate.id, `${labelOf(gate)} asks for ${text}, which starts anew in each place, and no place gives more than ${numberText(most)}.`)] : []
    })
  })
