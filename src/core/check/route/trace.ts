import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import { limitOf, type State } from '../../rules/state.ts'
import { walkMiddle } from './middle-walk.ts'
import type { Cause, Watcher } from './walk-route.ts'

/** Amounts of every tally, positions of every character and limits in force, at one moment of the middle walk. */
export interface Moment {
  tallies: number[]
  positions: number[]
  limits: number[]
}

/** What one item did at one stop, all passes taken together. */
export interface ItemTrace {
  units: number
  tallies: number[]
  positions: number[]
  /** XP lost by each character. */
  lost: number[]
}

export interface StopTrace {
  place: string
  entered: Moment
  left: Moment
  /** By key of the source or gate. */
  items: Record<string, ItemTrace>
}

/** The middle walk of a route, stop by stop and item by item: what the lanes are drawn from. */
export interface RouteTrace {
  tallies: string[]
  characters: string[]
  stops: StopTrace[]
}

export function traceRoute(game: Game, route: GameRoute, profile: GameProfile): RouteTrace {
  const tracer = new Tracer(game, route)
  walkMiddle(game, route, profile, [tracer])
  return tracer.trace
}

/** Writes the trace of a middle walk that it watches. */
export class Tracer implements Watcher {
  private readonly stops: StopTrace[] = []
  private last: Moment
  /** What moved last and the state that it moves, while what it did is not yet written down: an item's units are told together. */
  private moving: { cause: Exclude<Cause, { type: 'enter' }>; state: State } | null = null

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
  ) {
    this.last = { tallies: [], positions: [], limits: [] }
  }

  get trace(): RouteTrace {
    const { game, stops } = this
    return { tallies: game.tallies.map((t) => t.id), characters: game.characters.map((c) => c.id), stops }
  }

  entered(state: State, stop: number): void {
    this.last = this.moment(state)
    this.stops.push({ place: this.game.places[this.route.stops[stop]!]!.key, entered: this.last, left: this.last, items: {} })
  }

  events(events: GameEvent[], cause: Cause, _stop: number, state: State): void {
    if (cause.type === 'enter') return
    this.moving = { cause, state }
    const { lost } = this.itemOf(cause)
    for (const event of events) if (event.type === 'lost') lost[event.character] = rounded(lost[event.character]! + fromUnits(event.amount))
  }

  moved(cause: Cause): void {
    if (cause.type === 'enter') return
    if (this.moving && (this.moving.cause.type !== cause.type || this.moving.cause.index !== cause.index)) this.writeDown()
    this.itemOf(cause).units += 1
  }

  left(): void {
    this.writeDown()
  }

  private writeDown(): void {
    if (!this.moving) return
    const { cause, state } = this.moving
    const now = this.moment(state)
    const item = this.itemOf(cause)
    now.tallies.forEach((value, t) => (item.tallies[t] = rounded(item.tallies[t]! + value - this.last.tallies[t]!)))
    now.positions.forEach((value, c) => (item.positions[c]! += value - this.last.positions[c]!))
    this.last = now
    this.stops.at(-1)!.left = now
    this.moving = null
  }

  private itemOf(cause: Exclude<Cause, { type: 'enter' }>): ItemTrace {
    const key = (cause.type === 'source' ? this.game.sources : this.game.gates)[cause.index]!.key
    const items = this.stops.at(-1)!.items
    return (items[key] ??= {
      units: 0,
      tallies: this.game.tallies.map(() => 0),
      positions: this.game.characters.map(() => 0),
      lost: this.game.characters.map(() => 0),
    })
  }

  private moment(state: State): Moment {
    return {
      tallies: Array.from(state.tallies, fromUnits),
      positions: this.game.characters.map((_, c) => levelPosition(this.game, state, c)),
      limits: this.game.characters.map((_, c) => limitOf(this.game, state, c)),
    }
  }
}

function rounded(n: number): number {
  return Math.round(n * 10_000) / 10_000
}
