import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { everyOutcome, leastChance, middleChance, mostChance, Streams, type Chance } from '../chance.ts'
import { Flock } from '../flock/flock.ts'
import { FlockReader } from '../flock/flock-reader.ts'
import { FlockWalk } from '../flock/flock-walk.ts'
import { FlockWriter } from '../flock/flock-writer.ts'
import type { GateResult, ProfileResult, Quantiles, StopRef, StopResult, Verdict } from '../result.ts'
import { explained } from './explain.ts'
import { MiddleRecord, type FurtherFrom } from './middle.ts'
import { includes, itineraryOf, portionOfGate, portionsOf, united, wholePortion, type Itinerary, type Portion } from './portion.ts'
import { tidy, type GateRecord, RecordWriter, RouteRecord } from './record.ts'
import { scheduleOf } from './schedule.ts'
import { isSum, walkSums } from './sums.ts'
import { TooManyBranches, walkRoute, type Watcher } from './walk-route.ts'

export interface RouteCheckOptions {
  seed: number
  /** Whether to give the sum behind each gate (`from`, `lost`); without it both are empty. */
  sums: boolean
  /** Walks drawn where chance is too wide to follow every branch. */
  walks: number
  /** Branches passing an item before walks are drawn instead, as a share of what those walks would pass. */
  effort: number
}

/** Passings that are made in a plan of any size. */
const leastEffort = 60_000

/** Multiplications in the time of one passing of an item. */
const sumsPerPassing = 200

export const defaultRouteOptions: RouteCheckOptions = { seed: 1, sums: true, walks: 10_000, effort: 0.1 }

