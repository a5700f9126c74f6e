import { labelOf } from '../../plan/label-of.ts'
import { fromUnits } from '../../rules/compile.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { askedNumbers, type AskedNumber } from './asked-numbers.ts'
import { finding, type FindingContext, type FindingRule } from './finding-rule.ts'

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

/** The most that there can be of a tally, or the highest level of a character, anywhere and with repeats. */
function mostThereIs({ game, held }: FindingContext): (of: AskedNumber['of']) => number {
  const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
  const known = new Map<string, number>()
  return (of) => {
    const key = JSON.stringify(of)
    if (!known.has(key)) known.set(key, Math.max(...places.map((p) => ('tally' in of ? fromUnits(held.stateAt(p).tallies[of.tally]!) : held.stateAt(p).level[of.character]!)), 0))
    return known.get(key)!
  }
}
