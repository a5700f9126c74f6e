import { plainArithmetic } from '../../language/arithmetic.ts'
import { LanguageError } from '../../language/language-error.ts'
import { operators } from '../../language/operators.ts'
import type { GameComparison } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'

/** The values of a comparison's sides; NaN where evaluating one fails. */
export interface Sides {
  left: number
  right: number
}

export function sidesOf(comparison: GameComparison, state: State): Sides {
  return { left: valueOf(comparison.left, state), right: valueOf(comparison.right, state) }
}

function valueOf(evaluate: (state: State) => number, state: State): number {
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
