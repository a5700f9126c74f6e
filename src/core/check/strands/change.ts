import { KnownByIndex } from '../../plan/known-by-index.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameCost, GameGate, GameItem, GameSource, GameYield } from '../../rules/game.ts'

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

/** What an item does to each tally. */
export function changesOf(yields: readonly GameYield[], costs: readonly GameCost[]): Change[] {
  // Most items give of one tally, or of two, and ask for nothing.
  if (costs.length === 0 && yields.every(({ tally }, i) => yields.findIndex((y) => y.tally === tally) === i)) {
    return yields.map((y) => ({ tally: y.tally, min: y.min, max: y.max, paid: 0, dips: Math.min(0, y.min), climbs: Math.max(0, y.max), yields: [y] }))
  }
  const tallies = new Set([...yields, ...costs].map(({ tally }) => tally))
  return [...tallies].map((tally) => {
    const own = yields.filter((y) => y.tally === tally)
    const paid = askedOf(costs, tally)
    const sum = (of: (y: GameYield) => number) => own.reduce((all, y) => all + of(y), 0)
    return { tally, min: sum((y) => y.min) - paid, max: sum((y) => y.max) - paid, paid, dips: sum((y) => Math.min(0, y.min)), climbs: sum((y) => Math.max(0, y.max)), yields: own }
  })
}

/** What sources and gates do to all tallies: the same for all kinds of player, and after edits of others. */
const ofSources = new KnownByIndex(({ yields, takes }: GameSource) => changesOf(yields, takes))
const ofGates = new KnownByIndex(({ yields, costs }: GameGate) => changesOf(yields, costs))

/** What sources, gates and rewards do to the tallies that matter. */
export class Changes {
  constructor(
    private readonly game: Game,
    private readonly matters: Uint8Array,
  ) {}

  ofSource(s: number): readonly Change[] {
    return this.thatMatter(ofSources.of(s, this.game.sources[s]!))
  }

  ofGate(g: number): readonly Change[] {
    return this.thatMatter(ofGates.of(g, this.game.gates[g]!))
  }

  ofReward({ yields }: Pick<GameItem, 'yields'>): readonly Change[] {
    return this.thatMatter(changesOf(yields, []))
  }

  private thatMatter(all: readonly Change[]): readonly Change[] {
    for (const { tally } of all) if (this.matters[tally] !== 1) return all.filter((change) => this.matters[change.tally] === 1)
    return all
  }
}
