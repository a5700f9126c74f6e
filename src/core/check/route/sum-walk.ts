import { unitsPerOne } from '../../plan/basics.ts'
import { holds, standsAt } from '../../rules/engine.ts'
import type { Game, GameGate, GameProfile, GameRoute } from '../../rules/game.ts'
import { newState, type State } from '../../rules/state.ts'
import { shareOf } from '../chance.ts'
import type { Branch } from './branch.ts'
import { TooManyBranches } from './branch-walk.ts'
import type { Itinerary } from './itinerary.ts'
import { LevelsByAmount } from './levels-by-amount.ts'
import { drawnPosition, type RecordWriter } from './record-writer.ts'
import { dueWhenMet, type Schedule } from './schedule.ts'
import { Spread } from './spread.ts'
import { ofTally, stepOf } from './sums.ts'

interface SumOptions {
  game: Game
  route: GameRoute
  profile: GameProfile
  schedule: Schedule
  itinerary: Itinerary
  writer: RecordWriter
  /** Multiplications that may be made. */
  effort: number
}

/** Works out a portion that is a sum along a route with the distribution of the sum, as the walk of every branch would. */
export function walkSums(options: SumOptions): void {
  new SumWalk(options).run()
}

interface GateState {
  /** The part of the sum with which it has not opened yet; null: all of it. */
  unopened: Spread | null
  due: number | null
  isDueNoted: boolean
  ready: number
}

/** A gate that is not come to again before it is due at the end: what had not opened it by then, and how much was gained before. */
interface PutOff {
  g: number
  part: Spread
  gains: number
}

/** In multiplications: to tell of one amount. */
const tellEffort = 20

/** Numbers that parts put off may have together. */
const mostHeld = 8_000_000

/** A sum is this many standard deviations from its mean where it is negligible (see Spread). */
const deviations = 10

class SumWalk {
  private readonly tally: number
  /** Sums are counted in steps of so many units, from the tally's start on. */
  private readonly step: number
  private now = Spread.at(0)
  private stop = 0
  private effort: number
  private readonly state: State
  private readonly levels: LevelsByAmount
  private readonly met = new Map<number, GateState>()
  /** Gates of which a part of the sum is followed on its own. */
  private readonly apart = new Set<GateState>()
  private readonly putOff: PutOff[] = []
  private held = 0
  /** By steps: see isDrawnAlike. */
  private readonly alike: boolean[] = []
  private lastPositions: readonly number[]
  private readonly taken: Uint8Array
  private readonly spreads = new Map<string, Spread>()
  /** All that was gained so far, source by source. */
  private readonly gains: Spread[] = []
  /** By gate: the last stop at which it can be opened. */
  private readonly lastAt = new Map<number, number>()

  constructor(private readonly o: SumOptions) {
    const { game, route, itinerary } = o
    this.tally = itinerary.tallies[0]!
    this.step = stepOf(game, itinerary.items.flatMap((items) => [...items].filter((item) => item >= 0)), this.tally)
    this.effort = o.effort
    this.state = newState(game)
    this.levels = new LevelsByAmount(game, this.tally, itinerary.characters, this.step)
    this.taken = new Uint8Array(game.sources.length)
    route.stops.forEach((place, stop) => {
      for (const item of itinerary.items[place]!) if (item < 0) this.lastAt.set(-1 - item, stop)
    })
    this.lastPositions = this.positionsAt(0)
    for (const g of itinerary.anywhere) this.lastAt.set(g, route.stops.length - 1)
  }

  run(): void {
    const { stops } = this.o.route
    if (this.expectedEffort() > this.effort) throw new TooManyBranches()
    for (this.stop = 0; this.stop < stops.length; this.stop++) {
      this.state.visited[stops[this.stop]!] = 1
      this.pass(stops[this.stop]!)
      this.leave()
    }
    this.settle()
  }

