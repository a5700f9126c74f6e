import { labelOf } from '../../plan/label-of.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { askedNumbers, type AskedNumber } from './asked-numbers.ts'
import { finding, type FindingRule } from './finding-rule.ts'
import { mostThereIs } from './most-there-is.ts'

/** off-by-one: more than the most there is, where as much as that was meant; or a source that stops short of what a gate wants more than. */
export const offByOne: FindingRule = (context) => {
  const { game } = context
  const mostOf = mostThereIs(context)
  return game.gates.flatMap((gate) => askedNumbers(game, gate).filter(({ op }) => op === '>').flatMap(({ of, number, text }): Finding[] => {
    const asks = `${labelOf(gate)} asks for ${text}`
    const most = 'tally' in of ? `the most ${game.tallies[of.tally]!.id}` : `the highest level of ${labelOf(game.characters[of.character]!)}`
    if (mostOf(of) === number) return [finding('off-by-one', 'fault', 'gate', gate.id, `${asks}, and ${numberText(number)} is ${most} that there can be.`)]
    if (!('tally' in of)) return []
    const isShort = (asked: AskedNumber) => 'tally' in asked.of && asked.of.tally === of.tally && asked.op === '<' && asked.number === number
    const stops = game.sources.find((source) => source.yields.some((y) => y.tally === of.tally) && askedNumbers(game, source).some(isShort))
    return stops ? [finding('off-by-one', 'fault', 'gate', gate.id, `${asks}, while ${labelOf(stops)} stops giving at ${numberText(number)}.`)] : []
  }))
}
