import { askedOf } from '../../rules/engine.ts'
import type { GameCost, GameYield } from '../../rules/game.ts'

/** What one unit of a source, the opening of a gate or a level's reward does to one tally. */
export interface Change {
  tally: number
  /** All together, in units. */
  min: number
  max: number
  /** What is paid of it, and what the yields that take away, or give, come to at most. */
  paid: number
  dips: number
  climbs: number
  yields: GameYield[]
}

/** What an item does to each tally of those that matter. */
export function changesOf(yields: readonly GameYield[], costs: readonly GameCost[], matters: Uint8Array): Change[] {
  const tallies = new Set([...yields, ...costs].map(({ tally }) => tally).filter((t) => matters[t]))
  return [...tallies].map((tally) => {
    const own = yields.filter((y) => y.tally === tally)
    const paid = askedOf(costs, tally)
    const sum = (of: (y: GameYield) => number) => own.reduce((all, y) => all + of(y), 0)
    return { tally, min: sum((y) => y.min) - paid, max: sum((y) => y.max) - paid, paid, dips: sum((y) => Math.min(0, y.min)), climbs: sum((y) => Math.max(0, y.max)), yields: own }
  })
}
