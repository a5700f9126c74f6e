import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { everyOutcome, leastChance, middleChance, mostChance, type Chance } from '../chance.ts'
import { finished, telling } from '../finished.ts'
import { drawnInSteps } from '../flock/drawn.ts'
import type { GateResult, ProfileResult, Verdict } from '../result.ts'
import { TooManyBranches } from './branch-walk.ts'
import { MiddleRecord, type FurtherFrom, type MiddleNotes } from './middle.ts'
import { noted } from './branch.ts'
import { firstStopOf, standing, type Milestone } from './milestone.ts'
import { itineraryOf, markedTargets, type Itinerary } from './itinerary.ts'
import type { KeptPart } from './kept-part.ts'
import { hasNoTargets, includes, narrowed, united, unitedAgain, wholePortion, type Portion, type Targets } from './portion.ts'
import { isWalkedAsOne, portionOfGate, portionOfTargets, portionsOf } from './portions.ts'
import { type Gathered, type RecordData, RouteRecord } from './record.ts'
import { RecordWriter } from './record-writer.ts'
import { joined } from './middle-walk.ts'
import { RouteResults } from './route-results.ts'
import { scheduleOf } from './schedule.ts'
import { StrandPasts } from './strand-pasts.ts'
import { strandsInSteps, type Untold } from '../strands/strand-walk.ts'
import type { WalkOptions } from './route-walk.ts'
import { walkInSteps } from './walk-route.ts'
import type { Watcher } from './watcher.ts'

export interface RouteCheckOptions {
  seed: number
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

export const defaultRouteOptions: RouteCheckOptions = { seed: 1, debts: true, walks: 10_000, effort: 0.1 }

/** For one route and one kind of player: is each gate open when it is due, and what is there (docs/checks.md 1)? */
export function checkRoute(game: Game, route: GameRoute, profile: GameProfile, options = defaultRouteOptions): ProfileResult {
  return finished(new RouteCheck(game, route, profile, options).steps())
}

/** One gate of a route, for one kind of player, without the sum behind it. */
export function gateResult(game: Game, route: GameRoute, profile: GameProfile, g: number, options = defaultRouteOptions): GateResult {
  return new RouteCheck(game, route, profile, options).gateAlone(g)
}

/** Its verdict alone; `sealed` stands for `short` too. */
export function gateVerdict(game: Game, route: GameRoute, profile: GameProfile, g: number, options = defaultRouteOptions): Verdict {
  return new RouteCheck(game, route, profile, options).verdictAlone(g)
}

/** The verdicts of some gates of a route, for one kind of player, by index; `short` and `sealed` as they are told apart in full. */
export function gateVerdicts(game: Game, route: GameRoute, profile: GameProfile, gates: ReadonlySet<number>, options = defaultRouteOptions): Map<number, Verdict> {
  return new RouteCheck(game, route, profile, { ...options, debts: false }).verdictsOf(gates)
}

/** Whether a gate is open when it is due for who has the least that can be had, and for who has the most. */
export function holdsAtExtremes(game: Game, route: GameRoute, profile: GameProfile, g: number): boolean {
  return new RouteCheck(game, route, profile, defaultRouteOptions).isOpenAtExtremes(g)
}

/** Draws some walks of a check that is made in another thread. */
export function drawWalks(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, order: DrawOrder): RecordData {
  return new RouteCheck(game, route, profile, options).drawnBeside(order)
}

/** What the middle walk walks of the plan (absent: all of it), from where it goes on, and what takes the milestones that it passes. */
type MiddleWay = Partial<Pick<WalkOptions, 'itinerary' | 'from' | 'milestones' | 'edited'>>

export class RouteCheck {
  private readonly schedule
  private readonly record: RouteRecord
  private readonly results: RouteResults
  private readonly whole: Itinerary
  /** By portion, what of it was drawn. */
  private drawn: ReadonlyMap<Portion, Portion> = new Map()
  /** Of the middle walk: where another that is the same up to there can go on from it, and what it showed. Until it is walked, those of the one before that it passes, too: it goes on from the last. */
  private milestones: readonly Milestone[] = []
  /** Of walks on strands, with the milestones that those of this check pass, too. */
  private pasts = new StrandPasts()
  private middle: MiddleNotes | null = null
  /** The first stop at which the check before is altered; 0: there is none. */
  private readonly first: number = 0
  /** By gate the moment at which it opens for all; null: not for all at once, or perhaps. Those that nobody opens are absent. */
  private openings = new Map<number, number | null>()