  /** About how many multiplications the sum alone takes: it is as wide as what is not negligible of it. */
  private expectedEffort(): number {
    const { game, itinerary, route, profile } = this.o
    let [effort, range, variance] = [0, 0, 0]
    for (const place of new Set(route.stops)) for (const s of itinerary.items[place]!) {
      const share = s < 0 ? 0 : shareOf(game, profile, s)
      if (share === 0) continue
      const source = game.sources[s]!
      const { count } = source
      for (const { min, max } of ofTally(source, this.tally)) {
        const [mean, width] = [(min + max) / 2 / this.step, (max - min) / this.step]
        range += count * (share < 1 ? max / this.step : width)
        variance += count * share * (width ** 2 / 12 + (1 - share) * mean ** 2)
        effort += count * (width + 1) * Math.min(range, 2 * deviations * Math.sqrt(variance))
      }
    }
    return effort
  }

  /** All that is wanted is taken in the first pass; gates are tried where they stand, and again when all is taken. */
  private pass(place: number): void {
    const { game, itinerary } = this.o
    const here: number[] = []
    for (const item of itinerary.items[place]!) {
      if (item >= 0) this.take(item)
      else {
        here.push(-1 - item)
        this.tryGate(-1 - item)
      }
    }
    const anywhere = itinerary.anywhere.filter((g) => standsAt(game, game.gates[g]!, place))
    for (const g of [...anywhere, ...here]) this.tryGate(g)
  }

  private take(s: number): void {
    if (this.taken[s]) return
    this.taken[s] = 1
    const share = shareOf(this.o.game, this.o.profile, s)
    if (share === 0) return
    const gain = this.gainOf(s, share)
    this.gains.push(gain)
    this.now = this.added(this.now, gain)
    for (const gate of this.apart) gate.unopened = this.added(gate.unopened!, gain)
  }

  private readonly added = (to: Spread, gain: Spread): Spread => {
    this.spend(to.costOf(gain))
    return to.plus(gain)
  }

  private spend(effort: number): void {
    this.effort -= effort
    if (this.effort < 0) throw new TooManyBranches()
  }

  private gainOf(s: number, share: number): Spread {
    const source = this.o.game.sources[s]!
    const { count } = source
    const own = ofTally(source, this.tally)
    const name = `${share} ${count} ${own.map(({ min, max }) => `${min} ${max}`).join()}`
    if (!this.spreads.has(name)) {
      const each = own.map(({ min, max }) => Spread.even(min / this.step, max / this.step, unitsPerOne / this.step))
      const unit = each.reduce(this.added, Spread.at(0))
      this.spreads.set(name, (share < 1 ? unit.orNothing(share) : unit).times(count, this.added))
    }
    return this.spreads.get(name)!
  }

  private tryGate(g: number): void {
    const gate = this.o.game.gates[g]!
    const of = this.met.get(g) ?? this.meet(g, gate)
    const unopened = of.unopened ?? this.now
    if (!unopened.weights.length) return
    const from = this.opensFrom(gate, unopened)
    const opening = unopened.above(from)
    if (!opening.weights.length) return
    if (!gate.live && !of.isDueNoted) this.tellDue(g, opening, true)
    this.o.writer.opened(this.branch(opening.total), g, this.stop)
    // A live gate is judged at its due moment with all there is then.
    of.unopened = unopened.below(from)
    this.apart.add(of)
  }

  private meet(g: number, gate: GameGate): GateState {
    const { due, late } = dueWhenMet(this.o.schedule, this.o.route, gate, g, this.stop)
    this.o.writer.met(g, this.stop, due)
    const of: GateState = { unopened: null, due: late ? null : due, isDueNoted: late, ready: 0 }
    this.met.set(g, of)
    if (!late && gate.due === 'meeting') {
      this.tellDueAsItStands(g, this.now)
      of.isDueNoted = true
    }
    return of
  }

