import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { Streams } from '../chance.ts'
import type { Itinerary } from '../route/itinerary.ts'
import { mostCounted } from '../weighted-values.ts'
import { RouteRecord } from '../route/record.ts'
import type { Schedule } from '../route/schedule.ts'
import { Flock } from './flock.ts'
import { FlockReader } from './flock-reader.ts'
import { FlockWalk } from './flock-walk.ts'
import { FlockWriter } from './flock-writer.ts'

interface Drawn {
  game: Game
  route: GameRoute
  profile: GameProfile
  schedule: Schedule
  /** What is walked of the plan. */
  itinerary: Itinerary
  seed: number
}

/** Sources and gates passed in one step of drawn walks, or units of those that come one by one: about a tenth of a second each. */
const itemsAStep = 800_000
const unitsAStep = 4_000_000

/** Walks side by side: with fewer, each item costs more than what is done at it; more would not fit into what is near the processor. */
const leastInFlock = 64
const mostInFlock = 256

/**
 * Draws so many walks, from the `first`th of a seed on, each of weight 1: the same ones whoever draws them, and in how many steps. Each
 * step yields the share of all of them that is done.
 */
export function* drawnInSteps(drawn: Drawn, first: number, count: number): Generator<number, RouteRecord> {
  const { game, route, schedule, itinerary } = drawn
  const record = new RouteRecord(game, route.stops.length, schedule.neededAt, null, count <= mostCounted)
  const byItems = Math.max(leastInFlock, Math.round(itemsAStep / (itinerary.length + 1)))
  const byUnits = Math.max(1, Math.round(unitsAStep / (unitsApart(game, route, itinerary) + 1)))
  const size = Math.min(count, mostInFlock, byItems, byUnits)
  const walkSome = flockOf(drawn, record, size)
  for (let i = 0; i < count; i += size) {
    yield i / count
    if (i + size <= count) walkSome(first + i)
    else flockOf(drawn, record, count - i)(first + i)
  }
  return record
}

/** Units of a walk that are taken one by one, or whose amounts are rolled one by one. */
function unitsApart({ columns, sources }: Game, { stops }: GameRoute, { items, matters }: Itinerary): number {
  let units = 0
  for (const place of new Set(stops)) for (const s of items[place]!) {
    if (s < 0) continue
    const rolled = sources[s]!.yields.filter((y) => matters[y.tally] && y.min !== y.max).length
    units += columns.count[s]! * (rolled + (columns.atOnce[s] ? 0 : 1))
  }
  return units
}

/** Draws so many walks side by side: from the `first`th on. */
function flockOf({ game, route, profile, schedule, itinerary, seed }: Drawn, record: RouteRecord, size: number): (first: number) => void {
  const flock = new Flock(game, itinerary, size)
  const reader = new FlockReader(game, flock)
  const writer = new FlockWriter(game, record, itinerary.targets, flock, reader, 1)
  const streams = new Streams(size)
  const walk = new FlockWalk({ game, route, profile, itinerary, schedule, flock, reader, writer, streams })
  return (first) => {
    for (let i = 0; i < size; i++) streams.begin(i, seed, first + i)
    walk.run()
  }
}
