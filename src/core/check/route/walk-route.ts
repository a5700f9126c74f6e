import { canOpen, canTake, enter, isOpen, open, retry, standsAt, take, takeAtOnce } from '../../rules/engine.ts'
import type { GameEvent } from '../../rules/events.ts'
import { plainPlay, type Play } from '../../rules/gain.ts'
import type { Game, GameGate, GameProfile, GameRoute, GameYield } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { Chance } from '../chance.ts'
import { branchKey, cloneBranch, firstBranch, merged, noted, type Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'
import { dueWhenMet, type Schedule } from './schedule.ts'

/** Told of the walk as it goes; each call is for one branch, with its weight. */
export interface Watcher {
  /** A gate is met for the first time, before it can open. `due`: the stop on whose leaving it is due at the latest. */
  met?(gate: number, stop: number, due: number): void
  /** The due moment of a gate has come (or it is about to open before that). `success`: it is open or could be opened. */
  due?(branch: Branch, gate: number, success: boolean, moment: DueMoment): void
  opened?(branch: Branch, gate: number, stop: number): void
  ready?(branch: Branch, gate: number, stop: number): void
  left?(branch: Branch, stop: number): void
  /** A place has been entered, and what resets or joins there has. */
  entered?(state: State, stop: number): void
  /** Units were taken (one, but where `takesAtOnce`), or a gate opened. */
  moved?(cause: Cause, stop: number, units: number): void
  /** Whether units of a source that can be taken at once may be told of together. */
  readonly takesAtOnce?: boolean
  /** What happened, and what it was due to. */
  events?(events: GameEvent[], cause: Cause, stop: number, state: State): void
}

/** When a gate's due moment was noted; `unmet`: it was needed before it was met. */
export type DueMoment = 'meeting' | 'opening' | 'leaving' | 'unmet'

export type Cause = { type: 'source' | 'gate'; index: number } | { type: 'enter' }

/** Thrown when following every branch takes more than the effort allowed: the caller samples instead. */
export class TooManyBranches extends Error {
  override readonly name = 'TooManyBranches'
}

export interface WalkOptions {
  game: Game
  route: GameRoute
  profile: GameProfile
  /** What is walked of the plan. */
  itinerary: Itinerary
  schedule: Schedule
  chance: Chance
  watcher: Watcher
  /** Moves in branches that may be made in all; absent: as many as there are. */
  effort?: number
}

const notMet = -1

/** Making a branch and telling it from others, against passing an item in one. */
const splitEffort = 8

/** Where there are more, there are soon far more. Each holds all sources and gates of the plan. */
const mostBranches = 3_000
const mostHeld = 500_000

/** Stops after which branches are compared anyway. */
const stopsApart = 8

type Single = NonNullable<Chance['single']>

/** Plays a route as a profile does, all branches of chance side by side (docs/model.md 8). */
export function walkRoute(options: WalkOptions): void {
  new RouteWalk(options).run()
}

class RouteWalk {
  private branches: Branch[]
  /** Where the walk goes one way only. */
  private readonly single: Single | null
  private readonly metAt: Int32Array
  private readonly dueOnLeaving: number[][]
  /** Gates met whose ready stop is still to be found in some branch. */
  private waiting: number[] = []
  private stop = 0
  private effort: number
  private readonly mostBranches: number
  private keyOf: (branch: Branch) => string = () => ''
  /** The stop at which some branch last went several ways. */
  private partedAt = 0
  /** By source and gate: whether it needs no branches, once it was asked. */
  private readonly certain: { sources: Uint8Array; gates: Uint8Array }
  private readonly isTold: boolean
  private readonly rewardsAreFixed: boolean

  constructor(private readonly o: WalkOptions) {
    this.single = o.chance.single
    this.branches = [firstBranch(o.game)]
    this.metAt = new Int32Array(o.game.gates.length).fill(notMet)
    this.dueOnLeaving = o.route.stops.map(() => [])
    this.effort = o.effort ?? Infinity
    this.isTold = Boolean(o.watcher.moved ?? o.watcher.events)
    this.certain = { sources: new Uint8Array(o.game.sources.length), gates: new Uint8Array(o.game.gates.length) }
    this.rewardsAreFixed = o.game.characters.every((c) => c.rewards.every((r) => isFixed(r.yields)))
    this.mostBranches = o.effort === undefined ? Infinity : Math.min(mostBranches, mostHeld / (o.game.sources.length + o.game.gates.length + 1))
  }

  run(): void {
    const { stops } = this.o.route
    for (this.stop = 0; this.stop < stops.length; this.stop++) {
      const place = stops[this.stop]!
      if (!this.single) this.keyOf = branchKey(this.o.itinerary, this.stop, this.waiting)
      for (const branch of this.branches) this.enter(branch, place)
      this.passUntilQuiet(place)
      this.leave()
    }
  }

  private enter(branch: Branch, place: number): void {
    this.told(branch.state, { type: 'enter' }, (play) => {
      enter(this.o.game, branch.state, place, play)
      if (this.o.profile.retries > 0) retry(this.o.game, branch.state, play)
    })
    this.o.watcher.entered?.(branch.state, this.stop)
  }

  private passUntilQuiet(place: number): void {
    if (this.single) return this.passAlone(this.branches[0]!, place, this.single)
    let active = this.branches
    const settled: Branch[] = []
    while (active.length) {
      for (const branch of active) branch.changed = false
      active = this.pass(active, place)
      for (const branch of active) if (!branch.changed) settled.push(branch)
      active = active.filter((branch) => branch.changed)
    }
    this.branches = this.mayMeet() ? merged(settled, this.keyOf) : settled
  }

  /** Whether branches may have become alike that were not: soon after they have parted, and now and then. */
  private mayMeet(): boolean {
    return this.stop - this.partedAt <= 1 || this.stop % stopsApart === 0
  }

  private pass(branches: Branch[], place: number): Branch[] {
    let all = branches
    for (const item of this.o.itinerary.items[place]!) {
      all = item >= 0 ? this.passSource(all, item) : this.passGate(all, -1 - item)
    }
    for (const g of this.o.itinerary.anywhere) {
      if (standsAt(this.o.game, this.o.game.gates[g]!, place)) all = this.passGate(all, g)
    }
    return all
  }

  /** The same where there is one way only, which is all that most walks are: nothing is made but the moves. */
  private passAlone(branch: Branch, place: number, single: Single): void {
    const { items, anywhere } = this.o.itinerary
    const { game } = this.o
    do {
      branch.changed = false
      for (const item of items[place]!) {
        if (item >= 0) this.passSourceAlone(branch, item, single)
        else this.passGateAlone(branch, -1 - item, single)
      }
      for (const g of anywhere) if (standsAt(game, game.gates[g]!, place)) this.passGateAlone(branch, g, single)
    } while (branch.changed)
  }

  private passSource(branches: Branch[], s: number): Branch[] {
    // Most passes come to a source of which all that is wanted is taken.
    if (branches.every(({ wanted, state }) => wanted[s] === state.taken[s])) return this.narrowed(branches, branches.length)
    if (this.isCertain('sources', s) && this.isWantedWhole(s)) return this.takeEverywhere(branches, s)
    const after: Branch[] = []
    for (const branch of branches) {
      if (branch.wanted[s] === branch.state.taken[s]) after.push(branch)
      else if (branch.wanted[s] !== -1) this.takeWanted(branch, s, after)
      else for (const drawn of this.withWanted(branch, s)) this.takeWanted(drawn, s, after)
    }
    return this.narrowed(after, branches.length)
  }

  /** Whether nobody leaves units of a source to chance. */
  private isWantedWhole(s: number): boolean {
    const share = this.shareOf(s)
    return share === 0 || share === 1
  }

  private takeEverywhere(branches: Branch[], s: number): Branch[] {
    const wanted = this.o.game.columns.count[s]! * this.shareOf(s)
    for (const branch of branches) {
      branch.wanted[s] = wanted
      this.takeCertain(branch, s)
    }
    return this.narrowed(branches, branches.length)
  }

  private passSourceAlone(branch: Branch, s: number, single: Single): void {
    const { game, watcher } = this.o
    const { taken } = branch.state
    if (branch.wanted[s] === -1) branch.wanted[s] = single.units(game.columns.count[s]!, this.shareOf(s))
    const left = branch.wanted[s]! - taken[s]!
    if (left === 0) return
    const isWatched = Boolean(watcher.events ?? watcher.moved)
    if (game.columns.atOnce[s] && (!isWatched || watcher.takesAtOnce)) {
      branch.changed = true
      if (isWatched) this.watched(branch, { type: 'source', index: s }, left, single, (state, play) => takeAtOnce(game, state, s, left, play))
      else takeAtOnce(game, branch.state, s, left, single.play)
      return
    }
    while (taken[s]! < branch.wanted[s]! && canTake(game, branch.state, s)) {
      branch.changed = true
      if (isWatched) this.watched(branch, { type: 'source', index: s }, 1, single, (state, play) => take(game, state, s, play))
      else take(game, branch.state, s, single.play)
    }
  }

  private shareOf(s: number): number {
    return this.o.game.columns.main[s] ? this.o.profile.main : this.o.profile.side
  }

  private watched(branch: Branch, cause: Cause, units: number, single: Single, move: (state: State, play: Play) => void): void {
    this.o.watcher.moved?.(cause, this.stop, units)
    this.told(branch.state, cause, (play) => move(branch.state, { ...play, roll: single.play.roll }))
  }

  private narrowed(branches: Branch[], before: number): Branch[] {
    if (branches.length > 1) this.effort -= branches.length > before ? branches.length * splitEffort : branches.length
    if (branches.length > before) this.partedAt = this.stop
    const fewer = branches.length > before ? merged(branches, this.keyOf) : branches
    if (this.effort < 0 || fewer.length > this.mostBranches) throw new TooManyBranches()
    return fewer
  }

  /** Draws how many units of a source are wanted, once in the whole route. */
  private withWanted(branch: Branch, s: number): Branch[] {
    if (branch.wanted[s] !== -1) return [branch]
    const source = this.o.game.sources[s]!
    const ways = this.o.chance.units(source.count, this.shareOf(s))
    if (ways.length === 1) {
      branch.wanted[s] = ways[0]![0]
      return [branch]
    }
    return ways.map(([units, probability], i) => {
      const next = i === ways.length - 1 ? branch : cloneBranch(branch, branch.weight)
      next.weight = branch.weight * probability
      next.wanted[s] = units
      return next
    }).reverse()
  }

  /**
   * Whether no chance falls on an item, and nobody wants to be told of it: then it needs no branches. A yield with a range on a tally
   * that does not matter gives its least, without a branch: that is left to the slow way.
   */
  private isCertain(kind: 'sources' | 'gates', i: number): boolean {
    const known = this.certain[kind]
    if (known[i] === 0) known[i] = !this.isTold && this.rewardsAreFixed && isFixed(this.o.game[kind][i]!.yields) ? 1 : 2
    return known[i] === 1
  }

  private takeWanted(branch: Branch, s: number, done: Branch[]): void {
    const { game } = this.o
    if (this.isCertain('sources', s)) {
      this.takeCertain(branch, s)
      done.push(branch)
      return
    }
    const cause: Cause = { type: 'source', index: s }
    let going = [branch]
    while (going.length) {
      const next: Branch[] = []
      for (const b of going) {
        if (b.state.taken[s]! >= b.wanted[s]! || !canTake(game, b.state, s)) done.push(b)
        else this.moved(b, cause, (state, play) => take(game, state, s, play), next)
      }
      going = this.narrowed(next, 1)
    }
  }

  /** Units on which no chance falls, one after another in the same branch. */
  private takeCertain(branch: Branch, s: number): void {
    const { game } = this.o
    const { state } = branch
    const left = branch.wanted[s]! - state.taken[s]!
    if (left === 0) return
    if (game.columns.atOnce[s]) {
      branch.changed = true
      return takeAtOnce(game, state, s, left, plainPlay)
    }
    while (state.taken[s]! < branch.wanted[s]! && canTake(game, state, s)) {
      branch.changed = true
      take(game, state, s, plainPlay)
    }
  }

  private passGate(branches: Branch[], g: number): Branch[] {
    const gate = this.o.game.gates[g]!
    const isCertain = this.isCertain('gates', g)
    const after: Branch[] = []
    for (const branch of branches) {
      this.come(branch, g, gate)
      const opens = !gate.live && this.opensNow(branch, g, gate)
      if (opens && !isCertain) {
        this.moved(branch, { type: 'gate', index: g }, (state, play) => open(this.o.game, state, g, play), after)
        continue
      }
      if (opens) {
        branch.changed = true
        open(this.o.game, branch.state, g, plainPlay)
      }
      after.push(branch)
    }
    return this.narrowed(after, branches.length)
  }

  /** Notes what is to be noted when a gate is come to, before it may open. */
  private come(branch: Branch, g: number, gate: GameGate): void {
    if (this.metAt[g] === notMet) this.meet(g, gate)
    if (gate.due === 'meeting') this.noteDue(branch, g, 'meeting')
    if (gate.live) this.noteLive(branch, g)
  }

  private meet(g: number, gate: GameGate): void {
    const { due, late } = dueWhenMet(this.o.schedule, this.o.route, gate, g, this.stop)
    this.metAt[g] = this.stop
    if (this.o.itinerary.targets.gates[g]) this.waiting.push(g)
    this.o.watcher.met?.(g, this.stop, due)
    // What is late was noted as missed when it was needed.
    if (!late && gate.due !== 'meeting') this.dueOnLeaving[due]!.push(g)
  }

  private noteDue(branch: Branch, g: number, moment: DueMoment): void {
    if (branch.notes[g]! & noted.due) return
    branch.notes[g]! |= noted.due
    const couldBefore = moment !== 'meeting' && (branch.notes[g]! & noted.couldBuy) !== 0
    this.o.watcher.due?.(branch, g, moment === 'opening' || couldBefore || this.hasWhatItAsks(branch.state, g), moment)
  }

  private noteMissed(branch: Branch, g: number): void {
    branch.notes[g]! |= noted.due
    this.o.watcher.due?.(branch, g, false, 'unmet')
  }

  /** Whether the gate is open, or could be opened with what the player has, wherever the player is. */
  private hasWhatItAsks(state: State, g: number): boolean {
    return isOpen(this.o.game, state, g) || canOpen(this.o.game, state, g)
  }

  private passGateAlone(branch: Branch, g: number, single: Single): void {
    const { game, watcher } = this.o
    const gate = game.gates[g]!
    this.come(branch, g, gate)
    if (gate.live || !this.opensNow(branch, g, gate)) return
    branch.changed = true
    if (watcher.events ?? watcher.moved) this.watched(branch, { type: 'gate', index: g }, 1, single, (state, play) => open(game, state, g, play))
    else open(game, branch.state, g, single.play)
  }

  private noteLive(branch: Branch, g: number): void {
    if (!(branch.notes[g]! & noted.opened) && isOpen(this.o.game, branch.state, g)) this.noteOpened(branch, g)
  }

  /** Whether a gate opens at this passing; what is noted of it is noted before it does. */
  private opensNow(branch: Branch, g: number, gate: GameGate): boolean {
    if (branch.state.opened[g] || !canOpen(this.o.game, branch.state, g)) return false
    if (!gate.main && gate.costs.length > 0 && !this.o.profile.buysAll) {
      branch.notes[g]! |= noted.couldBuy
      return false
    }
    this.noteDue(branch, g, 'opening')
    this.noteOpened(branch, g)
    return true
  }

  private noteOpened(branch: Branch, g: number): void {
    branch.notes[g]! |= noted.opened
    this.o.watcher.opened?.(branch, g, this.stop)
  }

  private leave(): void {
    for (const g of this.dueOnLeaving[this.stop]!) for (const branch of this.branches) this.noteDue(branch, g, 'leaving')
    for (const g of this.o.schedule.neededOnLeaving[this.stop]!) {
      // One that was not met by now is due all the same, and counts as not open.
      if (this.o.itinerary.gates[g] && this.metAt[g] === notMet) for (const branch of this.branches) this.noteMissed(branch, g)
    }
    this.noteReady()
    for (const branch of this.branches) this.o.watcher.left?.(branch, this.stop)
  }

  /** Notes the met gates that are ready now, branch by branch; those that are not in some branch go on waiting. */
  private noteReady(): void {
    const waits = new Uint8Array(this.waiting.length)
    for (const branch of this.branches) {
      this.waiting.forEach((g, i) => {
        if (branch.notes[g]! & noted.ready) return
        if (this.hasWhatItAsks(branch.state, g)) {
          branch.notes[g]! |= noted.ready
          this.o.watcher.ready?.(branch, g, this.stop)
        } else waits[i] = 1
      })
    }
    this.waiting = this.waiting.filter((_, i) => waits[i])
  }

  /** Makes a move in a branch, in every way that chance can fall. */
  private moved(branch: Branch, cause: Cause, move: (state: State, play: Play) => void, after: Branch[]): void {
    branch.changed = true
    this.o.watcher.moved?.(cause, this.stop, 1)
    let rolled = false
    const before = this.o.chance.exact ? cloneIfRandom(this.o.game, this.o.itinerary, branch, cause) : null
    const ways = this.o.chance.rolls((roll) => {
      const target = before && rolled ? cloneBranch(before, branch.weight) : branch
      rolled = true
      this.told(target.state, cause, (play) => move(target.state, { ...play, roll: this.rollsThatMatter(roll) }))
      return target
    })
    const weight = branch.weight
    for (const [target, probability] of ways) {
      target.weight = weight * probability
      after.push(target)
    }
  }

  /** What falls on tallies outside of what is walked makes no difference, and no branches. */
  private rollsThatMatter(roll: Play['roll']): Play['roll'] {
    const { matters } = this.o.itinerary
    return (y) => (matters[y.tally] ? roll(y) : y.min)
  }

  private told(state: State, cause: Cause, move: (play: Play) => void): void {
    const events: GameEvent[] | null = this.o.watcher.events ? [] : null
    move(events ? { ...plainPlay, events } : plainPlay)
    if (events?.length) this.o.watcher.events!(events, cause, this.stop, state)
  }
}

/** A copy to start the other ways of chance from; none is made where the move cannot be random. */
function cloneIfRandom(game: Game, itinerary: Itinerary, branch: Branch, cause: Cause): Branch | null {
  const item = cause.type === 'source' ? game.sources[cause.index]! : cause.type === 'gate' ? game.gates[cause.index]! : null
  return item !== null && isRandomMove(game, itinerary, item.yields) ? cloneBranch(branch, branch.weight) : null
}

function isRandomMove(game: Game, { matters }: Itinerary, yields: readonly GameYield[]): boolean {
  const ranged = (some: readonly GameYield[]) => some.some((y) => y.min !== y.max && matters[y.tally])
  return ranged(yields) || game.characters.some((c) => c.rewards.some((r) => ranged(r.yields)))
}

function isFixed(yields: readonly GameYield[]): boolean {
  return yields.every((y) => y.min === y.max)
}
