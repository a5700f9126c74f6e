import { unitsPerOne } from '../../plan/basics.ts'
import { holds, standsAt } from '../../rules/engine.ts'
import type { Game, GameGate, GameProfile, GameRoute, GameSource } from '../../rules/game.ts'
import { rises } from '../../rules/relaxed.ts'
import { newState, type State } from '../../rules/state.ts'
import type { Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'
import { LevelsByAmount } from './levels-by-amount.ts'
import type { Portion } from './portion.ts'
import type { RecordWriter } from './record.ts'
import { dueWhenMet, type Schedule } from './schedule.ts'
import { Spread } from './spread.ts'
import { TooManyBranches } from './walk-route.ts'

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

/**
 * Whether a portion is one tally that only ever grows by what sources give, unconditionally: then what a player has of it at
 * any moment is a sum of independent units, and a level is read off it.
 */
export function isSum(game: Game, profile: GameProfile, { tallies, characters, sources, gates, counted, targets }: Portion): boolean {
  const [t] = tallies
  if (t === undefined || tallies.size > 1 || gates.size > 0 || counted.size > 0) return false
  const tally = game.tallies[t]!
  const most = [...sources].reduce((sum, s) => sum + game.sources[s]!.count * ofTally(game.sources[s]!, t).reduce((all, y) => all + y.max, 0), tally.start)
  return (
    (tally.resets === 'never' || (tally.resets === 'retry' && profile.retries === 0)) &&
    most <= Math.min(tally.max, mostSteps * unitsPerOne) &&
    tally.start % unitsPerOne === 0 &&
    [...sources].every((s) => isUnconditional(game.sources[s]!, t)) &&
    [...characters].every((c) => readsOff(game, c, t)) &&
    [...targets.gates].every((g) => rises(game.gates[g]!.requires) && !game.gates[g]!.error)
  )
}

/** Sums that are longer are left to be drawn. */
const mostSteps = 2_000_000

function ofTally({ yields }: GameSource, t: number) {
  return yields.filter((y) => y.tally === t)
}

function isUnconditional(source: GameSource, t: number): boolean {
  const whole = (n: number) => n >= 0 && n % unitsPerOne === 0
  return !source.error && source.requires.node === null && source.takes.length === 0 && ofTally(source, t).every((y) => whole(y.min) && whole(y.max))
}

/** Whether a character's level depends on the tally's amount alone: all XP is gained by it, carried, and climbed at once. */
function readsOff(game: Game, c: number, t: number): boolean {
  const { curve, joins, tally, rewards } = game.characters[c]!
  const capped = [...game.sources, ...game.gates].some(({ caps }) => caps.some((cap) => cap.character === null || cap.character === c))
  return tally === t && joins === null && !capped && curve !== null && curve.remainder === 'carry' && curve.levelsPerGain === 'many' && rewards.every((reward) => reward.yields.every((y) => y.tally !== t))
}

/** Works out such a portion along a route with the distribution of the sum, as the walk of every branch would. */
export function walkSums(options: SumOptions): void {
  new SumWalk(options).run()
}

interface GateState {
  /** The part of the sum with which it has not opened yet. */
  unopened: Spread
  isWhole: boolean
  due: number | null
  isDueNoted: boolean
  ready: number
}

class SumWalk {
  private readonly tally: number
  private now: Spread
  private stop = 0
  private effort: number
  private readonly state: State
  private readonly levels: LevelsByAmount
  private readonly met = new Map<number, GateState>()
  private readonly taken: Uint8Array
  private readonly spreads = new Map<number, Spread>()

  constructor(private readonly o: SumOptions) {
    this.tally = o.itinerary.tallies[0]!
    this.now = Spread.at(o.game.tallies[this.tally]!.start / unitsPerOne)
    this.effort = o.effort
    this.state = newState(o.game)
    this.levels = new LevelsByAmount(o.game, this.tally, o.itinerary.characters)
    this.taken = new Uint8Array(o.game.sources.length)
  }

  run(): void {
    const { stops } = this.o.route
    for (this.stop = 0; this.stop < stops.length; this.stop++) {
      this.state.visited[stops[this.stop]!] = 1
      this.pass(stops[this.stop]!)
      this.leave()
    }
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
    const { game, profile } = this.o
    const share = game.sources[s]!.main ? profile.main : profile.side
    if (share === 0) return
    const gain = this.gainOf(s, share)
    this.now = this.added(this.now, gain)
    for (const [g, gate] of this.met) {
      // Only where a gate's opening is at stake does its own part of the sum differ from the whole.
      if (gate.isWhole) gate.unopened = this.now
      else if (gate.unopened.weights.length && (!gate.isDueNoted || this.mayBePassedAgain(g))) gate.unopened = this.added(gate.unopened, gain)
    }
  }

  private mayBePassedAgain(g: number): boolean {
    return this.o.itinerary.openAt(this.stop).gates.includes(g)
  }

  private added(to: Spread, gain: Spread): Spread {
    this.effort -= to.weights.length * gain.weights.length
    if (this.effort < 0) throw new TooManyBranches()
    return to.plus(gain)
  }

  private gainOf(s: number, share: number): Spread {
    const known = this.spreads.get(s)
    if (known) return known
    const source = this.o.game.sources[s]!
    const unit = ofTally(source, this.tally).map((y) => Spread.even(y.min / unitsPerOne, y.max / unitsPerOne)).reduce((sum, y) => sum.plus(y), Spread.at(0))
    const gain = (share < 1 ? unit.orNothing(share) : unit).times(source.count)
    this.spreads.set(s, gain)
    return gain
  }

  private tryGate(g: number): void {
    const gate = this.o.game.gates[g]!
    const known = this.met.get(g)
    const of = known ?? this.meet(g, gate)
    if (!of.unopened.weights.length) return
    const from = this.opensFrom(gate, of.unopened)
    const opening = of.unopened.above(from)
    if (!opening.weights.length) return
    if (!gate.live) this.noteDue(of, g, opening, true)
    this.o.writer.opened(this.branch(opening.total), g, this.stop)
    // A live gate is judged at its due moment with all there is then.
    of.unopened = of.unopened.below(from)
    of.isWhole = false
  }

  private meet(g: number, gate: GameGate): GateState {
    const { due, late } = dueWhenMet(this.o.schedule, this.o.route, gate, g, this.stop)
    this.o.writer.met(g, this.stop, due)
    const of: GateState = { unopened: this.now, isWhole: true, due: late ? null : due, isDueNoted: late, ready: 0 }
    this.met.set(g, of)
    if (!late && gate.due === 'meeting') {
      const from = this.opensFrom(gate, this.now)
      this.noteDue(of, g, this.now.above(from), true)
      this.noteDue(of, g, this.now.below(from), false)
      of.isDueNoted = true
    }
    return of
  }

  /** The least amount with which a rising requirement holds, as far as a spread goes. */
  private opensFrom(gate: GameGate, within: Spread): number {
    let [low, high] = [within.from, within.end]
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      if (holds(gate, this.stateAt(middle))) high = middle
      else low = middle + 1
    }
    return low
  }

  private noteDue({ isDueNoted }: GateState, g: number, part: Spread, success: boolean): void {
    if (isDueNoted) return
    this.eachRead(g, part, (branch) => this.o.writer.due(branch, g, success))
  }

  private leave(): void {
    const { game, schedule, writer } = this.o
    for (const [g, of] of this.met) {
      const gate = game.gates[g]!
      if (of.due === this.stop && !of.isDueNoted) {
        const rest = gate.live ? this.now : of.unopened
        const from = this.opensFrom(gate, rest)
        this.noteDue(of, g, rest.above(from), true)
        this.noteDue(of, g, rest.below(from), false)
        of.isDueNoted = true
      }
      this.noteReady(g, gate, of)
    }
    for (const g of schedule.neededOnLeaving[this.stop]!) {
      if (!this.o.itinerary.gates[g] || this.met.has(g)) continue
      this.eachRead(g, this.now, (branch) => writer.due(branch, g, false))
    }
    this.each(this.now, (branch) => writer.left(branch, this.stop))
  }

  private noteReady(g: number, gate: GameGate, of: GateState): void {
    if (of.ready > 1 - 1e-12) return
    const ready = this.now.above(this.opensFrom(gate, this.now)).total
    if (ready <= of.ready) return
    this.o.writer.ready(this.branch(ready - of.ready), g, this.stop)
    of.ready = ready
  }

  private branch(weight: number): Branch {
    return { weight, state: this.state, wanted: none, notes: noNotes, changed: false }
  }

  /** Tells of all that a gate reads differently in a part: of every amount, or where it asks for levels alone of every level. */
  private eachRead(g: number, part: Spread, tell: (branch: Branch) => void): void {
    if (this.o.game.gates[g]!.requires.reads.tallies.length) return this.each(part, tell)
    const { from, weights } = part
    const branch = this.branch(0)
    for (let i = 0; i < weights.length; ) {
      const end = this.levelEnd(from + i, from + weights.length) - from
      branch.weight = 0
      for (; i < end; i++) branch.weight += weights[i]!
      if (branch.weight === 0) continue
      this.stateAt(from + end - 1)
      tell(branch)
    }
  }

  /** The first amount, up to `end`, with which some level is another than with `amount`: levels only rise with it. */
  private levelEnd(amount: number, end: number): number {
    const levels = (at: number) => this.o.itinerary.characters.map((c) => this.stateAt(at).level[c]!)
    const before = levels(amount)
    const isSame = (at: number) => levels(at).every((level, i) => level === before[i])
    let [low, high] = [amount + 1, end]
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      if (isSame(middle)) low = middle + 1
      else high = middle
    }
    return low
  }

  /** Tells of every amount in a part, as the branch with so much. One branch serves all: it is read at once. */
  private each({ from, weights }: Spread, tell: (branch: Branch) => void): void {
    const branch = this.branch(0)
    for (let i = 0; i < weights.length; i++) {
      if (weights[i] === 0) continue
      branch.weight = weights[i]!
      this.stateAt(from + i)
      tell(branch)
    }
  }

  /** The state with this much of the tally. One state serves all: it is read at once. */
  private stateAt(amount: number): State {
    this.state.tallies[this.tally] = amount * unitsPerOne
    this.levels.read(amount, this.state)
    return this.state
  }
}

const none = new Int32Array()
const noNotes = new Uint8Array()
