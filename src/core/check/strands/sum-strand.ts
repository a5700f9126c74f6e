import { unitsPerOne } from '../../plan/basics.ts'
import { remembered } from '../../plan/remembered.ts'
import { sameList } from '../../plan/same-list.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { leastOf } from '../../plan/least-of.ts'
import type { Quantiles } from '../result.ts'
import { RunningSum } from '../sums/running-sum.ts'
import { Spread } from '../sums/spread.ts'
import type { Change } from './change.ts'
import type { GateNotes } from './gate-notes.ts'
import { LevelsByAmount, type Stretch } from './levels-by-amount.ts'

/** Values that a sum may have: more would take too much memory. */
export const mostValues = 8_000_000

/** In multiplications: to tell of one amount. */
const tellEffort = 20

export interface SumStrandOptions {
  game: Game
  tally: number
  /** Sums are counted in steps of so many units, from the tally's start on. */
  step: number
  /** Characters whose level is read off the sum. */
  characters: readonly number[]
  /** Whether it never falls. */
  grows: boolean
  /** Multiplications that may be made. */
  effort: number
}

/** Numbers that parts put off may have together. */
const mostHeld = 8_000_000

/** A part of which nobody asks until later, and how many gains there were before it was put off. */
interface PutOff {
  part: GateNotes
  before: number
}

/** What a sum has come to, to go on from there once more. */
export interface KeptSum {
  step: number
  grows: boolean
  characters: readonly number[]
  version: number
  effort: number
  running: RunningSum
  gains: readonly Spread[]
  held: number
  apart: readonly GateNotes[]
  putOff: readonly PutOff[]
  /** What is made on the way, and is the same again. */
  kernels: Map<number, Map<number, Kernels>>
  stretches: Stretch[]
}

/** Levels that a sum comes to from so many steps on, with so much weight. */
interface LevelWeight {
  from: number
  weight: number
}

/** What changes come to, by what they do. */
type Kernels = Map<number | string, Spread>

const newMap = <K, V>() => new Map<K, V>()

/** Tells changes apart that do not do the same; most give one fixed amount. */
function nameOf({ yields, paid }: Change): number | string {
  const [first] = yields
  if (first && yields.length === 1 && paid === 0 && first.min === first.max) return first.min
  return `${paid} ${yields.map(({ min, max }) => `${min} ${max}`).join()}`
}

/** A tally as the sum of independent parts: how likely each amount is, and the levels that are read off it. */
export class SumStrand {
  readonly tally: number
  readonly grows: boolean
  readonly characters: readonly number[]
  /** Another number after everything that changes it. */
  version = 0
  /** Gates whose part that has not opened them is followed on its own: what is gained comes to it, too. */
  readonly apart = new Set<GateNotes>()
  private putOff: PutOff[] = []
  private held = 0
  /** All that was gained since it was at its start. */
  private gains: Spread[] = []
  private readonly start: number
  private readonly step: number
  private readonly levels: LevelsByAmount
  /** By share, and by number of units. */
  private kernels = new Map<number, Map<number, Kernels>>()
  private effort: number
  private running = new RunningSum()
  /** What was made of all that there is, as long as nothing is added. */
  private shares: { of: number; steps: number[] } | null = null
  private byLevelNow: { of: number; levels: LevelWeight[] } | null = null

  constructor({ game, tally, step, characters, grows, effort }: SumStrandOptions) {
    this.tally = tally
    this.grows = grows
    this.characters = characters
    this.step = step
    this.start = game.tallies[tally]!.start
    this.effort = effort
    this.levels = new LevelsByAmount(game, tally, characters, step)
  }

  /** What it has come to. `notesOf`: by gate notes, which go on changing, what is kept of them. */
  keep(notesOf: ReadonlyMap<GateNotes, GateNotes>): KeptSum {
    const { step, grows, characters, version, effort, running, gains, held, apart, putOff, kernels, levels: { stretches } } = this
    return { step, grows, characters, version, effort, running: running.copy(), gains: [...gains], held, kernels, stretches, ...partsIn(notesOf, { apart, putOff }) }
  }

  /** Whether what was kept is of the same sum. */
  isAs({ step, grows, characters, effort }: KeptSum): boolean {
    return this.step === step && this.grows === grows && sameList(this.characters, characters) && !this.isTooWide && effort >= 0
  }

  /** Stands as a strand like it stood; `notesOf`: by gate notes that were kept the ones to go on with. */
  goOnFrom(kept: KeptSum, notesOf: ReadonlyMap<GateNotes, GateNotes>): void {
    const { apart, putOff } = partsIn(notesOf, kept)
    this.version = kept.version
    this.effort = kept.effort
    this.running = kept.running.copy()
    this.gains = [...kept.gains]
    this.held = kept.held
    this.kernels = kept.kernels
    this.levels.stretches = kept.stretches
    for (const part of apart) this.apart.add(part)
    this.putOff = putOff
  }

