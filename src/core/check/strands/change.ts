import { askedOf } from '../../rules/engine.ts'
import type { Game, GameCost, GameYield } from '../../rules/game.ts'

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
  // Most items give of one tally, or of two, and ask for nothing.
  if (costs.length === 0 && yields.every(({ tally }, i) => yields.findIndex((y) => y.tally === tally) === i)) {
    return yields.filter(({ tally }) => matters[tally]).map((y) => ({ tally: y.tally, min: y.min, max: y.max, paid: 0, dips: Math.min(0, y.min), climbs: Math.max(0, y.max), yields: [y] }))
  }
  const tallies = new Set([...yields, ...costs].map(({ tally }) => tally).filter((t) => matters[t]))
  return [...tallies].map((tally) => {
    const own = yields.filter((y) => y.tally === tally)
    const paid = askedOf(costs, tally)
    const sum = (of: (y: GameYield) => number) => own.reduce((all, y) => all + of(y), 0)
    return { tally, min: sum((y) => y.min) - paid, max: sum((y) => y.max) - paid, paid, dips: sum((y) => Math.min(0, y.min)), climbs: sum((y) => Math.max(0, y.max)), yields: own }
  })
}

/** What sources and gates do, each worked out once. */
export class Changes {
  private readonly sources: (Change[] | undefined)[]
  private readonly gates: (Change[] | undefined)[]

  constructor(
    private readonly game: Game,
    private readonly matters: Uint8Array,
  ) {
    this.sources = new Array<Change[] | undefined>(game.sources.length)
    this.gates = new Array<Change[] | undefined>(game.gates.length)
  }

  ofSource(s: number): Change[] {
    const { yields, takes } = this.game.sources[s]!
    return (this.sources[s] ??= changesOf(yields, takes, this.matters))
  }

  ofGate(g: number): Change[] {
    const { yields, costs } = this.game.gates[g]!
    return (this.gates[g] ??= changesOf(yields, costs, this.matters))
  }
}
