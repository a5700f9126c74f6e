import { fromUnits, toUnits } from '../../rules/compile.ts'
import type { Column, Marks } from '../../language/columns.ts'
import { mirrored } from '../../language/operators.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameComparison, GameGate, GameRoute } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import type { State } from '../../rules/state.ts'
import { Histogram, type HistogramData } from '../histogram.ts'
import type { ComparisonResult, Quantiles, Verdict } from '../result.ts'
import type { Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'
import type { Targets } from './portion.ts'
import { bareSide, constantOf, sidesHold, sidesOf } from './comparison.ts'
import type { Watcher } from './watcher.ts'

/** A probability that is 0 or 1 but for rounding is taken for it. */
const hair = 1e-12

export function settled(p: number): number {
  return p < hair ? 0 : p > 1 - hair ? 1 : p
}

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
  readonly opened = new Histogram()
  readonly ready = new Histogram()
  openedWeight = 0
  readyWeight = 0
  readonly comparisons: ComparisonRecord[]

  /** `counts`: each of what is gathered weighs 1. */
  constructor(game: Game, gate: GameGate, counts = false) {
    const asked = gate.requires.comparisons.map((comparison) => new ComparisonRecord(requirementReader(game, comparison), counts))
    const paid = gate.costs.map((cost) => new ComparisonRecord(costReader(game, gate, cost.tally, cost.amount), counts))
    this.comparisons = [...asked, ...paid]
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

  data(): GateData {
    const { met, due, success, everOpen, everClosed, opened, ready, openedWeight, readyWeight, comparisons } = this
    return { met, due, success, everOpen, everClosed, opened: opened.data(), ready: ready.data(), openedWeight, readyWeight, comparisons: comparisons.map((comparison) => comparison.data()) }
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
    this.openedWeight += data.openedWeight * share
    this.readyWeight += data.readyWeight * share
    data.comparisons.forEach((comparison, i) => this.comparisons[i]!.absorb(comparison, share))
  }

  /** A new record of the gate, with nothing gathered. */
  anew(game: Game, gate: GameGate): GateRecord {
    const record = new GateRecord(game, gate)
    record.due = this.due
    return record
  }

  /** The median stop of a moment that may never come; null: never. `weight`: how often it came. */
  medianStop(stops: Histogram, weight: number): number | null {
    return stops.median(settled(weight) < 1 ? 1 - weight : 0)
  }
}

/** What was gathered of a portion: as plain data, or made and let go of piece by piece while it is gone through. */
export interface Gathered {
  gates: Iterable<[gate: number, data: GateData]>
  stops: Iterable<StopData>
}
/** The same as it goes from one thread to another. */
export interface RecordData extends Gathered {
  gates: [gate: number, data: GateData][]
  stops: StopData[]
}
interface StopData {
  tallies: HistogramData[]
  levels: HistogramData[]
  positions: HistogramData[]
}
type GateData = Pick<GateRecord, 'met' | 'due' | 'success' | 'everOpen' | 'everClosed' | 'openedWeight' | 'readyWeight'> & { opened: HistogramData; ready: HistogramData; comparisons: ComparisonData[] }
interface ComparisonData {
  has: HistogramData
  need: HistogramData
  holds: number
  everFailed: boolean
}

/** A tally or a character's level, by index, and the low amount of it to reckon with: units, or a level. */
export type LowSide = { tally: number; amount: number } | { character: number; level: number }

interface Reading {
  has: number
  need: number
  holds: boolean
}

/** How a comparison, or a cost, is read from a state and made into a result. */
interface Reader {
  text: string
  /** The side that does not vary, or null. */
  constant: number | null
  read(state: State): Reading
  slack(has: Quantiles): number
  /** The bare tally or level that it reads, where it reads no more. */
  reads: { tally: number } | { character: number } | null
}

function requirementReader(game: Game, comparison: GameComparison): Reader {
  const { op, constant } = comparison
  return {
    text: comparison.text,
    constant: constant === null ? null : constantOf(comparison),
    read(state) {
      const sides = sidesOf(comparison, state)
      const [has, need] = constant === 'left' ? [sides.right, sides.left] : [sides.left, sides.right]
      return { has, need, holds: sidesHold(op, sides) }
    },
    slack: (has) => slackOf(constant === 'left' ? mirrored[op] : op, has, constantOf(comparison)),
    reads: bareSide(game, comparison),
  }
}

/** By how much the constant could move against the player with the comparison still certain. */
function slackOf(op: GameComparison['op'], has: Quantiles, need: number): number {
  switch (op) {
    case '>=':
    case '>':
      return has.min - need
    case '<=':
    case '<':
      return need - has.max
    case '!=':
      return Math.min(...[has.min - need, need - has.max].filter((room) => room > 0), Infinity)
    case '==':
      return 0
  }
}

function costReader(game: Game, gate: GameGate, tally: number, amount: number): Reader {
  const { id, min } = game.tallies[tally]!
  const floor = min === -Infinity ? null : fromUnits(min)
  const asked = askedOf(gate.costs, tally)
  return {
    text: `${id} >= ${fromUnits(amount)}`,
    constant: fromUnits(amount),
    read: (state) => ({
      has: fromUnits(state.tallies[tally]!),
      need: fromUnits(amount),
      holds: floor === null || state.tallies[tally]! - asked >= min,
    }),
    slack: (has) => has.min - (floor ?? -Infinity) - fromUnits(asked),
    reads: { tally },
  }
}

class ComparisonRecord {
  private readonly has: Histogram
  private readonly need: Histogram
  private holds = 0
  private everFailed = false

  constructor(
    private readonly reader: Reader,
    counts: boolean,
  ) {
    this.has = new Histogram(1, counts)
    this.need = new Histogram(1, counts)
  }

  add(state: State, weight: number): void {
    const { has, need, holds } = this.reader.read(state)
    this.has.add(has, weight)
    if (this.reader.constant === null) this.need.add(need, weight)
    if (holds) this.holds += weight
    else this.everFailed = true
  }

  /** The readings of all those marked in `who`. */
  addColumn(has: Column, need: Column, holds: Marks, who: Marks, weight: number): void {
    this.has.addColumn(has, weight, who)
    if (this.reader.constant === null) this.need.addColumn(need, weight, who)
    let [held, asked] = [0, 0]
    for (let i = 0; i < who.length; i++) {
      held += holds[i]! * who[i]!
      asked += who[i]!
    }
    this.holds += held * weight
    this.everFailed ||= held < asked
  }

  data(): ComparisonData {
    return { has: this.has.data(), need: this.need.data(), holds: this.holds, everFailed: this.everFailed }
  }

  absorb({ has, need, holds, everFailed }: ComparisonData, share: number): void {
    this.has.absorb(has, share)
    this.need.absorb(need, share)
    this.holds += holds * share
    this.everFailed ||= everFailed
  }

  lowSide(): LowSide[] {
    const { reads } = this.reader
    const has = this.has.quantiles()
    if (!this.everFailed || !reads || !has) return []
    return ['tally' in reads ? { tally: reads.tally, amount: toUnits(has.q05) } : { character: reads.character, level: has.q05 }]
  }

  result(): ComparisonResult {
    const has = this.has.quantiles()
    const need = this.reader.constant ?? this.need.median()
    const holds = settled(this.holds)
    const margin = has === null || need === null ? null : tidy(has.median - need)
    const certain = holds === 1 && !this.everFailed && has !== null && this.reader.constant !== null
    const slack = certain ? tidy(this.reader.slack(has)) : null
    return { text: this.reader.text, need, has, margin, holds, slack: slack !== null && Number.isFinite(slack) ? slack : null }
  }
}

/** Differences of amounts, without what binary fractions leave behind. */
export function tidy(n: number): number {
  return Math.round(n * 1e10) / 1e10
}

interface StopRecord {
  tallies: Histogram[]
  levels: Histogram[]
  positions: Histogram[]
}

/** What of an earlier record of the same route stands as it is. */
export interface KeptRecord {
  record: RouteRecord
  targets: Targets
}

/** Gathers a walk's gates and stops; many walks can be gathered in one, each with its share of the weight. */
export class RouteRecord {
  readonly gates: GateRecord[]
  readonly stops: StopRecord[]

  constructor(
    readonly game: Game,
    route: GameRoute,
    neededAt: Int32Array,
    kept: KeptRecord | null = null,
    /** Whether each walk that is gathered weighs 1, and there are no more than `mostCounted`. */
    counts = false,
  ) {
    this.gates = game.gates.map((gate, g) => {
      if (kept?.targets.gates.has(g)) return kept.record.gates[g]!
      const record = new GateRecord(game, gate, counts)
      record.due = neededAt[g] === -1 ? null : neededAt[g]!
      return record
    })
    this.stops = route.stops.map((_, stop) => {
      const [before, targets] = [kept?.record.stops[stop], kept?.targets]
      return {
        tallies: game.tallies.map((_, t) => (targets?.tallies.has(t) ? before!.tallies[t]! : new Histogram(1, counts))),
        levels: game.characters.map((_, c) => (targets?.characters.has(c) ? before!.levels[c]! : new Histogram(1, counts))),
        positions: game.characters.map((_, c) => (targets?.characters.has(c) ? before!.positions[c]! : new Histogram(positionParts, counts))),
      }
    })
  }

  /** What was gathered of a portion; this record is of no use any more once that has been gone through. */
  handOver({ targets }: Itinerary): Gathered {
    return { gates: this.gatesOf(targets), stops: this.stopsOf(targets) }
  }

  private *gatesOf({ gates }: Itinerary['targets']): Generator<[gate: number, data: GateData]> {
    for (const [g, record] of this.gates.entries()) {
      if (!gates[g]) continue
      yield [g, record.data()]
      this.gates[g] = record.anew(this.game, this.game.gates[g]!)
    }
  }

  private *stopsOf({ tallies, characters }: Itinerary['targets']): Generator<StopData> {
    for (const stop of this.stops) {
      yield { tallies: tallies.map((t) => stop.tallies[t]!.data()), levels: characters.map((c) => stop.levels[c]!.data()), positions: characters.map((c) => stop.positions[c]!.data()) }
      for (const list of [stop.tallies, stop.levels, stop.positions]) list.length = 0
    }
  }

  /** The same as plain data. */
  data(itinerary: Itinerary): RecordData {
    const { gates, stops } = this.handOver(itinerary)
    return { gates: [...gates], stops: [...stops] }
  }

  /** Adds what was gathered of the same portion in several parts, a share of each weight. Of stops the quantiles alone are kept. */
  absorb(itinerary: Itinerary, parts: readonly Gathered[], share: number): void {
    const { tallies, characters } = itinerary.targets
    for (const { gates } of parts) for (const [g, gate] of gates) this.gates[g]!.absorb(gate, share)
    const stopsOf = parts.map(({ stops }) => stops[Symbol.iterator]())
    this.stops.forEach((stop, i) => {
      for (const stops of stopsOf) {
        const from = stops.next().value as StopData
        tallies.forEach((t, k) => stop.tallies[t]!.absorb(from.tallies[k]!, share))
        characters.forEach((c, k) => {
          stop.levels[c]!.absorb(from.levels[k]!, share)
          stop.positions[c]!.absorb(from.positions[k]!, share)
        })
      }
      this.settle(i, itinerary.targets)
    })
  }

  /** Keeps of what was gathered on leaving a stop no more than its quantiles; of a portion, or of all. */
  settle(stop: number, portion?: Itinerary['targets']): void {
    const { tallies, levels, positions } = this.stops[stop]!
    const [byTally, byCharacter] = [portion?.tallies ?? tallies.keys(), portion?.characters ?? levels.keys()]
    for (const t of byTally) tallies[t]!.settle()
    for (const c of byCharacter) {
      levels[c]!.settle()
      positions[c]!.settle()
    }
  }

  /** Forgets what was gathered of a portion, to gather it anew. */
  clear({ targets }: Itinerary): void {
    this.gates.forEach((record, g) => targets.gates[g] && (this.gates[g] = record.anew(this.game, this.game.gates[g]!)))
    for (const stop of this.stops) {
      for (const t of targets.tallies) stop.tallies[t] = new Histogram()
      for (const c of targets.characters) {
        stop.levels[c] = new Histogram()
        stop.positions[c] = new Histogram(positionParts)
      }
    }
  }
}

/** Positions between two levels are told apart as finely as they are drawn. */
export const positionParts = 256

/** A character's level with the way made into the next, as finely as it is drawn. */
export function drawnPosition(game: Game, state: State, c: number): number {
  return Math.round(levelPosition(game, state, c) * positionParts) / positionParts
}

/** Writes walks of a portion into the record, each with a share of the weight; 0: only what is possible is noted. */
export class RecordWriter implements Watcher {
  constructor(
    private readonly record: RouteRecord,
    private readonly itinerary: Itinerary,
    private readonly share: number,
  ) {}

  met(g: number, stop: number, due: number): void {
    if (!this.itinerary.targets.gates[g]) return
    this.record.gates[g]!.met = stop
    this.record.gates[g]!.due = due
  }

  due(branch: Branch, g: number, success: boolean): void {
    if (!this.itinerary.targets.gates[g]) return
    const record = this.record.gates[g]!
    const weight = branch.weight * this.share
    if (success) record.success += weight
    if (success) record.everOpen = true
    else record.everClosed = true
    for (const comparison of record.comparisons) comparison.add(branch.state, weight)
  }

  opened(branch: Branch, g: number, stop: number): void {
    if (!this.itinerary.targets.gates[g]) return
    this.record.gates[g]!.opened.add(stop, branch.weight * this.share)
    this.record.gates[g]!.openedWeight += branch.weight * this.share
  }

  ready(branch: Branch, g: number, stop: number): void {
    if (!this.itinerary.targets.gates[g]) return
    this.record.gates[g]!.ready.add(stop, branch.weight * this.share)
    this.record.gates[g]!.readyWeight += branch.weight * this.share
  }

  left(branch: Branch, stop: number): void {
    const weight = branch.weight * this.share
    const { tallies } = this.record.stops[stop]!
    for (const t of this.itinerary.targets.tallies) tallies[t]!.add(fromUnits(branch.state.tallies[t]!), weight)
    this.leftAtLevel(branch, stop)
    this.leftAtPosition(branch, stop)
  }

  /** A stop is left with `first` and a multiple of `step` units of a tally; `weights`: how likely each multiple is, from 0 on. */
  leftWith(stop: number, t: number, first: number, step: number, weights: Float64Array): void {
    if (!this.itinerary.targets.tallies.includes(t)) return
    const amounts = this.record.stops[stop]!.tallies[t]!
    for (let i = 0; i < weights.length; i++) if (weights[i]! > 0) amounts.add(fromUnits(first + i * step), weights[i]! * this.share)
  }

  /** All has been told of what a stop is left with, but for what is only possible. */
  settled(stop: number): void {
    this.record.settle(stop, this.itinerary.targets)
  }

  leftAtLevel({ state, weight }: Branch, stop: number): void {
    const { levels } = this.record.stops[stop]!
    for (const c of this.itinerary.targets.characters) levels[c]!.add(state.level[c]!, weight * this.share)
  }

  leftAtPosition({ state, weight }: Branch, stop: number): void {
    const { positions } = this.record.stops[stop]!
    for (const c of this.itinerary.targets.characters) positions[c]!.add(drawnPosition(this.record.game, state, c), weight * this.share)
  }
}
