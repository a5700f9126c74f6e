import { truthOf, type Outcome } from '../../language/ranges.ts'
import { hasWhatItAsks } from '../../rules/engine.ts'
import { fromUnits } from '../../rules/compile.ts'
import { risesThroughout } from '../../rules/relaxed.ts'
import type { Game } from '../../rules/game.ts'
import { leastOf } from '../../plan/least-of.ts'
import type { BareSide } from '../route/comparison.ts'
import type { ComparisonRecord } from '../route/comparison-record.ts'
import type { RouteRecord } from '../route/record.ts'
import type { Spread } from '../sums/spread.ts'
import { askedByCost, type Asked } from './asked.ts'
import type { Bounds } from './bounds.ts'
import { ChainStrand } from './chain-strand.ts'
import type { GateNotes } from './gate-notes.ts'
import { RewardedSum } from './rewarded-sum.ts'
import { SumStrand } from './sum-strand.ts'
import type { Strand, Strands } from './strands.ts'

/** Some of the players a gate is told of: all of them, or those of a part of the strand that it rides, with who has least and most of it. */
interface Some {
  part: Spread | null
  /** Whether nothing is told of others later. */
  isLast: boolean
  least: boolean
  most: boolean
}

/** How far a strand had come that there was none of: what is compared was the same for all. */
const fixed = -1

const everybody: Some = { part: null, least: true, most: true, isLast: true }

/**
 * Writes into the record what comes of gates for all players at once: where it is the same for all, from the strand that each of its
 * comparisons rests on; where it depends, by splitting the one strand on which it does. What cannot be told so is left untold.
 */
export class GateTeller {
  constructor(
    private readonly game: Game,
    private readonly record: RouteRecord,
    private readonly bounds: Bounds,
    private readonly strands: Strands,
  ) {}

  /** Whether a gate can be opened now, or a live one passed: by all, by none, or by some. */
  outcome(g: number): Outcome {
    const gate = this.game.gates[g]!
    if (this.bounds.low.opened[g]) return 'yes'
    const truth = this.bounds.truth(gate)
    if (gate.live || truth === 'no') return truth
    const pays = this.bounds.canPay(gate.costs)
    return pays === 'yes' ? truth : pays
  }

  /** A gate is come to, and opens for those who can, where it is bought. */
  come(notes: GateNotes, outcome: Outcome, stop: number): void {
    if (notes.isOpenForAll || outcome === 'no') return
    if (!notes.isBought) {
      if (outcome === 'yes') notes.couldBuy = true
      else if (!notes.couldBuy) notes.isUntold = true
    } else if (outcome === 'yes') this.openForAll(notes, stop)
    else this.openForSome(notes, stop)
  }

  private openForAll(notes: GateNotes, stop: number): void {
    if (!notes.gate.live && !notes.isDueTold) this.due(notes, 'yes')
    this.noteOpened(notes, notes.unopened ? notes.unopened.total : 1, stop)
    notes.isOpenForAll = true
    this.letGo(notes)
  }

  private openForSome(notes: GateNotes, stop: number): void {
    const strand = this.strandOf(notes)
    if (!strand) return
    const unopened = notes.unopened ?? strand.now
    const from = this.opensFrom(notes, strand, unopened)
    const least = !notes.isOpenForLeast && this.opensWith(notes, strand, this.leastSteps(strand))
    const most = !notes.isOpenForMost && this.opensWith(notes, strand, this.mostSteps(strand))
    const opening = unopened.above(from)
    if (!opening.weights.length && !least && !most) return
    notes.rides = strand.tally
    if (!notes.gate.live && !notes.isDueTold) {
      this.succeed(notes.g, opening.total, least || most)
      this.compare(notes, { part: opening, least, most, isLast: false })
    }
    this.noteOpened(notes, opening.total, stop)
    notes.unopened = unopened.below(from).copy()
    notes.openedFrom = Math.min(notes.openedFrom, from)
    notes.isOpenForLeast ||= least
    notes.isOpenForMost ||= most
    strand.apart.add(notes)
  }

