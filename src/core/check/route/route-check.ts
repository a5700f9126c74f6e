import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { drawn, everyOutcome, middleChance, seededRandom, type Chance } from '../chance.ts'
import type { GateResult, ProfileResult, Quantiles, StopRef, StopResult, Verdict } from '../result.ts'
import { explained } from './explain.ts'
import { MiddleRecord } from './middle.ts'
import { settled, tidy, type GateRecord, RouteRecord } from './record.ts'
import { scheduleOf } from './schedule.ts'
import { TooManyBranches, walkRoute, type Watcher } from './walk-route.ts'

export interface RouteCheckOptions {
  seed: number
  /** Whether to give the sum behind each gate (`from`, `lost`); without it both are empty. */
  sums: boolean
  /** Walks drawn where chance is too wide to follow every branch. */
  walks: number
  /** Branches of chance followed side by side, times the plan's sources and gates, before walks are drawn instead. */
  branchBudget: number
}

/** Branches that are followed in a plan of any size. */
const leastBranches = 64

export const defaultRouteOptions: RouteCheckOptions = { seed: 1, sums: true, walks: 10_000, branchBudget: 30_000 }

/** For one route and one kind of player: is each gate open when it is due, and what is there (docs/checks.md 1)? */
export function checkRoute(game: Game, route: GameRoute, profile: GameProfile, options = defaultRouteOptions): ProfileResult {
  const steps = checkRouteInSteps(game, route, profile, options)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** The same in steps, so that a worker can look up between them: each yields the share of the walks done, 0 to 1. */
export function* checkRouteInSteps(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions): Generator<number, ProfileResult> {
  return yield* new RouteCheck(game, route, profile, options).steps()
}

/** Sources and gates passed in one step of drawn walks: about a tenth of a second. */
const itemsAStep = 20_000

class RouteCheck {
  private readonly schedule
  private record: RouteRecord
  private exact = true

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
    private readonly profile: GameProfile,
    private readonly options: RouteCheckOptions,
  ) {
    this.schedule = scheduleOf(game, route)
    this.record = this.newRecord(1)
  }

  *steps(): Generator<number, ProfileResult> {
    if (!this.walkEveryBranch()) yield* this.walkSamples()
    const middle = this.walkMiddle()
    return {
      profile: this.profile.id,
      stops: this.route.stops.map((place, stop) => this.stopResult(place, stop, middle)),
      gates: this.game.gates.map((_, g) => this.gateResult(g, middle)),
    }
  }

  private newRecord(share: number): RouteRecord {
    return new RouteRecord(this.game, this.route, share, this.schedule.neededAt)
  }

  private walk(chance: Chance, watcher: Watcher): void {
    const { game, route, profile, schedule } = this
    walkRoute({ game, route, profile, schedule, chance, watcher, mostBranches: Math.max(leastBranches, this.options.branchBudget / (game.sources.length + game.gates.length + 1)) })
  }

  /** Follows all branches of chance; false where there are too many. */
  private walkEveryBranch(): boolean {
    try {
      this.walk(everyOutcome, this.record)
      return true
    } catch (error) {
      if (error instanceof TooManyBranches) return false
      throw error
    }
  }

  private *walkSamples(): Generator<number, void> {
    this.exact = false
    this.record = this.newRecord(1 / this.options.walks)
    const walksAStep = Math.max(1, Math.round(itemsAStep / (this.game.sources.length + this.game.gates.length + 1)))
    for (let i = 0; i < this.options.walks; i++) {
      if (i % walksAStep === 0) yield i / this.options.walks
      this.walk(drawn(seededRandom(this.options.seed, i)), this.record)
    }
  }

  private walkMiddle(): MiddleRecord {
    const middle = new MiddleRecord(this.game, this.route, (g) => settled(this.record.gates[g]!.success) === 0)
    this.walk(middleChance, middle)
    return middle
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
    const p = settled(record.success)
    const further = middle.further.get(g)
    const ready = record.medianStop(record.ready, record.readyWeight)
    return {
      gate: gate.id,
      verdict: onRoute ? verdictOf(p, further?.opens ?? false) : 'off_route',
      p,
      interval: this.exact ? null : wilson(p, this.options.walks),
      exact: this.exact,
      met: this.stopRef(record.met),
      due: this.stopRef(record.due),
      opened: record.medianStop(record.opened, record.openedWeight),
      ready,
      wait: ready === null || record.met === null ? null : ready - record.met,
      comparisons: onRoute ? comparisonsOf(record) : [],
      ...(this.options.sums ? explained(this.game, middle, g) : { from: [], lost: [] }),
      debt: p === 0 ? (further?.debt ?? []) : [],
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

function verdictOf(p: number, opens: boolean): Verdict {
  if (p === 1) return 'clear'
  if (p > 0) return 'depends'
  return opens ? 'short' : 'sealed'
}

/** The 95 % interval of a probability seen as a share of `n` walks (Wilson). */
export function wilson(p: number, n: number): [number, number] {
  const z = 1.959964
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n)
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n))
  return [Math.max(0, middle - half), Math.min(1, middle + half)]
}

