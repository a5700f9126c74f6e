import { fromUnits } from '../../rules/compile.ts'
import type { Game, GameYield } from '../../rules/game.ts'

/** Ways in which chance may fall in one move. */
export const mostFalls = 20_000

/** Thrown where chance falls in more ways than can be told apart, such as a range of a million: what comes of it is not known. */
export class TooManyFalls extends Error {
  override readonly name = 'TooManyFalls'
}

/** What chance gave, as a move tells it. */
export function outcomeOf(game: Game, rolled: readonly [GameYield, number][]): { outcome?: Record<string, number> } {
  if (rolled.length === 0) return {}
  return { outcome: Object.fromEntries(rolled.map(([y, amount]) => [game.tallies[y.tally]!.id, fromUnits(amount)])) }
}
