import { canOpen, enter, hasWhatItAsks, isOpen, retry } from '../../rules/engine.ts'
import { middleRoll, playOf, type Play } from '../../rules/gain.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameGate, GameProfile, GameRoute } from '../../rules/game.ts'
import { shareOf, type Chance } from '../chance.ts'
import { isBought } from './bought.ts'
import { firstBranch, noted, type Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'
import { branchFrom, isMilestone, milestoneAt, type Milestone } from './milestone.ts'
import { dueWhenMet, type Schedule } from './schedule.ts'
import type { Cause, DueMoment, Watcher } from './watcher.ts'

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
  /** Where to go on; absent: from the beginning. */
  from?: Milestone | null
  /** Is given milestones on the way. */
  milestones?: Milestone[]
  /** The first stop on which the edit bears that is followed, if one is. */
  edited?: number
}

const notMet = -1

/** A walk along a route, stop by stop: what is noted of its gates on the way. How a stop is passed is left to the kinds of walks. */
export abstract class RouteWalk {
  protected branches: Branch[]
  protected stop = 0
  /** Passes that were made over the place at this stop, where they are counted. */
  protected passes = 0
  /** Gates met whose ready stop is still to be found in some branch. */
  protected waiting: number[] = []
  private readonly metAt: Int32Array
  /** By stop the gates met that are due on leaving it. */
  protected readonly dueOnLeaving: number[][]

  /** What happens at the move that is under way, where somebody asks for it. */
  private readonly events: GameEvent[] | null
  private readonly entering: Play

  constructor(protected readonly o: WalkOptions) {
    this.events = o.watcher.events ? [] : null
    this.entering = this.playing(middleRoll)
    this.branches = [o.from ? branchFrom(o.from, o.game) : firstBranch(o.game)]
    this.metAt = new Int32Array(o.game.gates.length).fill(notMet)
    this.dueOnLeaving = o.route.stops.map(() => [])
    if (o.from) this.goOnFrom(o.from)
  }

  /** A play of which the watcher is told what it asks for. */
  protected playing(roll: Play['roll']): Play {
    return playOf(roll, this.events, !this.o.watcher.asksAmounts)
  }

  /** Gates that were met on the way to a milestone wait as they waited there. */
  private goOnFrom({ metAt, branch: { notes } }: Milestone): void {
    this.metAt.set(metAt)
    metAt.forEach((stop, g) => {
      if (stop !== notMet) this.wait(g, this.o.game.gates[g]!, stop, notes[g]!)
    })
  }

  /** Passes over the contents of a place until nothing changes any more. */
  protected abstract passUntilQuiet(place: number): void

  /** Walks on to the end, stop by stop: yields each that has been left. */
  *steps(): Generator<number, void> {
    const { route, itinerary, from, milestones, edited = -1 } = this.o
    const start = from?.stop ?? 0
    for (this.stop = start; this.stop < itinerary.stops; this.stop++) {
      if (milestones && this.stop > start && isMilestone(this.stop, route, edited)) milestones.push(milestoneAt(this.stop, this.branches[0]!, this.metAt))
      const place = route.stops[this.stop]!
      for (const branch of this.branches) this.enter(branch, place)
      this.passes = 0
      this.passUntilQuiet(place)
      this.leave()
      yield this.stop
    }
  }

  private enter(branch: Branch, place: number): void {
    enter(this.o.game, branch.state, place, this.entering)
    if (this.o.profile.retries > 0) retry(this.o.game, branch.state, this.entering)
    this.tell({ type: 'enter' })
    this.o.watcher.entered?.(branch.state, this.stop)
  }

  protected shareOf(s: number): number {
    return shareOf(this.o.game, this.o.profile, s)
  }

  /** Notes what is to be noted when a gate is come to, before it may open. */
  protected come(branch: Branch, g: number, gate: GameGate): void {
    if (this.metAt[g] === notMet) this.meet(g, gate)
    if (gate.due === 'meeting') this.noteDue(branch, g, 'meeting')
    if (gate.live) this.noteLive(branch, g)
  }

  private meet(g: number, gate: GameGate): void {
    this.metAt[g] = this.stop
    const due = this.wait(g, gate, this.stop, 0)
    this.o.watcher.met?.(g, this.stop, due)
  }

  /** Has a gate that was met at a stop wait for what is still to be noted of it; answers the stop on whose leaving it is due. */
  private wait(g: number, gate: GameGate, stop: number, notes: number): number {
    const { due, late } = dueWhenMet(this.o.schedule, this.o.route, gate, g, stop)
    if (this.o.itinerary.targets.gates[g] && !(notes & noted.ready)) this.waiting.push(g)
    // What is late was noted as missed when it was needed.
    if (!late && gate.due !== 'meeting' && !(notes & noted.due)) this.dueOnLeaving[due]!.push(g)
    return due
  }

  private noteDue(branch: Branch, g: number, moment: DueMoment): void {
    if (branch.notes[g]! & noted.due) return
    branch.notes[g]! |= noted.due
    const couldBefore = moment !== 'meeting' && (branch.notes[g]! & noted.couldBuy) !== 0
    this.o.watcher.due?.(branch, g, moment === 'opening' || couldBefore || hasWhatItAsks(this.o.game, branch.state, g), moment)
  }

  private noteMissed(branch: Branch, g: number): void {
    branch.notes[g]! |= noted.due
    this.o.watcher.due?.(branch, g, false, 'unmet')
  }

  private noteLive(branch: Branch, g: number): void {
    if (!(branch.notes[g]! & noted.opened) && isOpen(this.o.game, branch.state, g)) this.noteOpened(branch, g)
  }

  /** Whether a gate opens at this passing; what is noted of it is noted before it does. */
  protected opensNow(branch: Branch, g: number, gate: GameGate): boolean {
    if (branch.state.opened[g] || !canOpen(this.o.game, branch.state, g)) return false
    if (!isBought(gate, this.o.profile)) {
      branch.notes[g]! |= noted.couldBuy
      return false
    }
    this.noteDue(branch, g, 'opening')
    this.noteOpened(branch, g)
    return true
  }

  private noteOpened(branch: Branch, g: number): void {
    branch.notes[g]! |= noted.opened
    this.o.watcher.opened?.(branch, g, this.stop, this.passes)
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
        if (hasWhatItAsks(this.o.game, branch.state, g)) {
          branch.notes[g]! |= noted.ready
          this.o.watcher.ready?.(branch, g, this.stop)
        } else waits[i] = 1
      })
    }
    this.waiting = this.waiting.filter((_, i) => waits[i])
  }

  /** Tells what has happened at a move, where somebody asks for it. */
  protected tell(cause: Cause): void {
    const { events } = this
    if (!events?.length) return
    this.o.watcher.events!(events, cause, this.stop)
    events.length = 0
  }
}
