import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { everyOutcome, leastChance, middleChance, mostChance, type Chance } from '../chance.ts'
import { finished, telling } from '../finished.ts'
import { drawnInSteps } from '../flock/drawn.ts'
import type { GateResult, ProfileResult, Quantiles, StopRef, StopResult, Verdict } from '../result.ts'
import { TooManyBranches } from './branch-walk.ts'
import { explained, type Explanation } from './explain.ts'
import { MiddleRecord, type FurtherFrom } from './middle.ts'
import { itineraryOf, type Itinerary } from './itinerary.ts'
import { hasNoTargets, includes, narrowed, united, wholePortion, type Portion, type Targets } from './portion.ts'
import { isWalkedAsOne, portionOfGate, portionOfTargets, portionsOf } from './portions.ts'
import { tidy } from './comparison-record.ts'
import type { GateRecord } from './gate-record.ts'
import { type Gathered, type RecordData, RouteRecord } from './record.ts'
import { RecordWriter } from './record-writer.ts'
import { joined } from './middle-walk.ts'
import { scheduleOf } from './schedule.ts'
import { strandsInSteps, type Untold } from '../strands/strand-walk.ts'
import { walkInSteps } from './walk-route.ts'
import type { Watcher } from './watcher.ts'

export interface RouteCheckOptions {
  seed: number
  /** Whether to give the sum behind each gate (`from`, `lost`); without it both are empty. */
  sums: boolean
  /** Whether to tell which further units would open a gate the quickest (`debt`); without it that is empty. */
  debts: boolean
  /** Walks drawn where chance is too wide to follow every branch. */
  walks: number
  /** Branches passing an item before walks are drawn instead, as a share of what those walks would pass. */
  effort: number
  /** Whether a kept check runs the clock along its middle walk. */
  rhythm?: boolean
  /** Has another thread draw some of the walks; absent: all are drawn here. */
  beside?: (order: DrawOrder) => DrawnBeside
}

/** Walks to be drawn, by number: for some gates, tallies and characters, up to a stop. */
export interface DrawOrder extends Targets {
  until: number
  first: number
  count: number
}
/** What another thread has drawn; null while it has not, and 'failed' where it will not. */
export type DrawnBeside = () => RecordData | null | 'failed'

/** Passings that are made in a plan of any size. */
const leastEffort = 60_000

/** Multiplications that one sum may take: about two seconds. */
const mostForSum = 25_000_000_000

export const defaultRouteOptions: RouteCheckOptions = { seed: 1, sums: true, debts: true, walks: 10_000, effort: 0.1 }

/** For one route and one kind of player: is each gate open when it is due, and what is there (docs/checks.md 1)? */
export function checkRoute(game: Game, route: GameRoute, profile: GameProfile, options = defaultRouteOptions): ProfileResult {
  return finished(new RouteCheck(game, route, profile, options).steps())
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
  return new RouteCheck(game, route, profile, { ...options, sums: false, debts: false }).verdictsOf(gates)
}

/** Whether a gate is open when it is due for who has the least that can be had, and for who has the most. */
export function holdsAtExtremes(game: Game, route: GameRoute, profile: GameProfile, g: number): boolean {
  return new RouteCheck(game, route, profile, defaultRouteOptions).isOpenAtExtremes(g)
}

/** Draws some walks of a check that is made in another thread. */
export function drawWalks(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, order: DrawOrder): RecordData {
  return new RouteCheck(game, route, profile, options).drawnBeside(order)
}

/** Of a check before: the portions whose record stands as it is, and all that they were walked for. */
export interface KeptPart {
  check: RouteCheck
  portions: ReadonlySet<Portion>
  targets: Targets
}

/** Where no sums are asked for. */
const unexplained: Explanation = { from: [], lost: [] }

export class RouteCheck {
  private readonly schedule
  private readonly record: RouteRecord
  private readonly whole: Itinerary
  /** By portion, what of it was drawn. */
  private drawn: ReadonlyMap<Portion, Portion> = new Map()
  private results: GateResult[] = []
  private readonly stopRefs: StopRef[] = []
  /** By gate the moment at which it opens for all; null: not for all at once, or perhaps. Those that nobody opens are absent. */
  private openings = new Map<number, number | null>()

