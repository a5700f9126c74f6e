import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import { limitOf, type State } from '../../rules/state.ts'
import type { Branch } from './branch.ts'
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

/** What of a trace is written down stop by stop. */
type Traced = Pick<RouteTrace, 'entered' | 'left' | 'itemsFrom' | 'keys' | 'items'>

/** A trace in which the stops `from` one `until` another are as another trace has them, which begins with the first of them. */
function withStops(trace: Traced, other: Traced, [from, until]: [number, number], width: number): Traced {
  const [head, tail] = [trace.itemsFrom[from]!, trace.itemsFrom[until + 1]!]
  const end = head + other.keys.length
  const moments = (part: 'entered' | 'left') => {
    const all = trace[part].slice()
    all.set(other[part].subarray(from * width, (until + 1) * width), from * width)
    return all
  }
  const items = new Float64Array((end + trace.keys.length - tail) * width)
  items.set(trace.items.subarray(0, head * width))
  items.set(other.items, head * width)
  items.set(trace.items.subarray(tail * width), end * width)
  return {
    entered: moments('entered'),
    left: moments('left'),
    itemsFrom: trace.itemsFrom.map((at, stop) => (stop <= from ? at : stop <= until + 1 ? head + other.itemsFrom[stop]! : at - tail + end)),
    keys: [...trace.keys.slice(0, head), ...other.keys, ...trace.keys.slice(tail)],
    items,
  }
}

/** Room for so many items more than there are, for what is come to again. */
const room = 256

type ItemCause = Exclude<Cause, { type: 'enter' }>

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
  /** What was there when last something was written down: units of every tally, and of every character where it stood. */
  private readonly had: Pick<State, 'tallies' | 'level' | 'xp' | 'cap'> & { position: Float64Array }
  /** By character the XP lost since. */
  private readonly lost: Float64Array
  private stop = -1
  /** What moved last and the state that it moves, while what it did is not yet written down: an item's units are told together. */
  private moving: { cause: ItemCause; state: State } | null = null

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
    /** The trace of a walk that was the same up to this stop: its own begins there. */
    private readonly before: { trace: RouteTrace; stop: number } | null = null,
  ) {
    const stops = route.stops.length
    this.width = momentWidth(game)
    this.entries = new Float64Array(stops * this.width)
    this.exits = new Float64Array(stops * this.width)
    this.itemsFrom = new Int32Array(stops + 1)
    // Most items come once; what is too much is cut off in the end.
    this.items = new Float64Array((room + (before ? 0 : game.sources.length + game.gates.length)) * this.width)
    this.sourceItems = new Int32Array(game.sources.length).fill(-1)
    this.gateItems = new Int32Array(game.gates.length).fill(-1)
    const [t, c] = [game.tallies.length, game.characters.length]
    this.had = { tallies: new Float64Array(t), level: new Int32Array(c), xp: new Float64Array(c), cap: new Int32Array(c), position: new Float64Array(c) }
    this.lost = new Float64Array(c)
  }

  get trace(): RouteTrace {
    return this.traceUntil(this.route.stops.length - 1)
  }

  /** What was walked up to a stop; of those after it the trace before. */
  traceUntil(until: number): RouteTrace {
    const { game, route, keys, width, before } = this
    const own: Traced = { entered: this.entries, left: this.exits, itemsFrom: this.itemsFrom, keys, items: this.items.subarray(0, keys.length * width) }
    return {
      tallies: game.tallies.map((t) => t.id), characters: game.characters.map((c) => c.id), places: route.stops.map((place) => game.places[place]!.key),
      ...(before ? withStops(before.trace, own, [before.stop, until], width) : { ...own, items: own.items.slice() }),
    }
  }

  entered(state: State, stop: number): void {
    this.stop = stop
    this.itemsFrom[stop] = this.keys.length
    this.writeMoment(state, this.entries)
    for (const part of ['tallies', 'level', 'xp', 'cap'] as const) this.had[part].set(state[part])
    const positions = stop * this.width + this.game.tallies.length
    this.had.position.set(this.entries.subarray(positions, positions + this.had.position.length))
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

  left({ state }: Branch): void {
    this.writeDown()
    this.writeMoment(state, this.exits)
    this.itemsFrom[this.stop + 1] = this.keys.length
  }

  /** Writes down what has changed: of most items, one or two of all those numbers. */
  private writeDown(): void {
    if (!this.moving) return
    const { moving: { cause, state }, had, lost, game: { tallies: { length: t }, characters: { length: c } } } = this
    this.moving = null
    for (let i = 0; i < t; i++) {
      const by = state.tallies[i]! - had.tallies[i]!
      if (by === 0) continue
      this.addRounded(cause, i, fromUnits(by))
      had.tallies[i] = state.tallies[i]!
    }
    for (let i = 0; i < c; i++) {
      if (state.level[i] !== had.level[i] || state.xp[i] !== had.xp[i] || state.cap[i] !== had.cap[i]) this.writePosition(cause, state, i)
      if (lost[i] === 0) continue
      this.addRounded(cause, t + c + i, lost[i]!)
      lost[i] = 0
    }
  }

  private addRounded(cause: ItemCause, column: number, amount: number): void {
    const at = this.itemOf(cause) * this.width + column
    this.items[at] = rounded(this.items[at]! + amount)
  }

  private writePosition(cause: ItemCause, state: State, i: number): void {
    const { had, game } = this
    const at = this.itemOf(cause) * this.width + game.tallies.length + i
    const position = levelPosition(game, state, i)
    this.items[at]! += position - had.position[i]!
    had.level[i] = state.level[i]!
    had.xp[i] = state.xp[i]!
    had.cap[i] = state.cap[i]!
    had.position[i] = position
  }

  /** The number of an item among all, entered when it first moves at a stop. */
  private itemOf({ type, index }: ItemCause): number {
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

  /** Writes what there is at the stop that is under way among the moments of all stops. */
  private writeMoment(state: State, into: Float64Array): void {
    const { game, width } = this
    const [t, c] = [game.tallies.length, game.characters.length]
    const at = this.stop * width
    for (let i = 0; i < t; i++) into[at + i] = fromUnits(state.tallies[i]!)
    for (let i = 0; i < c; i++) {
      into[at + t + i] = levelPosition(game, state, i)
      into[at + t + c + i] = limitOf(game, state, i)
    }
  }
}

function rounded(n: number): number {
  return Math.round(n * 10_000) / 10_000
}
