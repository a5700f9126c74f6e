import { fromUnits } from '../../rules/compile.ts'
import type { AskedNumber } from './asked-numbers.ts'
import type { FindingContext } from './finding-rule.ts'

/** The most that there can be of a tally, or the highest level of a character, in any place and with repeats. */
export function mostThereIs({ game, held }: Pick<FindingContext, 'game' | 'held'>): (of: AskedNumber['of']) => number {
  const places = game.places.flatMap((_, p) => (held.has('places', p) ? [p] : []))
  const known = new Map<string, number>()
  return (of) => {
    const key = JSON.stringify(of)
    if (!known.has(key)) known.set(key, Math.max(...places.map((p) => ('tally' in of ? fromUnits(held.stateAt(p).tallies[of.tally]!) : held.stateAt(p).level[of.character]!)), 0))
    return known.get(key)!
  }
}