  constructor(
    readonly game: Game,
    readonly route: GameRoute,
    readonly profile: GameProfile,
    readonly options: RouteCheckOptions,
    private before: KeptPart | null = null,
  ) {
    this.schedule = scheduleOf(game, route)
    this.record = new RouteRecord(game, route, this.schedule.neededAt, before && { record: before.check.record, targets: before.targets })
    this.whole = itineraryOf(game, route, wholePortion(game))
    if (before) this.openings = new Map(before.check.openings)
  }

  *steps(watchers: readonly Watcher[] = []): Generator<number, ProfileResult> {
    const portions = portionsOf(this.game, this.profile)
    yield* this.walkRandom(portions)
    const middle = yield* telling(1, this.middleInSteps(portions[0]!, () => true, watchers))
    this.noteOpenings(portions[0]!, middle)
    this.results = this.game.gates.map((_, g) => this.gateAgain(g, middle) ?? this.gateResult(g, middle))
    // A check is kept, but not all those before it, nor all that it rests on.
    this.before = null
    this.route.stops.forEach((_, stop) => this.record.settle(stop))
    return {
      profile: this.profile.id,
      stops: this.route.stops.map((place, stop) => this.stopResult(place, stop, middle)),
      gates: this.ofGatesThere(),
    }
  }

  /** Whether some of it was drawn. */
  get isDrawn(): boolean {
    return this.drawn.size > 0
  }

  drew(portion: Portion): boolean {
    return this.drawn.has(portion)
  }

  private ofGatesThere(): GateResult[] {
    const { gone } = this.game
    return gone.size ? this.results.filter((_, g) => !gone.has(g)) : this.results
  }

  /** All portions but the first, which rests on no chance and is walked with the middle walk. */
  private *walkRandom([, ...random]: readonly Portion[]): Generator<number, void> {
    const { before } = this
    const anew = random.filter((portion) => !before?.portions.has(portion))
    const untold = yield* telling(0, this.strandsInSteps(anew))
    this.drawn = new Map(random.flatMap((portion) => {
      const drawn = anew.includes(portion) ? this.leftToDraw(narrowed(portion, untold)) : before!.check.drawn.get(portion)
      return drawn ? [[portion, drawn] as const] : []
    }))
    yield 0
    const isDrawn = this.drawn.size === before?.check.drawn.size && [...this.drawn.keys()].every((portion) => before.portions.has(portion))
    if (!isDrawn && this.drawn.size > 0) yield* this.drawTogether([...this.drawn.values()])
  }

  /** Tells what it can of portions without following any branch, and what it cannot. */
  private *strandsInSteps(portions: readonly Portion[]): Generator<number, Untold> {
    const all = united(portions)
    if (hasNoTargets(all)) return { ...all.targets, until: -1 }
    const { game, route, profile, schedule, record } = this
    const { untold, openings } = yield* strandsInSteps({ game, route, profile, schedule, record, itinerary: itineraryOf(game, route, all), effort: mostForSum })
    for (const g of all.targets.gates) this.noteOpening(g, openings.get(g))
    record.clear(untold, untold.until + 1)
    return untold
  }

  private tellOnStrands(portions: readonly Portion[]): Untold {
    return finished(this.strandsInSteps(portions))
  }

  /** What of a portion cannot be worked out branch by branch either; null: nothing. */
  private leftToDraw(portion: Portion): Portion | null {
    if (hasNoTargets(portion)) return null
    if (isWalkedAsOne(this.profile, portion) && this.walkEveryBranch(portion)) return null
    if (!portion.parts) return portion
    const left: Portion[] = []
    for (const part of portion.parts) {
      const own = narrowed(part, { ...portion.targets, until: portion.until! })
      // What a part that is too wide bears on is too wide as well.
      if (!hasNoTargets(own) && (left.some((other) => includes(own, other)) || !this.walkEveryBranch(own))) left.push(own)
    }
    return left.length ? { ...united(left), until: portion.until } : null
  }

