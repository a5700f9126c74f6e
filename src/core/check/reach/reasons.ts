import { fromUnits } from '../../rules/compile.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import { ringThrough } from '../../rules/validate.ts'
import { numberText } from '../../view/numbers.ts'
import { comparisonHolds, sidesOf } from '../route/comparison.ts'
import { Reach } from './reach.ts'

/** Why gates that reach leaves closed are closed: what fails with which numbers, and which closed gates wait on which. */
export class ClosedReasons {
  private readonly waits: ReadonlyMap<number, readonly number[]>

  constructor(
    private readonly game: Game,
    private readonly reach: Reach,
  ) {
    const closed = game.gates.flatMap((gate, g) => (reach.has('gates', g) || gate.error ? [] : [g]))
    this.waits = waitsOf(game, closed)
  }

  /** One sentence for each thing that keeps a gate closed. */
  why(g: number): string[] {
    const { game, reach } = this
    const gate = game.gates[g]!
    if (gate.error) return [gate.error.message]
    const places = reach.placesFor(gate)
    if (places.length === 0) return [gate.place === null ? 'nowhere that it could be opened from is reached' : `${game.places[gate.place]!.id}, where it stands, is never reached`]
    const state = reach.stateAt(places[0]!)
    const unmet = gate.requires.comparisons.filter((comparison) => !comparisonHolds(comparison, state)).map((comparison) => {
      const { left, right } = sidesOf(comparison, state)
      const [has, need] = comparison.constant === 'left' ? [right, left] : [left, right]
      return `${comparison.text}: ${shown(has)} against ${shown(need)}`
    })
    const unpaid = gate.costs.filter(({ tally }) => state.tallies[tally]! - askedOf(gate.costs, tally) < game.tallies[tally]!.min)
    const costs = unpaid.map(({ tally, amount }) => `${numberText(fromUnits(amount))} ${game.tallies[tally]!.id}: ${shown(fromUnits(state.tallies[tally]!))} can be had in all`)
    const { reads } = gate.requires
    const flags = reads.tallies.filter((t) => state.tallies[t] === 0).map((t) => `${game.tallies[t]!.id} is never had`)
    const gates = reads.gates.filter((other) => !reach.has('gates', other)).map((other) => `open(${game.gates[other]!.id}) waits on a closed gate`)
    const unseen = reads.places.filter((p) => !reach.has('places', p)).map((p) => `${game.places[p]!.id} is never visited`)
    const untaken = reads.sources.filter((s) => !reach.has('sources', s)).map((s) => `${game.sources[s]!.id} is never taken`)
    const all = [...unmet, ...costs, ...flags, ...gates, ...unseen, ...untaken]
    return all.length ? all : ['what it asks for never holds']
  }

  /** The shortest ring of closed gates that wait on each other through this one, in order; null when there is none. */
  ring(g: number): string[] | null {
    const ring = ringThrough(g, this.waits)
    return ring && ring.map((other) => this.game.gates[other]!.id)
  }
}

/** Rings of more gates than this are not tried gate by gate: it would take as many runs of reach. */
const largestRing = 12

/** The gates of a ring, by index, of which one alone has to ask for less, that the others come to open: they break it. */
export function breakersOf(game: Game, ring: readonly number[]): number[] {
  if (ring.length > largestRing) return []
  return ring.filter((g) => {
    const opened = new Reach(game, { repeats: true, forced: [g] }).run()
    return ring.every((other) => opened.has('gates', other))
  })
}

/** More closed gates than this are not held against each other: it would take as many runs of reach. */
const mostClosed = 60

/**
 * Which closed gates each closed gate cannot do without: with every other one opened by hand, it stays closed as long as they are.
 * A gate stands for itself where what it asks for lies behind it.
 */
function waitsOf(game: Game, closed: readonly number[]): Map<number, number[]> {
  const waits = new Map<number, number[]>(closed.map((g) => [g, []]))
  if (closed.length === 0 || closed.length > mostClosed) return waits
  const all = new Reach(game, { repeats: true, forced: closed }).run()
  const possible = closed.filter((g) => all.couldOpen(g))
  for (const other of closed) {
    const forced = closed.filter((g) => g !== other)
    if (possible.includes(other) && !new Reach(game, { repeats: true, forced }).run().has('gates', other)) waits.get(other)!.push(other)
    const without = new Reach(game, { repeats: true, forced, barred: other }).run()
    for (const g of possible) if (g !== other && !without.couldOpen(g)) waits.get(g)!.push(other)
  }
  return waits
}

function shown(n: number): string {
  return Number.isFinite(n) && Math.abs(n) < 1e10 ? numberText(n) : 'without end'
}