  /** The fewest steps with which a rising requirement holds, as far as a spread goes. */
  private opensFrom(gate: GameGate, within: Spread): number {
    let [low, high] = [within.from, within.end]
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      if (holds(gate, this.stateAt(middle))) high = middle
      else low = middle + 1
    }
    return low
  }

  private tellDueAsItStands(g: number, all: Spread): void {
    const from = this.opensFrom(this.o.game.gates[g]!, all)
    this.tellDue(g, all.above(from), true)
    this.tellDue(g, all.below(from), false)
  }

  private tellDue(g: number, part: Spread, success: boolean): void {
    this.eachRead(g, part, (branch) => this.o.writer.due(branch, g, success))
  }

  private leave(): void {
    const { game, schedule, writer } = this.o
    const below = this.now.cumulated()
    for (const [g, of] of this.met) {
      const gate = game.gates[g]!
      if (of.due === this.stop && !of.isDueNoted) {
        this.tellDueAsItStands(g, gate.live ? this.now : (of.unopened ?? this.now))
        of.isDueNoted = true
      }
      this.noteReady(g, gate, of, below)
      if (this.lastAt.get(g)! <= this.stop) this.passNoMore(g, gate, of)
    }
    for (const g of schedule.neededOnLeaving[this.stop]!) {
      if (!this.o.itinerary.gates[g] || this.met.has(g)) continue
      this.eachRead(g, this.now, (branch) => writer.due(branch, g, false))
    }
    this.leaveWith(this.now)
  }

  /** A gate that is not come to again opens for nobody else: what has not opened it matters only when it is due. */
  private passNoMore(g: number, gate: GameGate, of: GateState): void {
    if (!this.apart.has(of)) return
    const isToCome = !of.isDueNoted && !gate.live
    if (isToCome && of.due !== this.o.route.stops.length - 1) return
    this.apart.delete(of)
    const part = of.unopened!
    if (!isToCome || part.weights.length === 0) return
    this.held += part.weights.length
    if (this.held > mostHeld) throw new TooManyBranches()
    this.putOff.push({ g, part, gains: this.gains.length })
    of.isDueNoted = true
  }

  /** `below`: how likely each amount is not reached now. */
  private noteReady(g: number, gate: GameGate, of: GateState, below: Float64Array): void {
    if (of.ready > 1 - 1e-12) return
    const ready = below.at(-1)! - below[this.opensFrom(gate, this.now) - this.now.from]!
    if (ready <= of.ready) return
    this.o.writer.ready(this.branch(ready - of.ready), g, this.stop)
    of.ready = ready
  }

  /** Notes the due moment of all gates put off to the end, from the last one met to the first: the longer ago, the more was gained since. */
  private settle(): void {
    let since = Spread.at(0)
    let gained = this.gains.length
    this.stop = this.o.route.stops.length - 1
    for (const { g, part, gains } of this.putOff.reverse()) {
      while (gained > gains) since = this.added(since, this.gains[--gained]!)
      if (this.readsAmounts(g)) this.tellDueAsItStands(g, this.added(part, since))
      else this.noteLevelsAfter(g, part, since)
    }
  }

  /** The due moment of a gate that asks for levels alone, of a part of the sum and all that was gained since. */
  private noteLevelsAfter(g: number, part: Spread, since: Spread): void {
    const below = since.cumulated()
    const end = part.end + since.end - 1
    const branch = this.branch(0)
    const gate = this.o.game.gates[g]!
    for (let from = part.from + since.from; from < end; ) {
      const next = Math.min(end, this.levels.endOfLevel(from))
      branch.weight = likelihoodWithin(part, below, from - since.from, next - since.from)
      this.spend(part.weights.length)
      if (branch.weight > 0) this.o.writer.due(branch, g, holds(gate, this.stateAt(from)))
      from = next
    }
  }

  private branch(weight: number): Branch {
    return { weight, state: this.state, wanted: none, notes: noNotes, changed: false }
  }

  private readsAmounts(g: number): boolean {
    return this.o.game.gates[g]!.requires.reads.tallies.length > 0
  }

  /** Tells of all that a gate reads differently in a part: of every amount, or where it asks for levels alone of every level. */
  private eachRead(g: number, part: Spread, tell: (branch: Branch) => void): void {
    if (this.readsAmounts(g)) this.each(part, tell)
    else this.eachLevel(part, tell)
  }

  private eachLevel({ from, weights }: Spread, tell: (branch: Branch, first: number, end: number) => void): void {
    const branch = this.branch(0)
    for (let i = 0; i < weights.length; ) {
      const first = i
      const end = Math.min(weights.length, this.levels.endOfLevel(from + i) - from)
      branch.weight = 0
      for (; i < end; i++) branch.weight += weights[i]!
      if (branch.weight === 0) continue
      this.stateAt(from + first)
      tell(branch, first, end)
    }
  }

  /** Tells of every amount in a part, as the branch with so much. One branch serves all: it is read at once. */
  private each({ from, weights }: Spread, tell: (branch: Branch) => void): void {
    this.spend(weights.length * tellEffort)
    const branch = this.branch(0)
    for (let i = 0; i < weights.length; i++) {
      if (weights[i] === 0) continue
      branch.weight = weights[i]!
      this.stateAt(from + i)
      tell(branch)
    }
  }

  private leaveWith(sum: Spread): void {
    const { writer, itinerary } = this.o
    writer.leftWith(this.stop, this.tally, this.amountOf(sum.from), this.step, sum.weights)
    if (itinerary.characters.length > 0) this.leaveAtLevels(sum)
    writer.settled(this.stop)
  }

  private leaveAtLevels(sum: Spread): void {
    const { writer } = this.o
    this.spend(sum.weights.length * tellEffort)
    this.eachLevel(sum, (branch, from, end) => {
      writer.leftAtLevel(branch, this.stop)
      branch.weight = 0
      for (let i = from; i < end; i++) {
        branch.weight += sum.weights[i]!
        // Amounts that are drawn at the same position are told of together.
        if (branch.weight === 0 || (i + 1 < end && this.isDrawnAlike(sum.from + i))) continue
        this.stateAt(sum.from + i)
        writer.leftAtPosition(branch, this.stop)
        branch.weight = 0
      }
    })
  }

  /** Whether so many steps and one more are drawn at the same position, for all characters. */
  private isDrawnAlike(steps: number): boolean {
    while (this.alike.length <= steps) {
      const next = this.positionsAt(this.alike.length + 1)
      this.alike.push(next.every((position, i) => position === this.lastPositions[i]))
      this.lastPositions = next
    }
    return this.alike[steps]!
  }

  private positionsAt(steps: number): number[] {
    const state = this.stateAt(steps)
    return this.o.itinerary.characters.map((c) => drawnPosition(this.o.game, state, c))
  }

  private amountOf(steps: number): number {
    return this.o.game.tallies[this.tally]!.start + steps * this.step
  }

  /** The state with so many steps gained. One state serves all: it is read at once. */
  private stateAt(steps: number): State {
    this.state.tallies[this.tally] = this.amountOf(steps)
    this.levels.read(steps, this.state)
    return this.state
  }
}

/** How likely it is that a part and a sum, of which `below` tells how likely each is not reached, lie from one value to before another. */
function likelihoodWithin(part: Spread, below: Float64Array, from: number, end: number): number {
  const { weights } = part
  const last = below.length - 1
  let likelihood = 0
  for (let i = 0; i < weights.length; i++) {
    if (weights[i] === 0) continue
    const [low, high] = [from - part.from - i, end - part.from - i]
    const upTo = high <= 0 ? 0 : below[high < last ? high : last]!
    const upFrom = low <= 0 ? 0 : below[low < last ? low : last]!
    likelihood += weights[i]! * (upTo - upFrom)
  }
  return likelihood
}

const none = new Int32Array()
const noNotes = new Uint8Array()