  constructor(
    readonly game: Game,
    readonly route: GameRoute,
    readonly profile: GameProfile,
    readonly options: RouteCheckOptions,
    private before: KeptPart | null = null,
    /** The last stop that is looked at; absent: that of the route. */
    private readonly until?: number,
  ) {
    this.schedule = scheduleOf(game, route)
    this.whole = itineraryOf(game, route, this.untilThere(wholePortion(game)))
    if (before) {
      const { check, touched } = before
      this.first = firstStopOf(touched, route, [check.game, check.schedule], [game, this.schedule])
      this.openings = new Map(check.openings)
      if (this.isFollowed && check.isFollowed) this.milestones = standing(check.milestones, this.first, route)
      this.pasts = check.pasts.upTo(this.first, route)
    }
    this.record = new RouteRecord(game, this.whole.stops, this.schedule.neededAt, before && { record: before.check.record, targets: before.targets })
    this.results = new RouteResults(game, route, this.record, options)
  }

  /** `watchersFrom`: who watches the middle walk from a stop on, up to which it is the one before. */
  *steps(watchersFrom: (stop: number) => readonly Watcher[] = () => []): Generator<number, ProfileResult> {
    const portions = portionsOf(this.game, this.profile)
    yield* this.walkRandom(portions)
    const middle = yield* telling(1, this.wholeMiddleInSteps(portions[0]!, watchersFrom))
    this.noteOpenings(portions[0]!, middle)
    this.record.close()
    this.results.tell(middle, this.before?.check.results ?? null)
    // A check is kept, but not all those before it, nor all that it rests on.
    this.before = null
    return this.told()
  }

  /**
   * The results of a check before, but for what is due, and what there is, up to the last stop that is looked at. Null where nothing up
   * to there is altered, or where branches would have to be followed, or walks drawn.
   */
  *stepsUntil(watchersFrom: (stop: number) => readonly Watcher[]): Generator<number, ProfileResult | null> {
    const { before, until } = this
    if (!before || until === undefined || this.first > until || before.check.isDrawn) return null
    const [certain, ...random] = portionsOf(this.game, this.profile)
    const untold = yield* telling(0, this.strandsInSteps(random.filter((portion) => !before.portions.has(portion)), true))
    if (untold.until >= 0) return null
    const middle = yield* telling(1, this.wholeMiddleInSteps(certain!, watchersFrom))
    this.results.tellUntil(until, middle, before.check.results)
    return this.told()
  }

  private told(): ProfileResult {
    return { profile: this.profile.id, stops: this.results.stops, gates: this.results.gatesThere }
  }

  /** A portion walked up to the last stop that is looked at. */
  private untilThere(portion: Portion): Portion {
    const { until } = this
    return until === undefined ? portion : { ...portion, until }
  }

  /** The middle walk of all that there is. Where it is the one before up to some stop, it goes on from there. */
  private *wholeMiddleInSteps(certain: Portion, watchersFrom: (stop: number) => readonly Watcher[]): Generator<number, MiddleRecord> {
    const { record } = this
    const passed = this.milestonesPassed(certain)
    this.milestones = passed
    const from = passed.at(-1) ?? null
    if (from && !this.before!.portions.has(certain)) record.goOnFrom(from.stop, certain.targets, (g) => record.asAt(from, g))
    const middle = yield* this.middleInSteps(certain, () => true, watchersFrom(from?.stop ?? 0), { from, edited: this.first, ...(this.isFollowed && { milestones: passed }) })
    this.middle = { further: middle.further, openings: middle.openings, minutes: middle.minutes }
    return middle
  }