  private noteOpened({ g, isUntold }: GateNotes, weight: number, stop: number): void {
    if (!isUntold && weight > 0) this.record.toNote(g).noteOpened(stop, weight)
  }

  /** Its due moment has come for all for whom it has not come yet. */
  due(notes: GateNotes, outcome: Outcome): void {
    notes.isDueTold = true
    const { g, gate } = notes
    const all: Some = gate.live || !notes.unopened ? everybody : { part: notes.unopened, least: !notes.isOpenForLeast, most: !notes.isOpenForMost, isLast: true }
    const weight = all.part ? all.part.total : 1
    const isAnybody = weight > 0 || all.least || all.most
    if (notes.couldBuy || outcome === 'yes') this.succeed(g, weight, isAnybody)
    else if (outcome === 'no') this.fail(g, isAnybody)
    else this.divide(notes, all)
    this.compare(notes, all)
  }

  /** The due moment of what was put off: of a part that has not opened it, and what was gained since. */
  dueAfter(notes: GateNotes, strand: SumStrand, since: Spread): void {
    const outcome = this.outcome(notes.g)
    if (this.asksAmounts(notes, strand)) {
      notes.unopened = strand.withGains(notes.unopened!, since)
      return this.due(notes, outcome)
    }
    notes.isDueTold = true
    const { low } = this.bounds
    const comparisons = this.record.toNote(notes.g).comparisons
    const tell = (weight: number) => {
      const opens = outcome === 'yes' || (outcome === 'maybe' && hasWhatItAsks(this.game, low, notes.g))
      if (opens) this.succeed(notes.g, weight, true)
      else this.fail(notes.g, true)
      for (const comparison of comparisons) comparison.add(low, weight)
    }
    strand.eachLevelAfter(notes.unopened!, since, low, tell)
    strand.eachPossible(this.endsOf(strand, { least: !notes.isOpenForLeast, most: !notes.isOpenForMost }), low, tell)
    if (outcome === 'maybe' && this.strandOf(notes) !== strand) notes.isUntold = true
    if (!partsOf(notes).every((asked) => this.isOn(asked, strand))) notes.isUntold = true
  }

  /** Whether what is asked for rests on one strand, or on nothing. */
  private isOn(asked: Asked, strand: Strand): boolean {
    const strands = this.strands.under(asked)
    return strands !== null && [...strands].every((other) => other === strand)
  }

  private asksAmounts(notes: GateNotes, { tally }: SumStrand): boolean {
    return [...partsOf(notes), notes.asks.apart].some(({ tallies }) => tallies.includes(tally))
  }

  /** A gate that the route needs before it is met: it counts as not open. */
  missed(notes: GateNotes): void {
    this.fail(notes.g, true)
    this.compare(notes, everybody)
  }

  private divide(notes: GateNotes, { part, least, most }: Some): void {
    const strand = this.strandOf(notes)
    if (!strand) return
    const all = part ?? strand.now
    const from = this.opensFrom(notes, strand, all)
    const [opening, closed] = [all.above(from), all.below(from)]
    const ends = this.endsOf(strand, { least, most }).map((steps) => this.opensWith(notes, strand, steps))
    this.succeed(notes.g, opening.total, opening.weights.length > 0 || ends.includes(true))
    this.fail(notes.g, closed.weights.length > 0 || ends.includes(false))
  }

  private succeed(g: number, weight: number, isAnybody: boolean): void {
    this.record.toNote(g).success += weight
    this.record.toNote(g).everOpen ||= isAnybody
  }

  private fail(g: number, isAnybody: boolean): void {
    this.record.toNote(g).everClosed ||= isAnybody
  }

  /** Notes, on leaving a stop, who is ready for a gate that has been met. */
  leave(notes: GateNotes, outcome: Outcome, stop: number): void {
    if (notes.isReady) return
    if (outcome === 'yes') {
      this.noteReady(notes, 1, stop)
      notes.isReady = true
    } else if (outcome === 'maybe') this.leaveForSome(notes, stop)
    // For whom it is open is ready, whatever has been lost since.
    else if (notes.unopened && !notes.gate.live) this.noteReady(notes, 1 - notes.unopened.total, stop)
  }