  /** All that there is now, which stands until something is added. It is costly to see all of a long sum. */
  get now(): Spread {
    return this.running.whole()
  }

  /** The fewest steps that there are now, as far as they are told apart. */
  get least(): number {
    return this.running.from
  }

  /** One more than the most steps that there are now. */
  get end(): number {
    return this.running.end
  }

  /** Whether it has become too wide to be followed. */
  get isTooWide(): boolean {
    return this.effort < 0
  }

  /** Adds what a change in `count` units, each of which comes with probability `share`, makes of the tally. */
  add(change: Change, count = 1, share = 1): void {
    if (this.isTooWide || share === 0) return
    const kernel = this.kernelOf(change, count, share)
    this.gains.push(kernel)
    this.version++
    // What would take too long is not begun.
    const cost = this.running.costOf(kernel)
    const isTooMuch = cost > this.effort || !this.running.isWithin(mostValues - kernel.weights.length)
    this.effort -= isTooMuch ? Infinity : this.running.add(kernel)
    for (const part of this.apart) part.unopened = this.added(part.unopened!, kernel)
  }

  /** Takes it back to its start. */
  reset(): void {
    this.running = new RunningSum()
    this.version++
    this.gains = []
    for (const put of this.putOff) put.before = 0
    for (const part of [...this.apart, ...this.putOff.map(({ part }) => part)]) part.unopened = new Spread(0, Float64Array.of(part.unopened!.total))
  }

  /** Follows a part no more until it is taken up again. */
  putOffPart(part: GateNotes): void {
    this.apart.delete(part)
    this.held += part.unopened!.weights.length
    if (this.held > mostHeld) this.effort = -1
    this.putOff.push({ part, before: this.gains.length })
  }

  /** Takes up all parts put off, from the last to the first: `since`: what was gained after each. The longer ago, the more that was. */
  takeUp(tell: (part: GateNotes, since: Spread) => void): void {
    const since = new RunningSum()
    let whole = Spread.at(0)
    let gained = this.gains.length
    for (const { part, before } of this.putOff.reverse()) {
      if (gained > before) {
        while (gained > before && !this.isTooWide) this.effort -= since.add(this.gains[--gained]!)
        whole = since.whole().copy()
      }
      if (!this.isTooWide) tell(part, whole)
    }
    this.putOff = []
  }

  /** A part with what was gained since it was put off. */
  withGains(part: Spread, since: Spread): Spread {
    return this.added(part, since)
  }

  /** Tells of the levels that a part comes to with what was gained since, each with its weight, read into a state. */
  eachLevelAfter(part: Spread, since: Spread, state: State, tell: (weight: number) => void): void {
    const below = since.cumulated()
    const levels = this.levelsOver(part.from + since.from, part.end + since.end - 1, (values) => {
      this.effort -= part.weights.length * values.length
      return part.likelihoodsWith(since.from, below, values)
    })
    this.tellOf(levels, state, tell)
  }

  private readonly added = (to: Spread, kernel: Spread): Spread => {
    this.effort -= to.costOf(kernel)
    return this.isTooWide ? to : to.plus(kernel)
  }

  /** What a change in `count` units, each of which comes with probability `share`, comes to. */
  kernelOf(change: Change, count: number, share: number): Spread {
    const known = remembered(remembered(this.kernels, share, newMap<number, Kernels>), count, newMap<number | string, Spread>)
    return remembered(known, nameOf(change), () => this.madeKernel(change, count, share))
  }

  private madeKernel({ yields, paid }: Change, count: number, share: number): Spread {
    const { step } = this
    const each = yields.map(({ min, max }) => Spread.even(min / step, max / step, Math.max(1, unitsPerOne / step)))
    const unit = each.reduce((sum, one) => this.added(sum, one), Spread.at(-paid / step))
    return (share < 1 ? unit.orNothing(share) : unit).times(count, (a, b) => this.added(a, b))
  }

  stepsOf(amount: number): number {
    return (amount - this.start) / this.step
  }

  /** Fills in what a player with so many steps has. At its limit a character's XP is left out of account. */
  read(steps: number, state: State): void {
    state.tallies[this.tally] = this.start + steps * this.step
    this.levels.read(steps, state)
  }

  /** The first number of steps after `steps` with which a level is another. */
  endOfLevel(steps: number): number {
    return this.levels.endOfLevel(steps)
  }

