import { fromUnits } from '../../rules/compile.ts'
import { askedOf, gatesOnWay } from '../../rules/engine.ts'
import type { Game, GameItem } from '../../rules/game.ts'
import { ringThrough } from '../../rules/validate.ts'
import { numberText } from '../../view/numbers.ts'
import { comparisonHolds, sidesOf } from '../route/comparison.ts'
import { addSourceNeeds, bears, relevanceOf } from '../route/relevance.ts'
import type { Reach } from './reach.ts'

/** Why gates that reach leaves closed are closed: what fails with which numbers, and which closed gates wait on which. */
export class ClosedReasons {
  private readonly waits: ReadonlyMap<number, readonly number[]>

  constructor(
    private readonly game: Game,
    private readonly reach: Reach,
  ) {
    const closed = game.gates.flatMap((_, g) => (reach.has('gates', g) ? [] : [g]))
    this.waits = new Map(closed.map((g) => [g, [...this.waitsOn(g)]]))
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

  /** Closed gates that stand between a closed gate and what it asks for. */
  private waitsOn(g: number): Set<number> {
    const { game, reach } = this
    const gate = game.gates[g]!
    const on = new Set<number>()
    if (gate.error) return on
    const places = reach.placesFor(gate)
    if (places.length === 0 && gate.place !== null) this.addBlockers(gate.place, on)
    if (places.length > 0 && reach.stateAt(places[0]!) && this.needsNothing(gate)) return on
    for (const other of gate.requires.reads.gates) if (!reach.has('gates', other)) on.add(other)
    for (const p of gate.requires.reads.places) if (!reach.has('places', p)) this.addBlockers(p, on)
    this.addGivers(g, on)
    return on
  }

  private needsNothing(item: GameItem): boolean {
    return item.requires.node === null && (item as { costs?: unknown[] }).costs?.length === 0
  }

  /** What would give what a gate asks for, and is not had, waits on what closes the way to it. */
  private addGivers(g: number, on: Set<number>): void {
    const { game, reach } = this
    const relevance = relevanceOf(game, game.gates[g]!)
    game.sources.forEach((source, s) => {
      if (reach.has('sources', s) || !bears(relevance, source, s)) return
      if (!reach.has('places', source.place)) this.addBlockers(source.place, on)
      for (const other of source.requires.reads.gates) if (!reach.has('gates', other)) on.add(other)
      addSourceNeeds(game, relevance, source)
    })
    game.gates.forEach((other, o) => {
      if (!reach.has('gates', o) && o !== g && other.yields.some((y) => relevance.tallies.has(y.tally))) on.add(o)
    })
  }

  /** Closed gates on the ways into a place that is not reached, and into what lies before it. */
  private addBlockers(place: number, on: Set<number>, seen = new Set<number>()): void {
    if (seen.has(place) || this.reach.has('places', place)) return
    seen.add(place)
    for (const from of this.game.places[place]!.waysIn) {
      for (const way of this.game.places[from]!.ways) {
        if (way.to !== place) continue
        for (const g of gatesOnWay(this.game, way.passage, place)) if (!this.reach.has('gates', g)) on.add(g)
      }
      this.addBlockers(from, on, seen)
    }
  }
}

function shown(n: number): string {
  return Number.isFinite(n) && Math.abs(n) < 1e10 ? numberText(n) : 'without end'
}