  private leaveForSome(notes: GateNotes, stop: number): void {
    const strand = this.strandOf(notes)
    if (!strand) return
    const from = this.opensFrom(notes, strand, { from: strand.least, end: strand.end })
    const isWithin = notes.gate.live || from <= Math.max(notes.openedFrom, strand.least)
    if (strand.grows && isWithin) this.noteReady(notes, strand.likelihoodFrom(from), stop)
    else notes.isUntold = true
  }

  private noteReady(notes: GateNotes, share: number, stop: number): void {
    if (notes.isUntold || share <= notes.ready) return
    this.record.toNote(notes.g).noteReady(stop, share - notes.ready)
    notes.ready = share
  }

  /** Nothing is left to be noted of it. */
  close(notes: GateNotes): void {
    this.letGo(notes)
    notes.unopened = null
  }

  private letGo(notes: GateNotes): void {
    if (notes.rides !== null) this.strands.sums.get(notes.rides)!.apart.delete(notes)
  }

  /** A gate is not come to again, and opens for nobody else: what has not opened it matters only when it is due; `last`: the end of the route. */
  pass(notes: GateNotes, last: number): void {
    notes.isPassed = true
    if (notes.rides === null) return
    if (notes.isDueTold || notes.gate.live) this.letGo(notes)
    else if (notes.due === last) this.strands.sums.get(notes.rides)!.putOffPart(notes)
  }

  /** The strand on which it depends whether a gate opens; null, and the gate untold, where that is no strand or several. */
  private strandOf(notes: GateNotes): SumStrand | null {
    const found = this.dependsOn(notes)
    const isFit = found instanceof SumStrand && (notes.rides === null || notes.rides === found.tally) && this.risesWith(notes, found)
    if (!isFit) {
      notes.isUntold = true
      return null
    }
    return found
  }

  private dependsOn({ gate, asks }: GateNotes): Strand | null {
    const found = new Set<Strand>()
    const add = (asked: Asked) => {
      const strands = this.strands.under(asked)
      strands?.forEach((strand) => found.add(strand))
      return strands !== null
    }
    for (const { asked, range } of asks.comparisons) if (truthOf(range(this.bounds)) === 'maybe' && !add(asked)) return null
    for (const { tally } of gate.costs) if (this.bounds.canPay(gate.costs) === 'maybe' && !add(askedByCost(tally))) return null
    if (!add(asks.apart)) return null
    return found.size === 1 ? [...found][0]! : null
  }

  /** Whether more of a strand never closes a gate. */
  private risesWith({ gate, asks }: GateNotes, { tally }: SumStrand): boolean {
    // An amount that stands for a truth is true below 0, too.
    return risesThroughout(this.game, gate) && !(asks.apart.tallies.includes(tally) && this.bounds.low.tallies[tally]! < 0)
  }

  private leastSteps(strand: SumStrand): number {
    return strand.stepsOf(this.bounds.low.tallies[strand.tally]!)
  }

  private mostSteps(strand: SumStrand): number {
    return strand.stepsOf(this.bounds.high.tallies[strand.tally]!)
  }

  /** What the players at the ends have, where they are meant. */
  private endsOf(strand: SumStrand, { least, most }: Pick<Some, 'least' | 'most'>): number[] {
    return [...(least ? [this.leastSteps(strand)] : []), ...(most ? [this.mostSteps(strand)] : [])]
  }

  private opensWith({ g }: GateNotes, strand: SumStrand, steps: number): boolean {
    const { game, bounds: { low } } = this
    return strand.reading(low, () => {
      strand.read(steps, low)
      return hasWhatItAsks(game, low, g)
    })
  }

  /** The fewest steps with which it opens, as far as a part goes. Most gates that wait are far from it: that is seen at once. */
  private opensFrom(notes: GateNotes, strand: SumStrand, { from, end }: Pick<Spread, 'from' | 'end'>): number {
    if (end > from && !this.opensWith(notes, strand, end - 1)) return end
    const { game, bounds: { low: state } } = this
    return strand.reading(state, () => leastOf(from, end, (steps) => {
      strand.read(steps, state)
      return hasWhatItAsks(game, state, notes.g)
    }))
  }

