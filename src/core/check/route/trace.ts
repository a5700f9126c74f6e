import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import { limitOf, type State } from '../../rules/state.ts'
import { walkMiddle } from './middle-walk.ts'
import type { Cause, Watcher } from './watcher.ts'

/**
 * The middle walk of a route, stop by stop and item by item: what the lanes are drawn from. Numbers stand side by side in arrays, which
 * go from one thread to another at once: `momentWidth` of them for each moment, and as many for each item.
 */
export interface RouteTrace {
  tallies: string[]
  characters: string[]
  /** By stop: the key of its place. */
  places: string[]
  /** By stop, on entering it and on leaving it: every tally, every character's position, every limit in force. */
  entered: Float64Array
  left: Float64Array
  /** The items that did anything at stop s stand from itemsFrom[s] to itemsFrom[s + 1], each with the key of its source or gate. */
  itemsFrom: Int32Array
  keys: string[]
  /** What each did at its stop, all passes taken together: to every tally, to every position, and the XP that every character lost. */
  items: Float64Array
}

/** How many numbers stand side by side for a moment, and for an item. */
export function momentWidth({ tallies, characters }: Record<'tallies' | 'characters', ArrayLike<unknown>>): number {
  return tallies.length + 2 * characters.length
}

/** Where the amount of a tally or the position of a character stands among the numbers of a moment and of an item. */
export function columnOf(trace: RouteTrace, of: { tally: string } | { character: string }): number {
  return 'tally' in of ? trace.tallies.indexOf(of.tally) : after(trace.tallies.length, trace.characters.indexOf(of.character))
}

function after(first: number, index: number): number {
  return index < 0 ? -1 : first + index
}

/** A number of a moment, or of an item. Limits, and XP lost, stand behind the positions: `column` of the position + the number of characters. */
export function numberAt(trace: RouteTrace, part: 'entered' | 'left' | 'items', index: number, column: number): number {
  return trace[part][index * momentWidth(trace) + column]!
}

/** The position of a character on leaving a stop, by index, and the limit in force there. */
export function positionOnLeaving(trace: RouteTrace, stop: number, c: number): { position: number; limit: number } {
  const column = trace.tallies.length + c
  return { position: numberAt(trace, 'left', stop, column), limit: numberAt(trace, 'left', stop, column + trace.characters.length) }
}

/** The XP that a character lost along the route. */
export function lostBy(trace: RouteTrace, c: number): number {
  let sum = 0
  for (let i = 0; i < trace.keys.length; i++) sum += numberAt(trace, 'items', i, trace.tallies.length + trace.characters.length + c)
  return rounded(sum)
}

export function traceRoute(game: Game, route: GameRoute, profile: GameProfile): RouteTrace {
  const tracer = new Tracer(game, route)
  walkMiddle(game, route, profile, [tracer])
  return tracer.trace
}

