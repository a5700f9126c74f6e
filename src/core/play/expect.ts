import { LanguageError } from '../language/language-error.ts'
import { comparisonHolds, sidesOf } from '../check/route/comparison.ts'
import { labelOf } from '../plan/label-of.ts'
import { fromUnits } from '../rules/compile.ts'
import { compileRequirement } from '../rules/compile-requirement.ts'
import { isOpen } from '../rules/engine.ts'
import type { Game } from '../rules/game.ts'
import type { PlanIndex } from '../rules/plan-index.ts'
import type { State } from '../rules/state.ts'
import { missingFor } from './walk.ts'
import { numberText } from '../view/numbers.ts'

/** Why what is expected does not hold, with the numbers; null where it does. */
export function unmet(game: Game, index: PlanIndex, state: State, text: string): string | null {
  const error = index.read(text).errors[0]
  if (error) return `"${text}" cannot be read: ${error.message}`
  try {
    const requirement = compileRequirement(text, index, game)
    if (requirement.holds(state)) return null
    const failing = requirement.comparisons.filter((comparison) => !comparisonHolds(comparison, state))
    const numbers = failing.map((comparison) => {
      const { left, right } = sidesOf(comparison, state)
      return `${comparison.text}: it is ${numberText(comparison.constant === 'left' ? right : left)}`
    })
    const closed = requirement.reads.gates.filter((g) => !isOpen(game, state, g)).map((g) => `${labelOf(game.gates[g]!)} is closed${missingText(game, state, g)}`)
    return numbers.length ? numbers.join('; ') : [`"${text}" does not hold`, ...closed].join('; ')
  } catch (failed) {
    if (failed instanceof LanguageError) return `"${text}" cannot be told: ${failed.message}`
    throw failed
  }
}

function missingText(game: Game, state: State, g: number): string {
  const missing = missingFor(game, state, g).map(({ text, need, have }) => `${text}, it is ${numberText(have)}, ${numberText(Math.abs(need - have))} short`)
  return missing.length ? ` (${missing.join('; ')})` : ''
}

/** What is expected where a character is at this level now. */
export function levelHere(game: Game, state: State, c: number): string {
  return `level${c === 0 ? '' : `(${game.characters[c]!.id})`} == ${state.level[c]!}`
}

/** What is expected where at least so much of a tally is held as now. */
export function atLeastHere(game: Game, state: State, t: number): string {
  return `${game.tallies[t]!.id} >= ${fromUnits(state.tallies[t]!)}`
}

/** What is expected where a gate is open, or closed, as it is now. */
export function gateHere(game: Game, state: State, g: number): string {
  return `${isOpen(game, state, g) ? '' : 'not '}open(${game.gates[g]!.id})`
}