/** For one route and one kind of player: is each gate open when it is due, and what is there (docs/checks.md 1)? */
export function checkRoute(game: Game, route: GameRoute, profile: GameProfile, options = defaultRouteOptions): ProfileResult {
  const steps = checkRouteInSteps(game, route, profile, options)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** One gate of a route, for one kind of player, without the sum behind it. */
export function gateResult(game: Game, route: GameRoute, profile: GameProfile, g: number, options = defaultRouteOptions): GateResult {
  return new RouteCheck(game, route, profile, { ...options, sums: false }).gateAlone(g)
}

/** Its verdict alone; `sealed` stands for `short` too. */
export function gateVerdict(game: Game, route: GameRoute, profile: GameProfile, g: number, options = defaultRouteOptions): Verdict {
  return new RouteCheck(game, route, profile, options).verdictAlone(g)
}

/** The verdicts of some gates of a route, for one kind of player, by index; `short` and `sealed` as they are told apart in full. */
export function gateVerdicts(game: Game, route: GameRoute, profile: GameProfile, gates: ReadonlySet<number>, options = defaultRouteOptions): Map<number, Verdict> {
  return new RouteCheck(game, route, profile, { ...options, sums: false }).verdictsOf(gates)
}

/** Whether a gate is open when it is due for who has the least that can be had, and for who has the most. */
export function holdsAtExtremes(game: Game, route: GameRoute, profile: GameProfile, g: number): boolean {
  return new RouteCheck(game, route, profile, defaultRouteOptions).isOpenAtExtremes(g)
}

/** The same in steps, so that a worker can look up between them: each yields the share of the walks done, 0 to 1. */
export function* checkRouteInSteps(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions): Generator<number, ProfileResult> {
  return yield* new RouteCheck(game, route, profile, options).steps()
}

/** Sources and gates passed in one step of drawn walks: about a tenth of a second. */
const itemsAStep = 400_000

/** Walks side by side: with fewer, each item costs more than what is done at it; more would not fit into what is near the processor. */
const leastInFlock = 16
const mostInFlock = 256

class RouteCheck {
  private readonly schedule
  private readonly record: RouteRecord
  private readonly whole: Itinerary

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
    private readonly profile: GameProfile,
    private readonly options: RouteCheckOptions,
  ) {
    this.schedule = scheduleOf(game, route)
    this.record = new RouteRecord(game, route, this.schedule.neededAt)
    this.whole = itineraryOf(game, route, wholePortion(game))
  }

  *steps(): Generator<number, ProfileResult> {
    yield* this.walkPortions(portionsOf(this.game, this.profile))
    const middle = this.walkMiddle()
    return {
      profile: this.profile.id,
      stops: this.route.stops.map((place, stop) => this.stopResult(place, stop, middle)),
      gates: this.game.gates.map((_, g) => this.gateResult(g, middle)),
    }
  }

  private *walkPortions([certain, ...random]: readonly Portion[]): Generator<number, void> {
    const tooWide: Portion[] = []
    if (certain) this.walkOneWay(certain)
    for (const portion of random) {
      // What a portion that is too wide bears on is too wide as well.
      if (tooWide.some((part) => includes(portion, part)) || !this.walkEveryBranch(portion)) tooWide.push(portion)
      yield 0
    }
    if (tooWide.length) yield* this.walkSamples(itineraryOf(this.game, this.route, united(tooWide)))
  }

  verdictAlone(g: number): Verdict {
    const portion = portionOfGate(this.game, g)
    if (!this.walkEveryBranch(portion)) for (const _ of this.walkSamples(itineraryOf(this.game, this.route, portion)));
    return this.record.gates[g]!.verdictOf(false)
  }

  verdictsOf(gates: ReadonlySet<number>): Map<number, Verdict> {
    for (const _ of this.walkPortions(portionsOf(this.game, this.profile, gates)));
    const middle = this.walkMiddle((g) => gates.has(g))
    return new Map([...gates].map((g) => [g, this.gateResult(g, middle).verdict]))
  }

  gateAlone(g: number): GateResult {
    this.verdictAlone(g)
    return this.gateResult(g, this.walkMiddle((other) => other === g))
  }

  isOpenAtExtremes(g: number): boolean {
    this.walkExtremes(itineraryOf(this.game, this.route, portionOfGate(this.game, g)))
    return this.record.gates[g]!.verdictOf(false) === 'clear'
  }

  private walk(itinerary: Itinerary, chance: Chance, watcher: Watcher, effort = Infinity): void {
    const { game, route, profile, schedule } = this
    walkRoute({ game, route, profile, itinerary, schedule, chance, watcher, effort })
  }

  /** What rests on no chance goes one way only. */
  private walkOneWay(portion: Portion): void {
    const itinerary = itineraryOf(this.game, this.route, portion)
    this.walk(itinerary, leastChance, new RecordWriter(this.record, itinerary, 1))
  }

  /** Follows all branches of chance of a portion; false where there are too many. */
  private walkEveryBranch(portion: Portion): boolean {
    const { game, route, profile, schedule, record, options } = this
    const itinerary = itineraryOf(game, route, portion)
    const writer = new RecordWriter(record, itinerary, 1)
    const effort = Math.max(leastEffort, options.effort * options.walks * itinerary.length)
    try {
      if (isSum(game, profile, portion)) {
        walkSums({ game, route, profile, schedule, itinerary, writer, effort: effort * sumsPerPassing })
        this.walkExtremes(itinerary)
      } else this.walk(itinerary, everyOutcome, writer, effort)
      return true
    } catch (error) {
      if (!(error instanceof TooManyBranches)) throw error
      this.record.clear(itinerary)
      return false
    }
  }

  /** Draws walks, and walks the two ways that lie furthest apart: what they show is possible, even if no drawn walk does. */
  private *walkSamples(itinerary: Itinerary): Generator<number, void> {
    const { walks } = this.options
    this.record.gates.forEach((gate, g) => itinerary.targets.gates[g] && (gate.exact = false))
    const size = Math.min(walks, mostInFlock, Math.max(leastInFlock, Math.round(itemsAStep / (itinerary.length + 1))))
    const walkSome = this.flockOf(itinerary, size)
    for (let i = 0; i < walks; i += size) {
      yield i / walks
      if (i + size <= walks) walkSome(i)
      else this.flockOf(itinerary, walks - i)(i)
    }
    this.walkExtremes(itinerary)
  }

  /** Draws so many walks side by side: from the `first`th on. */
  private flockOf(itinerary: Itinerary, size: number): (first: number) => void {
    const { game, route, profile, schedule, options } = this
    const flock = new Flock(game, itinerary, size)
    const reader = new FlockReader(game, flock)
    const writer = new FlockWriter(game, this.record, itinerary, flock, reader, 1 / options.walks)
    const streams = new Streams(size)
    const walk = new FlockWalk({ game, route, profile, itinerary, schedule, flock, reader, writer, streams })
    return (first) => {
      for (let i = 0; i < size; i++) streams.begin(i, options.seed, first + i)
      walk.run()
    }
  }

  private walkExtremes(itinerary: Itinerary): void {
    const possible = new RecordWriter(this.record, itinerary, 0)
    for (const chance of [leastChance, mostChance]) this.walk(itinerary, chance, possible)
  }

  private walkMiddle(isMeant: (g: number) => boolean = () => true): MiddleRecord {
    const middle = new MiddleRecord(this.game, this.route, (g) => (isMeant(g) ? this.looksFurther(g) : null))
    this.walk(this.whole, middleChance, middle)
    return middle
  }

  /** Where further units are looked for: as the middle walk has it, or from what one player in twenty has at most. */
  private looksFurther(g: number): FurtherFrom | null {
    const record = this.record.gates[g]!
    if (record.verdictOf(true) === 'short') return { low: [] }
    return record.verdictOf(true) === 'depends' ? { low: record.lowSides() } : null
  }

  private stopResult(place: number, stop: number, middle: MiddleRecord): StopResult {
    const { tallies, levels, positions } = this.record.stops[stop]!
    const all = <T extends { id: string }>(items: T[], of: { quantiles(): Quantiles | null }[]) =>
      Object.fromEntries(items.map((item, i) => [item.id, of[i]!.quantiles()!]))
    return {
      place: this.game.places[place]!.id,
      minutes: tidy(middle.minutes[stop]!),
      tallies: all(this.game.tallies, tallies),
      levels: all(this.game.characters, levels),
      positions: all(this.game.characters, positions),
    }
  }

  private gateResult(g: number, middle: MiddleRecord): GateResult {
    const gate = this.game.gates[g]!
    const record = this.record.gates[g]!
    const onRoute = record.met !== null || record.due !== null
    const p = record.p
    const further = middle.further.get(g)
    const ready = record.medianStop(record.ready, record.readyWeight)
    return {
      gate: gate.id,
      verdict: onRoute ? record.verdictOf(further?.opens ?? false) : 'off_route',
      p,
      interval: record.exact ? null : wilson(p, this.options.walks),
      exact: record.exact,
      met: this.stopRef(record.met),
      due: this.stopRef(record.due),
      opened: record.medianStop(record.opened, record.openedWeight),
      ready,
      wait: ready === null || record.met === null ? null : ready - record.met,
      comparisons: onRoute ? comparisonsOf(record) : [],
      ...(this.options.sums ? explained(this.game, middle, g) : { from: [], lost: [] }),
      debt: further?.debt ?? [],
      ...(gate.error ? { error: gate.error.message } : {}),
    }
  }

  private stopRef(stop: number | null): StopRef | null {
    return stop === null ? null : { stop, place: this.game.places[this.route.stops[stop]!]!.id }
  }
}

function comparisonsOf(record: GateRecord): GateResult['comparisons'] {
  return record.comparisons.map((comparison) => comparison.result())
}

/** The 95 % interval of a probability seen as a share of `n` walks (Wilson). */
export function wilson(p: number, n: number): [number, number] {
  const z = 1.959964
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n)
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n))
  return [Math.max(0, middle - half), Math.min(1, middle + half)]
}