  /** Whether another walk can go on from milestones of this one: not where the clock is kept from the first stop on, nor where what is drawn comes out otherwise. */
  private get isFollowed(): boolean {
    return !this.options.rhythm && !this.isDrawn
  }

  /**
   * Milestones from which the middle walk can go on: up to there further units are looked for as they were before. For whom a gate is due
   * later than for the middle an edit may bear on it still. Where something is drawn they may be looked for from elsewhere at any stop.
   */
  private milestonesPassed(certain: Portion): Milestone[] {
    const { record, before } = this
    if (this.isDrawn || !this.milestones.length) return []
    const { check } = before!
    const isAnew = (g: number) => !certain.targets.gates.has(g) && record.gates[g] !== check.record.gates[g]
    const isOther = (g: number) => isAnew(g) && JSON.stringify(this.furtherFrom(g)) !== JSON.stringify(check.furtherFrom(g))
    const { notes: last } = this.milestones.at(-1)!.branch
    const others = [...last.keys()].filter((g) => last[g]! & noted.due && isOther(g))
    return this.milestones.filter(({ branch: { notes } }) => !others.some((g) => notes[g]! & noted.due))
  }

  /** Whether some of it was drawn. */
  get isDrawn(): boolean {
    return this.drawn.size > 0
  }

  drew(portion: Portion): boolean {
    return this.drawn.has(portion)
  }

  /** All portions but the first, which rests on no chance and is walked with the middle walk. */
  private *walkRandom([, ...random]: readonly Portion[]): Generator<number, void> {
    const { before } = this
    const anew = random.filter((portion) => !before?.portions.has(portion))
    const untold = yield* telling(0, this.strandsInSteps(anew, true))
    this.drawn = new Map(random.flatMap((portion) => {
      const drawn = anew.includes(portion) ? this.leftToDraw(narrowed(portion, untold)) : before!.check.drawn.get(portion)
      return drawn ? [[portion, drawn] as const] : []
    }))
    yield 0
    const isDrawn = this.drawn.size === before?.check.drawn.size && [...this.drawn.keys()].every((portion) => before.portions.has(portion))
    if (!isDrawn && this.drawn.size > 0) yield* this.drawTogether([...this.drawn.values()])
  }

  /** Tells what it can of portions without following any branch, and what it cannot. `isKept`: the same portions may be told of again after an edit. */
  private *strandsInSteps(portions: readonly Portion[], isKept = false): Generator<number, Untold> {
    const all = this.untilThere(unitedAgain(portions))
    if (hasNoTargets(all)) return { ...all.targets, until: -1 }
    const { game, route, profile, schedule, record } = this
    const before = isKept && !this.options.rhythm ? { past: this.pasts.of(portions) } : {}
    const { untold, openings, past } = yield* strandsInSteps({ game, route, profile, schedule, record, itinerary: itineraryOf(game, route, all), effort: mostForSum, edited: this.first, ...before })
    if (isKept) this.pasts = this.pasts.after(portions, past)
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
    if (![...gates].every((g) => before!.check.record.gate(g).exact) || this.tellOnStrands(random).gates.size > 0) return null
    // What comes after they are due bears on them no more; of those that rest on no chance it is not known yet when that is.
    const until = certain!.targets.gates.size ? undefined : Math.max(...[...gates].map((g) => this.record.gate(g).due ?? route.stops.length - 1))
    const middle = this.walkMiddle(certain!, (g) => gates.has(g), [], { itinerary: itineraryOf(game, route, random.length ? { ...united([certain!, ...random]), until } : certain!) })
    this.noteOpenings(certain!, middle)
    if (!bearing.every((g) => this.openings.get(g) !== null && this.openings.get(g) === before!.check.openings.get(g))) return null
    this.record.close()
    this.results.tellOf(gates, middle, before!.check.results)
    this.drawn = before!.check.drawn
    this.middle = before!.check.middle
    this.before = null
    return this.results.gatesThere
  }

