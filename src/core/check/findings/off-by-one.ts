import { labelOf } from '../../plan/label-of.ts'
import { fromUnits } from '../../rules/compile.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { askedOfTallies } from './asked-of-tallies.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** off-by-one: more than the most there is, where as much as that was meant; or a source that stops short of what a gate wants more than. */
export const offByOne: FindingRule = ({ game, held }) => {
  const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
  const most = new Map<number, number>()
  const mostOf = (tally: number) => {
    if (!most.has(tally)) most.set(tally, Math.max(...places.map((p) => fromUnits(held.stateAt(p).tallies[tally]!)), 0))
    return most.get(tally)!
  }
  return game.gates.flatMap((gate) => askedOfTallies(game, gate).filter(({ op }) => op === '>').flatMap(({ tally, number, text }): Finding[] => {
    const { id } = game.tallies[tally]!
    if (mostOf(tally) === number) return [finding('off-by-one', 'fault', 'gate', gate.id, `${labelOf(gate)} asks for ${text}, and ${numberText(number)} is the most ${id} that there can be.`)]
    const stops = game.sources.find((source) => source.yields.some((y) => y.tally === tally) && askedOfTallies(game, source).some((a) => a.tally === tally && a.op === '<' && a.number === number))
    return stops ? [finding('off-by-one', 'fault', 'gate', gate.id, `${labelOf(gate)} asks for ${text}, while ${labelOf(stops)} stops giving at ${numberText(number)}.`)] : []
  }))
}
