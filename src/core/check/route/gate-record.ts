import { remembered } from '../../plan/remembered.ts'
import type { Game, GameGate } from '../../rules/game.ts'
import { Histogram } from '../histogram.ts'
import type { HistogramData } from '../weighted-values.ts'
import type { Verdict } from '../result.ts'
import { noted } from './branch.ts'
import { ComparisonRecord, costReader, requirementReader, settled, type ComparisonData, type LowSide, type Reader } from './comparison-record.ts'

const everything = noted.due | noted.opened | noted.ready

/** What a walk, or many, showed of one gate: distributions gathered branch by branch. */
export class GateRecord {
  met: number | null = null
  due: number | null = null
  success = 0
  /** Whether some way of chance, however unlikely, had it open when due, and some had not. */
  everOpen = false
  everClosed = false
  /** false: seen in walks that were drawn. */
  exact = true
  opened = new Histogram()
  ready = new Histogram()
  comparisons: readonly ComparisonRecord[]

  /** `counts`: each of what is gathered weighs 1. */
  constructor(game: Game, gate: GameGate, counts = false) {
    this.comparisons = readersOf(game, gate).map((reader) => new ComparisonRecord(reader, counts))
  }

  /** The probability that it is open when due: 0 and 1 only where that is certain, or no drawn walk told otherwise. */
  get p(): number {
    return this.exact && this.everOpen && this.everClosed ? Math.min(this.success, 1 - Number.EPSILON) : settled(this.success)
  }

  /**
   * `opens`: whether further units open it. A gate that some way of chance opens, and some does not, depends, even where none
   * of the drawn walks came to it.
   */
  verdictOf(opens: boolean): Verdict {
    if (this.everOpen) return this.everClosed ? 'depends' : 'clear'
    return opens ? 'short' : 'sealed'
  }

  /** What is read of each comparison that does not always hold, with what one player in twenty has of it at most. */
  lowSides(): LowSide[] {
    return this.comparisons.flatMap((comparison) => comparison.lowSide())
  }

  noteMet(stop: number, due: number): void {
    this.met = stop
    this.due = due
  }

  noteOpened(stop: number, weight: number): void {
    this.opened.add(stop, weight)
  }

  noteReady(stop: number, weight: number): void {
    this.ready.add(stop, weight)
  }

  data(): GateData {
    const { met, due, success, everOpen, everClosed, opened, ready, comparisons } = this
    return { met, due, success, everOpen, everClosed, opened: opened.data(), ready: ready.data(), comparisons: comparisons.map((comparison) => comparison.data()) }
  }

  /** Adds what was gathered elsewhere, a share of each weight. */
  absorb(data: GateData, share: number): void {
    this.met = data.met
    this.due = data.due
    this.success += data.success * share
    this.everOpen ||= data.everOpen
    this.everClosed ||= data.everClosed
    this.opened.absorb(data.opened, share)
    this.ready.absorb(data.ready, share)
    data.comparisons.forEach((comparison, i) => this.comparisons[i]!.absorb(comparison, share))
  }

  /** What was noted of the gate in a walk that goes one way. */
  private get notes(): number {
    return (this.everOpen || this.everClosed ? noted.due : 0) | (this.opened.isEmpty ? 0 : noted.opened) | (this.ready.isEmpty ? 0 : noted.ready)
  }

  /** Whether both tell the same; of what was drawn that is not looked at, for it hangs on how many walks were. */
  isAs({ met, due, success, everOpen, everClosed, exact, opened, ready, comparisons }: GateRecord): boolean {
    return (
      this.exact && exact &&
      this.met === met && this.due === due && this.success === success && this.everOpen === everOpen && this.everClosed === everClosed &&
      this.opened.isAs(opened) && this.ready.isAs(ready) &&
      this.comparisons.length === comparisons.length && this.comparisons.every((comparison, i) => comparison.isAs(comparisons[i]!))
    )
  }

  /** Whether a walk that goes one way noted no more than so much (`noted`) of the gate, which was met by then or not. `neededAt`: the stop at which it is in the way, or null. */
  isAsOf(isMet: boolean, notes: number, neededAt: number | null): boolean {
    return (this.met !== null) === isMet && this.notes === (notes & everything) && (isMet || this.due === neededAt)
  }

  /** A copy to note more in. */
  copy(game: Game, gate: GameGate): GateRecord {
    const { met, due, success, everOpen, everClosed, exact, opened, ready, comparisons } = this
    return Object.assign(new GateRecord(game, gate), { met, due, success, everOpen, everClosed, exact, opened: opened.copy(), ready: ready.copy(), comparisons: comparisons.map((one) => one.copy()) })
  }

  /** This record, of a walk that goes one way, as it was when no more than so much had been noted. */
  asOf(isMet: boolean, notes: number, game: Game, gate: GameGate, neededAt: number | null): GateRecord {
    const { met, due, success, everOpen, everClosed, comparisons, opened, ready } = this
    const record = new GateRecord(game, gate)
    return Object.assign(
      record,
      isMet ? { met, due } : { due: neededAt },
      notes & noted.due && { success, everOpen, everClosed, comparisons },
      notes & noted.opened && { opened },
      notes & noted.ready && { ready },
    )
  }

  /** The median stop of a moment that may never come; null: never. */
  medianStop(stops: Histogram): number | null {
    const { total } = stops
    return stops.median(settled(total) < 1 ? 1 - total : 0)
  }
}

/** How what gates ask for and cost is read: the same for all kinds of player, and after edits that leave the tallies as they are. */
const known = new WeakMap<Game['tallies'], WeakMap<GameGate, readonly Reader[]>>()

function readersOf(game: Game, gate: GameGate): readonly Reader[] {
  const byGate = remembered(known, game.tallies, () => new WeakMap<GameGate, readonly Reader[]>())
  return remembered(byGate, gate, () => [
    ...gate.requires.comparisons.map((comparison) => requirementReader(game, comparison)),
    ...gate.costs.map((cost) => costReader(game, gate, cost.tally, cost.amount)),
  ])
}

export type GateData = Pick<GateRecord, 'met' | 'due' | 'success' | 'everOpen' | 'everClosed'> & { opened: HistogramData; ready: HistogramData; comparisons: ComparisonData[] }