  /** What is drawn together is drawn anew together: other walks come of it for what no edit has touched, too. */
  private *drawTogether(portions: readonly Portion[]): Generator<number, void> {
    const { targets } = united(portions)
    const until = Math.max(...portions.map((portion) => portion.until!))
    for (const g of targets.gates) this.before?.targets.gates.delete(g)
    this.record.clear(targets, until + 1)
    yield* this.walkSamples(portionOfTargets(this.game, targets, until))
  }

  /** Some of the walks, as they are drawn in a thread beside the one that checks. */
  drawnBeside({ until, first, count, ...targets }: DrawOrder): RecordData {
    const itinerary = itineraryOf(this.game, this.route, portionOfTargets(this.game, targets, until))
    return finished(this.draw(itinerary, first, count)).data(itinerary)
  }

  /**
   * The results before, but for some gates of which each alone has changed; null where what they rest on is walked together with others,
   * or where one of those whose opening bears on others opens at another moment, or perhaps does.
   */
  gatesAgain(gates: ReadonlySet<number>, bearing: readonly number[]): GateResult[] | null {
    const { game, route, profile, before } = this
    const [certain, ...random] = portionsOf(game, profile, gates)
    if (![...gates].every((g) => before!.check.record.gates[g]!.exact) || this.tellOnStrands(random).gates.size > 0) return null
    // What comes after they are due bears on them no more; of those that rest on no chance it is not known yet when that is.
    const until = certain!.targets.gates.size ? undefined : Math.max(...[...gates].map((g) => this.record.gates[g]!.due ?? route.stops.length - 1))
    const middle = this.walkMiddle(certain!, (g) => gates.has(g), [], itineraryOf(game, route, random.length ? { ...united([certain!, ...random]), until } : certain!))
    this.noteOpenings(certain!, middle)
    if (!bearing.every((g) => this.openings.get(g) !== null && this.openings.get(g) === before!.check.openings.get(g))) return null
    this.results = before!.check.results.map((result, g) => (gates.has(g) ? this.gateResult(g, middle) : result))
    this.drawn = before!.check.drawn
    this.before = null
    return this.ofGatesThere()
  }

  verdictAlone(g: number): Verdict {
    const portion = portionOfGate(this.game, g)
    const untold = this.tellOnStrands([portion])
    if (untold.gates.has(g) && !this.walkEveryBranch(portion)) finished(this.walkSamples(portion))
    return this.record.gates[g]!.verdictOf(false)
  }

  verdictsOf(gates: ReadonlySet<number>): Map<number, Verdict> {
    const portions = portionsOf(this.game, this.profile, gates)
    finished(this.walkRandom(portions))
    const middle = this.walkMiddle(portions[0]!, (g) => gates.has(g))
    return new Map([...gates].map((g) => [g, this.gateResult(g, middle).verdict]))
  }

  gateAlone(g: number): GateResult {
    this.verdictAlone(g)
    return this.gateResult(g, this.walkMiddle(null, (other) => other === g))
  }

  isOpenAtExtremes(g: number): boolean {
    this.walkExtremes(itineraryOf(this.game, this.route, portionOfGate(this.game, g)))
    return this.record.gates[g]!.verdictOf(false) === 'clear'
  }

  private noteOpenings(certain: Portion, { openings }: MiddleRecord): void {
    for (const g of certain.targets.gates) this.noteOpening(g, openings.get(g))
  }

  private noteOpening(g: number, moment: number | null | undefined): void {
    if (moment === undefined) this.openings.delete(g)
    else this.openings.set(g, moment)
  }

  private walk(itinerary: Itinerary, chance: Chance, watcher: Watcher, effort = Infinity): void {
    finished(this.walkInSteps(itinerary, chance, watcher, effort))
  }

  private walkInSteps(itinerary: Itinerary, chance: Chance, watcher: Watcher, effort = Infinity): Generator<number, void> {
    const { game, route, profile, schedule } = this
    return walkInSteps({ game, route, profile, itinerary, schedule, chance, watcher, effort })
  }

  /** Follows all branches of chance of a portion; false where there are too many. */
  private walkEveryBranch(portion: Portion): boolean {
    const { game, route, record, options } = this
    const itinerary = itineraryOf(game, route, portion)
    const effort = Math.max(leastEffort, options.effort * options.walks * itinerary.length)
    try {
      this.walk(itinerary, everyOutcome, new RecordWriter(record, itinerary, 1), effort)
      return true
    } catch (error) {
      if (!(error instanceof TooManyBranches)) throw error
      record.clear(portion.targets, itinerary.stops)
      return false
    }
  }