  verdictAlone(g: number): Verdict {
    const portion = portionOfGate(this.game, g)
    const untold = this.tellOnStrands([portion])
    if (untold.gates.has(g) && !this.walkEveryBranch(portion)) finished(this.walkSamples(portion))
    return this.record.gate(g).verdictOf(false)
  }

  verdictsOf(gates: ReadonlySet<number>): Map<number, Verdict> {
    const portions = portionsOf(this.game, this.profile, gates)
    finished(this.walkRandom(portions))
    const middle = this.walkMiddle(portions[0]!, (g) => gates.has(g))
    return new Map([...gates].map((g) => [g, this.results.gate(g, middle).verdict]))
  }

  gateAlone(g: number): GateResult {
    this.verdictAlone(g)
    return this.results.gate(g, this.walkMiddle(null, (other) => other === g))
  }

  isOpenAtExtremes(g: number): boolean {
    this.walkExtremes(itineraryOf(this.game, this.route, portionOfGate(this.game, g)))
    return this.record.gate(g).verdictOf(false) === 'clear'
  }

  private noteOpenings(certain: Portion, { openings }: MiddleRecord): void {
    for (const g of certain.targets.gates) this.noteOpening(g, openings.get(g))
  }

  private noteOpening(g: number, moment: number | null | undefined): void {
    if (moment === undefined) this.openings.delete(g)
    else this.openings.set(g, moment)
  }

  private walk(itinerary: Itinerary, chance: Chance, watcher: Watcher, effort = Infinity): void {
    finished(this.walkInSteps({ itinerary, chance, watcher, effort }))
  }

  private walkInSteps(way: Omit<WalkOptions, 'game' | 'route' | 'profile' | 'schedule'>): Generator<number, void> {
    const { game, route, profile, schedule } = this
    return walkInSteps({ game, route, profile, schedule, ...way })
  }

  /** Follows all branches of chance of a portion; false where there are too many. */
  private walkEveryBranch(portion: Portion): boolean {
    const { game, route, record, options } = this
    const itinerary = itineraryOf(game, route, portion)
    const effort = Math.max(leastEffort, options.effort * options.walks * itinerary.length)
    try {
      this.walk(itinerary, everyOutcome, new RecordWriter(record, itinerary.targets, 1), effort)
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
    for (const g of targets.gates) this.record.toNote(g).exact = false
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
    const possible = new RecordWriter(this.record, itinerary.targets, 0)
    for (const chance of [leastChance, mostChance]) this.walk(itinerary, chance, possible)
  }

  /** The middle walk. What rests on no chance goes the same way in it as in any: `certain` is written into the record. */
  private *middleInSteps(certain: Portion | null, isMeant: (g: number) => boolean, watchers: readonly Watcher[] = [], { itinerary = this.whole, ...way }: MiddleWay = {}): Generator<number, MiddleRecord> {
    const keeps = { minutes: itinerary === this.whole, debts: this.options.debts }
    const middle = new MiddleRecord(this.game, this.route, (g) => (isMeant(g) ? this.furtherFrom(g) : null), keeps)
    const isWritten = certain !== null && !this.before?.portions.has(certain)
    const writers = isWritten ? [new RecordWriter(this.record, markedTargets(this.game, certain.targets), 1)] : []
    if (way.from) middle.goOnFrom(this.before!.check.middle!, way.from)
    yield* this.walkInSteps({ itinerary, chance: middleChance, watcher: joined([...writers, middle, ...watchers]), ...way })
    return middle
  }

  private walkMiddle(...of: Parameters<RouteCheck['middleInSteps']>): MiddleRecord {
    return finished(this.middleInSteps(...of))
  }

  /** Where further units are looked for: as the middle walk has it, or from what one player in twenty has at most. */
  furtherFrom(g: number): FurtherFrom | null {
    const record = this.record.gate(g)
    if (record.verdictOf(true) === 'short') return { low: [] }
    return record.verdictOf(true) === 'depends' ? { low: record.lowSides() } : null
  }
}
