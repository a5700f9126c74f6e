import type { Column, Marks } from '../../language/columns.ts'
import { mirrored } from '../../language/operators.ts'
import { fromUnits, toUnits } from '../../rules/compile.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameComparison, GameGate } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { Histogram } from '../histogram.ts'
import type { HistogramData } from '../weighted-values.ts'
import type { ComparisonResult, Quantiles } from '../result.ts'
import { bareSide, constantOf, sidesHold, sidesOf, type BareSide } from './comparison.ts'

/** A probability that is 0 or 1 but for rounding is taken for it. */
const hair = 1e-12

export function settled(p: number): number {
  return p < hair ? 0 : p > 1 - hair ? 1 : p
}

/** A tally or a character's level, by index, and the low amount of it to reckon with: units, or a level. */
export type LowSide = { tally: number; amount: number } | { character: number; level: number }

export interface ComparisonData {
  has: HistogramData
  /** Null where it is the same for all. */
  need: HistogramData | null
  holds: number
  everFailed: boolean
}

interface Reading {
  has: number
  need: number
  holds: boolean
}

/** How a comparison, or a cost, is read from a state and made into a result. */
export interface Reader {
  text: string
  /** The side that does not vary, or null. */
  constant: number | null
  read(state: State): Reading
  slack(has: Quantiles): number
  /** The bare tally or level that it reads, where it reads no more. */
  reads: BareSide | null
  /** Whether, where that is all that varies, it is true of all amounts from one on, or of all up to one. */
  turnsOnce: boolean
}

export function requirementReader(game: Game, comparison: GameComparison): Reader {
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
    turnsOnce: op !== '==' && op !== '!=',
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

export function costReader(game: Game, gate: GameGate, tally: number, amount: number): Reader {
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
    turnsOnce: true,
  }
}

/** What a walk, or many, showed of one comparison or cost of a gate. */
export class ComparisonRecord {
  private has: Histogram
  /** Null where it does not vary. */
  private need: Histogram | null
  private holds = 0
  private everFailed = false

  constructor(
    private readonly reader: Reader,
    counts: boolean,
  ) {
    this.has = new Histogram(1, counts)
    this.need = reader.constant === null ? new Histogram(1, counts) : null
  }

  /** A copy to gather more in. */
  copy(): ComparisonRecord {
    const copy = new ComparisonRecord(this.reader, false)
    copy.has = this.has.copy()
    copy.need = this.need && this.need.copy()
    copy.holds = this.holds
    copy.everFailed = this.everFailed
    return copy
  }

  add(state: State, weight: number): void {
    const { has, need, holds } = this.reader.read(state)
    this.has.add(has, weight)
    this.need?.add(need, weight)
    if (holds) this.holds += weight
    else this.everFailed = true
  }

  /** The bare tally or level of which all that it takes to tell of it is the distribution, and where it turns; null: it takes more. */
  get turnsOn(): BareSide | null {
    const { reads, turnsOnce } = this.reader
    return turnsOnce ? reads : null
  }

  holdsIn(state: State): boolean {
    return this.reader.read(state).holds
  }

  /** What all have at once, of which nothing else is added. `holds`: the weight of those for whom it holds; `isForAll`: whether that is everyone who can be. */
  settleAt(has: Quantiles, holds: number, isForAll: boolean): void {
    this.has.settleAt(has)
    this.holds = holds
    this.everFailed = !isForAll
  }

  /** The readings of all those marked in `who`. */
  addColumn(has: Column, need: Column, holds: Marks, who: Marks, weight: number): void {
    this.has.addColumn(has, weight, who)
    this.need?.addColumn(need, weight, who)
    let held = 0
    let asked = 0
    for (let i = 0; i < who.length; i++) {
      held += holds[i]! * who[i]!
      asked += who[i]!
    }
    this.holds += held * weight
    this.everFailed ||= held < asked
  }

  data(): ComparisonData {
    return { has: this.has.data(), need: this.need?.data() ?? null, holds: this.holds, everFailed: this.everFailed }
  }

  absorb({ has, need, holds, everFailed }: ComparisonData, share: number): void {
    this.has.absorb(has, share)
    if (need) this.need?.absorb(need, share)
    this.holds += holds * share
    this.everFailed ||= everFailed
  }

  isAs({ reader, has, need, holds, everFailed }: ComparisonRecord): boolean {
    return this.reader === reader && this.holds === holds && this.everFailed === everFailed && this.has.isAs(has) && (this.need === need || (this.need !== null && need !== null && this.need.isAs(need)))
  }

  lowSide(): LowSide[] {
    const { reads } = this.reader
    const has = this.has.quantiles()
    if (!this.everFailed || !reads || !has) return []
    return ['tally' in reads ? { tally: reads.tally, amount: toUnits(has.q05) } : { character: reads.character, level: has.q05 }]
  }

  result(): ComparisonResult {
    const has = this.has.quantiles()
    const need = this.reader.constant ?? this.need!.median()
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