  /** Writes what there is of each comparison and cost. */
  private compare(notes: GateNotes, some: Some): void {
    if (notes.isUntold) return
    partsOf(notes).forEach((asked, k) => this.compareOne(notes, k, asked, some))
  }

  private compareOne(notes: GateNotes, k: number, asked: Asked, some: Some): void {
    const { low } = this.bounds
    const comparison = this.record.toNote(notes.g).comparisons[k]!
    const strands = this.strands.under(asked)
    const strand = strands?.size === 1 ? [...strands][0]! : null
    const tell = (weight: number) => comparison.add(low, weight)
    if (strands?.size === 0) this.compareFixed(notes, k, () => tell(some.part ? some.part.total : 1), some)
    else if (strand instanceof SumStrand && some.part && notes.rides !== strand.tally) this.compareBeside(notes, k, strand, () => this.compareOn(strand, asked, everybody, tell), some)
    else if (strand instanceof SumStrand && !some.part && comparison.turnsOn) this.compareBare(strand, comparison, comparison.turnsOn)
    else if (strand instanceof SumStrand) this.compareOn(strand, asked, some, tell)
    else if (strand instanceof RewardedSum && !some.part) strand.each(low, this.bounds.endsOf(strand.sum.tally), tell)
    else if (strand instanceof ChainStrand && !some.part) strand.each(low, tell)
    else notes.isUntold = true
  }

  /** What is the same for all is told part by part, but only if it is so for all parts. */
  private compareFixed(notes: GateNotes, k: number, tell: () => void, { part }: Some): void {
    const { beside } = notes
    if (part && !beside.has(k)) beside.set(k, fixed)
    if (part && beside.get(k) !== fixed) notes.isUntold = true
    else tell()
  }

  /** Who is told of now and who later differ in what the gate depends on: of another strand all is told at last, if it has stood still. */
  private compareBeside(notes: GateNotes, k: number, strand: SumStrand, tell: () => void, { isLast }: Some): void {
    const { beside } = notes
    if (!beside.has(k)) beside.set(k, strand.version)
    if (beside.get(k) !== strand.version) notes.isUntold = true
    else if (isLast) tell()
  }

  /** Of a comparison of a bare amount, or level, nobody has to see how likely each is: only where it turns. */
  private compareBare(strand: SumStrand, comparison: ComparisonRecord, reads: BareSide): void {
    const { low, high } = this.bounds
    const { tally } = strand
    const isAmount = 'tally' in reads
    const read = isAmount ? () => fromUnits(low.tallies[tally]!) : () => low.level[reads.character]!
    const has = strand.quantilesOf(low, low.tallies[tally]!, high.tallies[tally]!, read)
    const holdsWith = (steps: number) => strand.reading(low, () => {
      strand.read(steps, low)
      return comparison.holdsIn(low)
    })
    const [holdsForLeast, holdsForMost] = [holdsWith(this.leastSteps(strand)), holdsWith(this.mostSteps(strand))]
    const isTurned = (steps: number) => holdsWith(steps) === holdsForMost
    const turns = holdsForLeast === holdsForMost ? null : isAmount ? strand.likelihoodBelow(isTurned) : strand.likelihoodBelowLevel(isTurned)
    const holds = turns === null ? Number(holdsForMost) : holdsForMost ? 1 - turns : turns
    comparison.settleAt(has, holds, holdsForLeast && holdsForMost)
  }

  private compareOn(strand: SumStrand, asked: Asked, { part, least, most }: Omit<Some, 'isLast'>, tell: (weight: number) => void): void {
    const { low } = this.bounds
    if (asked.tallies.length) strand.eachAmount(part ?? strand.now, low, tell)
    else strand.eachLevel(part, low, tell)
    strand.eachPossible(this.endsOf(strand, { least, most }), low, tell)
  }
}

/** What each comparison of a gate asks for, and then each cost. */
function partsOf({ gate, asks }: GateNotes): Asked[] {
  return [...asks.comparisons.map(({ asked }) => asked), ...gate.costs.map(({ tally }) => askedByCost(tally))]
}
