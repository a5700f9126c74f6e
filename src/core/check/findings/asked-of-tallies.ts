import type { Comparison } from '../../language/operators.ts'
import { mirrored } from '../../language/operators.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { bareSide, constantOf } from '../route/comparison.ts'

interface Asked {
  tally: number
  op: Comparison
  number: number
  text: string
}

/** Comparisons of one bare tally with a number, the tally on the left. */
export function askedOfTallies(game: Game, { requires }: GameItem): Asked[] {
  return requires.comparisons.flatMap((c): Asked[] => {
    const read = bareSide(game, c)
    if (c.constant === null || !read || !('tally' in read)) return []
    return [{ tally: read.tally, op: c.constant === 'left' ? mirrored[c.op] : c.op, number: constantOf(c), text: c.text }]
  })
}
