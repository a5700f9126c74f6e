import type { Comparison } from '../../language/operators.ts'
import { mirrored } from '../../language/operators.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { bareSide, constantOf } from '../route/comparison.ts'

/** A comparison of one bare tally, or of one character's level, with a number: what varies on the left. */
export interface AskedNumber {
  of: { tally: number } | { character: number }
  op: Comparison
  number: number
  text: string
}

export function askedNumbers(game: Game, { requires }: GameItem): AskedNumber[] {
  return requires.comparisons.flatMap((c): AskedNumber[] => {
    const of = bareSide(game, c)
    return c.constant === null || !of ? [] : [{ of, op: c.constant === 'left' ? mirrored[c.op] : c.op, number: constantOf(c), text: c.text }]
  })
}