  /**
   * Draws walks, and walks the two ways that lie furthest apart: what they show is possible, even if no drawn walk does. Drawn ones are
   * counted, and only then taken as shares: it makes no difference which thread draws which.
   */
  private *walkSamples(portion: Portion): Generator<number, void> {
    const { walks, beside } = this.options
    const itinerary = itineraryOf(this.game, this.route, portion)
    const { targets, until = itinerary.stops - 1 } = portion
    for (const g of targets.gates) this.record.gates[g]!.exact = false
    const own = beside ? Math.ceil(walks / 2) : walks
    const others = own < walks ? beside!({ ...targets, until, first: own, count: walks - own }) : null
    const parts: Gathered[] = [(yield* this.draw(itinerary, 0, own)).handOver(itinerary)]
    let drawn = others?.() ?? null
    for (; others && drawn === null; drawn = others()) yield own / walks
    if (drawn === 'failed') parts.push((yield* this.draw(itinerary, own, walks - own)).handOver(itinerary))
    else if (drawn) parts.push(drawn)
    this.record.absorb(itinerary, parts, 1 / walks)
    this.walkExtremes(itinerary)
  }

  private draw(itinerary: Itinerary, first: number, count: number): Generator<number, RouteRecord> {
    const { game, route, profile, schedule, options: { seed } } = this
    return drawnInSteps({ game, route, profile, schedule, itinerary, seed }, first, count)
  }

  private walkExtremes(itinerary: Itinerary): void {
    const possible = new RecordWriter(this.record, itinerary, 0)
    for (const chance of [leastChance, mostChance]) this.walk(itinerary, chance, possible)
  }

  /** The middle walk. What rests on no chance goes the same way in it as in any: `certain` is written into the record. */
  private *middleInSteps(certain: Portion | null, isMeant: (g: number) => boolean, watchers: readonly Watcher[] = [], itinerary = this.whole): Generator<number, MiddleRecord> {
    const keeps = { book: this.options.sums, minutes: itinerary === this.whole, debts: this.options.debts }
    const middle = new MiddleRecord(this.game, this.route, (g) => (isMeant(g) ? this.furtherFrom(g) : null), keeps)
    const isWritten = certain !== null && !this.before?.portions.has(certain)
    const writers = isWritten ? [new RecordWriter(this.record, itineraryOf(this.game, this.route, certain), 1)] : []
    yield* this.walkInSteps(itinerary, middleChance, joined([...writers, middle, ...watchers]))
    return middle
  }

  private walkMiddle(...of: Parameters<RouteCheck['middleInSteps']>): MiddleRecord {
    return finished(this.middleInSteps(...of))
  }

  /** Where further units are looked for: as the middle walk has it, or from what one player in twenty has at most. */
  furtherFrom(g: number): FurtherFrom | null {
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

  /** The result of the check before, where it is the same; null: it may not be. */
  private gateAgain(g: number, middle: MiddleRecord): GateResult | null {
    if (this.options.sums || !this.before?.targets.gates.has(g) || middle.further.has(g)) return null
    const before = this.before.check.results[g]!
    return before.debt.length ? null : before
  }

  private gateResult(g: number, middle: MiddleRecord): GateResult {
    const gate = this.game.gates[g]!
    const record = this.record.gates[g]!
    const onRoute = record.met !== null || record.due !== null
    const p = record.p
    const further = middle.further.get(g)
    const ready = record.medianStop(record.ready, record.readyWeight)
    const { from, lost } = this.options.sums ? explained(this.game, middle, g) : unexplained
    const result: GateResult = {
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
      from,
      lost,
      debt: further?.debt ?? [],
    }
    return gate.error ? { ...result, error: gate.error.message } : result
  }

  private stopRef(stop: number | null): StopRef | null {
    return stop === null ? null : (this.stopRefs[stop] ??= { stop, place: this.game.places[this.route.stops[stop]!]!.id })
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