/** Writes the trace of a middle walk that it watches. */
export class Tracer implements Watcher {
  readonly takesAtOnce = true
  private readonly width: number
  private readonly entries: Float64Array
  private readonly exits: Float64Array
  private readonly itemsFrom: Int32Array
  private keys: string[] = []
  private items: Float64Array
  /** By source and gate: its number among the items of the stop that is under way; −1: none yet. */
  private readonly sourceItems: Int32Array
  private readonly gateItems: Int32Array
  /** The moment last written down, and room for the next. */
  private last: Float64Array
  private now: Float64Array
  /** By character the XP lost since. */
  private readonly lost: Float64Array
  private stop = -1
  /** What moved last and the state that it moves, while what it did is not yet written down: an item's units are told together. */
  private moving: { cause: Exclude<Cause, { type: 'enter' }>; state: State } | null = null

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
    /** The trace of a walk that was the same up to this stop. */
    before: { trace: RouteTrace; stop: number } | null = null,
  ) {
    const stops = route.stops.length
    this.width = momentWidth(game)
    this.entries = new Float64Array(stops * this.width)
    this.exits = new Float64Array(stops * this.width)
    this.itemsFrom = new Int32Array(stops + 1)
    this.items = new Float64Array(256 * this.width)
    this.sourceItems = new Int32Array(game.sources.length).fill(-1)
    this.gateItems = new Int32Array(game.gates.length).fill(-1)
    this.last = new Float64Array(this.width)
    this.now = new Float64Array(this.width)
    this.lost = new Float64Array(game.characters.length)
    if (before) this.goOnFrom(before)
  }

  private goOnFrom({ trace, stop }: { trace: RouteTrace; stop: number }): void {
    const item = trace.itemsFrom[stop]!
    this.entries.set(trace.entered.subarray(0, stop * this.width))
    this.exits.set(trace.left.subarray(0, stop * this.width))
    this.itemsFrom.set(trace.itemsFrom.subarray(0, stop + 1))
    this.keys = trace.keys.slice(0, item)
    if (item * this.width > this.items.length) this.items = new Float64Array(2 * item * this.width)
    this.items.set(trace.items.subarray(0, item * this.width))
  }

  get trace(): RouteTrace {
    const { game, route, keys, width } = this
    return {
      tallies: game.tallies.map((t) => t.id), characters: game.characters.map((c) => c.id), places: route.stops.map((place) => game.places[place]!.key),
      entered: this.entries, left: this.exits, itemsFrom: this.itemsFrom, keys, items: this.items.slice(0, keys.length * width),
    }
  }

  entered(state: State, stop: number): void {
    this.stop = stop
    this.itemsFrom[stop] = this.keys.length
    this.moment(state, this.last)
    this.entries.set(this.last, stop * this.width)
    this.exits.set(this.last, stop * this.width)
  }

  moved(cause: Cause, _stop: number, _units: number, state: State): void {
    const { moving } = this
    if (cause.type === 'enter' || (moving && moving.cause.type === cause.type && moving.cause.index === cause.index)) return
    this.writeDown()
    this.moving = { cause, state }
  }

  events(events: readonly GameEvent[]): void {
    for (const event of events) if (event.type === 'lost') this.lost[event.character]! += fromUnits(event.amount)
  }

  left(): void {
    this.writeDown()
    this.itemsFrom[this.stop + 1] = this.keys.length
  }

  private writeDown(): void {
    if (!this.moving) return
    const { moving: { cause, state }, now, last } = this
    this.moving = null
    this.moment(state, now)
    if (!this.hasDoneAnything()) return
    this.writeItem(this.itemOf(cause) * this.width)
    this.exits.set(now, this.stop * this.width)
    ;[this.last, this.now] = [now, last]
    this.lost.fill(0)
  }

  private hasDoneAnything(): boolean {
    const { now, last, lost } = this
    for (let i = 0; i < now.length; i++) if (now[i] !== last[i]) return true
    for (let i = 0; i < lost.length; i++) if (lost[i] !== 0) return true
    return false
  }

  private writeItem(at: number): void {
    const { now, last, items, lost, game: { tallies: { length: t }, characters: { length: c } } } = this
    for (let i = 0; i < t; i++) items[at + i] = rounded(items[at + i]! + now[i]! - last[i]!)
    for (let i = t; i < t + c; i++) items[at + i]! += now[i]! - last[i]!
    for (let i = 0; i < c; i++) items[at + t + c + i] = rounded(items[at + t + c + i]! + lost[i]!)
  }

  /** The number of an item among all, entered when it first moves at a stop. */
  private itemOf({ type, index }: Exclude<Cause, { type: 'enter' }>): number {
    const numbers = type === 'source' ? this.sourceItems : this.gateItems
    const known = numbers[index]!
    if (known >= this.itemsFrom[this.stop]!) return known
    const item = this.keys.push((type === 'source' ? this.game.sources : this.game.gates)[index]!.key) - 1
    if ((item + 1) * this.width > this.items.length) this.grow()
    return (numbers[index] = item)
  }

  private grow(): void {
    const wider = new Float64Array(this.items.length * 2)
    wider.set(this.items)
    this.items = wider
  }

  private moment(state: State, into: Float64Array): void {
    const { game } = this
    const [t, c] = [game.tallies.length, game.characters.length]
    for (let i = 0; i < t; i++) into[i] = fromUnits(state.tallies[i]!)
    for (let i = 0; i < c; i++) {
      into[t + i] = levelPosition(game, state, i)
      into[t + c + i] = limitOf(game, state, i)
    }
  }
}

function rounded(n: number): number {
  return Math.round(n * 10_000) / 10_000
}
