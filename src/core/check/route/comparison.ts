import { plainArithmetic } from '../../language/arithmetic.ts'
import { LanguageError } from '../../language/language-error.ts'
import { operators } from '../../language/operators.ts'
import type { Game, GameComparison } from '../../rules/game.ts'
import { isNamed, meaningIn } from '../../rules/meaning.ts'
import type { State } from '../../rules/state.ts'

/** The values of a comparison's sides; NaN where evaluating one fails. */
export interface Sides {
  left: number
  right: number
}

export function sidesOf(comparison: GameComparison, state: State): Sides {
  return { left: valueOf(comparison.left, state), right: valueOf(comparison.right, state) }
}

/** The value of one side; NaN where evaluating it fails. */
export function valueOf(evaluate: (state: State) => number, state: State): number {
  try {
    return evaluate(state)
  } catch (error) {
    if (error instanceof LanguageError) return Number.NaN
    throw error
  }
}

export function sidesHold(op: GameComparison['op'], { left, right }: Sides): boolean {
  if (Number.isNaN(left) || Number.isNaN(right)) return false
  return operators.binary[op].apply(plainArithmetic, left, right) === 1
}

/** The value of a comparison's constant side, which it must have; it needs no state. */
export function constantOf(comparison: GameComparison): number {
  return comparison[comparison.constant!](null as unknown as State)
}

export function comparisonHolds(comparison: GameComparison, state: State): boolean {
  return sidesHold(comparison.op, sidesOf(comparison, state))
}

/** The tally or character, by index, whose amount or level is all that one side of a comparison is. */
export type BareSide = { tally: number } | { character: number }

/** What the side that varies is, where it is no more than that; else null. */
export function bareSide(game: Game, { constant, leftNode, rightNode }: GameComparison): BareSide | null {
  if (constant === null) return null
  const side = constant === 'left' ? rightNode : leftNode
  if (!isNamed(side)) return null
  const { of, index } = meaningIn(game, side)
  if (of === 'level') return game.characters[index] ? { character: index } : null
  return of === 'tally' && index >= 0 ? { tally: index } : null
}
