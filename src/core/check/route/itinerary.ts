import { remembered } from '../../plan/remembered.ts'
import { standsAt } from '../../rules/engine.ts'
import type { Game, GamePlace, GameRoute } from '../../rules/game.ts'
import type { IndexSet } from './index-set.ts'
import type { Portion, Targets } from './portion.ts'

/** How a portion is walked along a route: its items place by place, and what tells two branches apart at each stop. */
export interface Itinerary {
  /** By place: sources and gates as in GamePlace.items. */
  items: readonly Int32Array[]
  /** How many stops are walked, and how many items they have together. */
  stops: number
  length: number
  anywhere: readonly number[]
  gates: Uint8Array
  /** By tally: whether it is of the portion. */
  matters: Uint8Array
  tallies: readonly number[]
  characters: readonly number[]
  counted: readonly number[]
  /** What is open from a stop on. */
  openAt: (stop: number) => OpenItems
  targets: MarkedTargets
}

/** What is walked for: gates marked by index, so that it is told at once whether one of them is. */
export interface MarkedTargets {
  gates: Uint8Array
  tallies: readonly number[]
  characters: readonly number[]
}

/** Sources of which units may still be taken from a stop on, and gates that may still be opened or are asked after. */
export interface OpenItems {
  sources: readonly number[]
  gates: readonly number[]
}

/** Comes to all that is walked at a place once, in its order; whether any of it changed anything. `on`: does, and says so, at each. */
export function passOver(game: Game, { items, anywhere }: Itinerary, place: number, on: { source: (s: number) => boolean; gate: (g: number) => boolean }): boolean {
  let changed = false
  for (const item of items[place]!) changed = (item >= 0 ? on.source(item) : on.gate(-1 - item)) || changed
  for (const g of anywhere) if (standsAt(game, game.gates[g]!, place)) changed = on.gate(g) || changed
  return changed
}

/** More passes than this are made over no place. */
const mostPasses = 2 ** 30

/** A moment of a walk as a number: at a stop, after so many passes over its place. It is the same in every portion that is walked. */
export function momentAt(stop: number, passes: number): number {
  return stop * mostPasses + passes
}

/** Itineraries by what they depend on: which items stand where, the route, and the portion. */
const itineraries = new WeakMap<readonly GamePlace[], WeakMap<GameRoute, WeakMap<Portion, Itinerary>>>()

export function itineraryOf(game: Game, route: GameRoute, portion: Portion): Itinerary {
  const byRoute = remembered(itineraries, game.places, () => new WeakMap<GameRoute, WeakMap<Portion, Itinerary>>())
  const byPortion = remembered(byRoute, route, () => new WeakMap<Portion, Itinerary>())
  return remembered(byPortion, portion, () => madeItinerary(game, route, portion))
}

function madeItinerary(game: Game, route: GameRoute, portion: Portion): Itinerary {
  const beside = [...portion.targets.gates].filter((g) => !portion.gates.has(g))
  const gates = beside.length ? portion.gates.copy() : portion.gates
  gates.addAll(beside)
  const items = itemsOf(game, portion, beside, gates)
  const anywhere = game.anywhere.filter((g) => gates.has(g))
  const stops = portion.until === undefined ? route.stops.length : portion.until + 1
  return {
    items,
    stops,
    length: route.stops.slice(0, stops).reduce((sum, place) => sum + items[place]!.length, 0),
    anywhere,
    gates: gates.marks(game.gates.length),
    matters: flags(game.tallies.length, portion.tallies),
    tallies: [...portion.tallies],
    characters: [...portion.characters],
    counted: [...portion.counted],
    openAt: openItems(route, items, [...anywhere, ...portion.asked]),
    targets: markedTargets(game, portion.targets),
  }
}

export function markedTargets(game: Game, { gates, tallies, characters }: Targets): MarkedTargets {
  return { gates: flags(game.gates.length, gates), tallies: [...tallies], characters: [...characters] }
}

/**
 * By what a portion is made of, its items in all places, and in each: many portions are walked for single gates, and are made of the same;
 * and an edit leaves most places as they are.
 */
const itemsKnown = new WeakMap<IndexSet, { gates: IndexSet; inAll: WeakMap<readonly GamePlace[], readonly Int32Array[]>; inOne: WeakMap<Int32Array, Int32Array> }>()

/** Items of a portion place by place. `beside`: gates that it is walked for and that are not in it; `gates`: all. */
function itemsOf({ places, gates: all }: Game, { sources, gates: own }: Portion, beside: readonly number[], gates: IndexSet): readonly Int32Array[] {
  let known = itemsKnown.get(sources)
  if (known?.gates !== own) itemsKnown.set(sources, (known = { gates: own, inAll: new WeakMap(), inOne: new WeakMap() }))
  const { inAll, inOne } = known
  const items = remembered(inAll, places, () => places.map((place) => remembered(inOne, place.items, () => itemsWithin(place.items, sources, own))))
  if (beside.length === 0) return items
  const wider = [...items]
  for (const p of new Set(beside.map((g) => all[g]!.place))) if (p !== null) wider[p] = itemsWithin(places[p]!.items, sources, gates)
  return wider
}

const noItems = new Int32Array(0)
let within = new Int32Array(1024)

/** Those of some items that are in sets; the same list where all are. Arrays take longer to make than to fill: none is made but what is given back. */
function itemsWithin(items: Int32Array, sources: IndexSet, gates: IndexSet): Int32Array {
  if (items.length > within.length) within = new Int32Array(items.length * 2)
  let n = 0
  for (let i = 0; i < items.length; i++) {
    const item = items[i]!
    if (item >= 0 ? sources.has(item) : gates.has(-1 - item)) within[n++] = item
  }
  return n === items.length ? items : n === 0 ? noItems : within.slice(0, n)
}

/** Worked out stop by stop, when it is asked for: most walks never do. `everywhere`: gates that stay open at all stops. */
function openItems({ stops }: GameRoute, items: readonly Int32Array[], everywhere: readonly number[]): Itinerary['openAt'] {
  let visits: readonly Revisited[] | null = null
  const known = new Map<number, OpenItems>()
  return (stop) => {
    visits ??= revisited(stops)
    if (!known.has(stop)) {
      const places = new Set([stops[stop]!, ...visits.filter(({ first, last }) => first <= stop && last >= stop).map(({ place }) => place)])
      const here = [...places].flatMap((place) => [...items[place]!])
      known.set(stop, { sources: here.filter((item) => item >= 0), gates: [...new Set([...here.filter((item) => item < 0).map((item) => -1 - item), ...everywhere])] })
    }
    return known.get(stop)!
  }
}

/** A place to which a route comes more than once: its first stop there, and its last. */
interface Revisited {
  place: number
  first: number
  last: number
}

function revisited(stops: readonly number[]): Revisited[] {
  const visits = new Map<number, Revisited>()
  stops.forEach((place, stop) => {
    const visit = visits.get(place)
    if (visit) visit.last = stop
    else visits.set(place, { place, first: stop, last: stop })
  })
  return [...visits.values()].filter(({ first, last }) => first !== last)
}

function flags(length: number, set: ReadonlySet<number>): Uint8Array {
  const result = new Uint8Array(length)
  for (const i of set) result[i] = 1
  return result
}