  /** Runs something that reads amounts into a state, and leaves the state as it was. */
  reading<T>(state: State, run: () => T): T {
    const { tally, characters } = this
    const amount = state.tallies[tally]!
    const before = characters.map((c) => [state.level[c]!, state.xp[c]!] as const)
    const result = run()
    state.tallies[tally] = amount
    characters.forEach((c, i) => ([state.level[c], state.xp[c]] = before[i]!))
    return result
  }

  /** Tells of every amount in a part with its weight, read into a state. */
  eachAmount(part: Spread, state: State, tell: (weight: number) => void): void {
    this.effort -= part.weights.length * tellEffort
    this.reading(state, () => {
      for (let i = 0; i < part.weights.length; i++) {
        if (part.weights[i] === 0) continue
        this.read(part.from + i, state)
        tell(part.weights[i]!)
      }
    })
  }

  /** Tells of numbers of steps that are possible, without weight, read into a state. */
  eachPossible(all: readonly number[], state: State, tell: (weight: number) => void): void {
    this.tellOf(all.map((from) => ({ from, weight: 0 })), state, tell)
  }

  /** Tells of every level in a part, or in all that there is now, with its weight, read into a state. */
  eachLevel(part: Spread | null, state: State, tell: (weight: number) => void): void {
    this.tellOf(part ? this.levelsOver(part.from, part.end, (values) => part.likelihoods(values)) : this.levelsNow(), state, tell)
  }

  private tellOf(levels: readonly LevelWeight[], state: State, tell: (weight: number) => void): void {
    this.reading(state, () => {
      for (const { from, weight } of levels) {
        this.read(from, state)
        tell(weight)
      }
    })
  }

  private levelsNow(): LevelWeight[] {
    const { running } = this
    // Many gates are asked at the same moment.
    if (this.byLevelNow?.of !== this.version) {
      this.byLevelNow = { of: this.version, levels: this.levelsOver(running.from, running.end, (values) => running.likelihoods(values)) }
    }
    return this.byLevelNow.levels
  }

  /** The levels from so many steps on to before so many that are likely at all. */
  private levelsOver(from: number, end: number, likelihoods: (values: readonly number[]) => number[]): LevelWeight[] {
    const ends = [from]
    while (ends.at(-1)! < end) ends.push(Math.min(end, this.levels.endOfLevel(ends.at(-1)!)))
    return likelihoods(ends).map((weight, i) => ({ from: ends[i]!, weight })).filter(({ weight }) => weight > 0)
  }

  /** How likely it is to lie below the least number of steps of which something is true that is true of all above. */
  likelihoodBelow(isTrue: (steps: number) => boolean): number {
    const { running } = this
    return running.likelihoodBelow(leastOf(running.from, running.end, isTrue))
  }

  /** The same where it turns no sooner than a level does. */
  likelihoodBelowLevel(isTrue: (steps: number) => boolean): number {
    const levels = this.levelsNow()
    const below = leastOf(0, levels.length, (i) => isTrue(levels[i]!.from))
    return levels.slice(0, below).reduce((sum, { weight }) => sum + weight, 0)
  }

  /** How likely there are so many steps, or more. */
  likelihoodFrom(steps: number): number {
    return steps >= this.end ? 0 : 1 - this.running.likelihoodBelow(steps)
  }

  /** What is read at its least, its quantiles and its most, where more of it is never read as less; `least`, `most`: amounts. */
  quantilesOf(state: State, least: number, most: number, read: () => number): Quantiles {
    if (this.shares?.of !== this.version) this.shares = { of: this.version, steps: this.running.quantiles([0.05, 0.5, 0.95]) }
    const [q05, median, q95] = this.shares.steps as [number, number, number]
    const readAt = (steps: number) => {
      this.read(steps, state)
      return read()
    }
    return this.reading(state, () => ({ min: readAt(this.stepsOf(least)), q05: readAt(q05), median: readAt(median), q95: readAt(q95), max: readAt(this.stepsOf(most)) }))
  }
}

/** Parts that are followed on their own with other notes for theirs; parts of gates of which nothing is to be noted any more are let go. */
function partsIn(notesOf: ReadonlyMap<GateNotes, GateNotes>, { apart, putOff }: { apart: Iterable<GateNotes>; putOff: readonly PutOff[] }): { apart: GateNotes[]; putOff: PutOff[] } {
  return {
    apart: [...apart].flatMap((part) => notesOf.get(part) ?? []),
    putOff: putOff.flatMap(({ part, before }) => (notesOf.has(part) ? [{ part: notesOf.get(part)!, before }] : [])),
  }
}
