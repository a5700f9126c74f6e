import { fromUnits, toUnits } from '../../rules/compile.ts'
import type { Game, GameYield } from '../../rules/game.ts'

/** Ways in which chance may fall in one move. */
export const mostFalls = 20_000

/** Thrown where chance falls in more ways than can be told apart, such as a range of a million: what comes of it is not known. */
export class TooManyFalls extends Error {
  override readonly name = 'TooManyFalls'
}

/** How chance fell in a move: in units, in the order in which it was asked. */
export interface Fall {
  rolls?: readonly number[]
}

export function fallOf(rolled: readonly [GameYield, number][]): Fall {
  return rolled.length ? { rolls: rolled.map(([, amount]) => amount) } : {}
}

/** What chance gave, as a move tells it: of each tally in all. */
export function outcomeOf(game: Game, rolled: readonly [GameYield, number][]): { outcome?: Record<string, number> } {
  if (rolled.length === 0) return {}
  const units = new Map<number, number>()
  for (const [{ tally }, amount] of rolled) units.set(tally, (units.get(tally) ?? 0) + amount)
  return { outcome: Object.fromEntries([...units].map(([t, amount]) => [game.tallies[t]!.id, fromUnits(amount)])) }
}

/**
 * How chance falls where of each tally so much comes in all: the first of several yields of one tally give as much as they can. What
 * nothing is told of gives its least.
 */
export function rollFor(game: Game, yields: readonly GameYield[], outcome: Record<string, number> = {}): (y: GameYield) => number {
  const left = new Map(Object.entries(outcome).map(([id, amount]) => [id, toUnits(amount)]))
  const later = yields.filter(({ min, max }) => min !== max)
  return (y) => {
    const { id } = game.tallies[y.tally]!
    const all = left.get(id)
    if (later[0] === y) later.shift()
    if (all === undefined) return y.min
    const rest = later.filter(({ tally }) => tally === y.tally).reduce((sum, { min }) => sum + min, 0)
    const amount = Math.min(Math.max(all - rest, y.min), y.max)
    left.set(id, all - amount)
    return amount
  }
}
