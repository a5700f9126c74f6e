import type { Quantiles } from './result.ts'
import { WeightedValues, type HistogramData } from './weighted-values.ts'

/**
 * A distribution of a number, gathered value by value with weights that sum to 1 (or to the number of walks). There are tens of thousands
 * in a check, and most never see a second value: only those that do have more than that one value and its weight.
 */
export class Histogram {
  private value = NaN
  private weight = 0
  private many: WeightedValues | null = null

  /** `parts`: how finely whole values are divided, a power of 2. `counts`: every weight is 1, which takes a quarter of the room. */
  constructor(
    private readonly parts = 1,
    private readonly counts = false,
  ) {}

  /** A copy to gather more in. */
  copy(): Histogram {
    const copy = new Histogram(this.parts, this.counts)
    copy.value = this.value
    copy.weight = this.weight
    copy.many = this.many && this.many.copy()
    return copy
  }

  /** Adds a value with its weight; without, it is only possible. */
  add(value: number, weight: number): void {
    if (Number.isNaN(value)) return
    if (!this.many && (value === this.value || (this.weight === 0 && weight > 0))) {
      this.value = value
      this.weight += weight
    } else this.spread().add(value, weight)
  }

  /** Whether it holds one value, of this weight; none, where that is 0. */
  isOnly(value: number, weight: number): boolean {
    return !this.many && weight === this.weight && (value === this.value || weight === 0)
  }

  /** Whether both tell the same; of those that are neither settled nor of one value that is not looked at. */
  isAs(other: Histogram): boolean {
    if (this === other) return true
    if (this.many && other.many) return this.many.isSettledAs(other.many)
    return !this.many && other.isOnly(this.value, this.weight)
  }

  /** Adds every number of a column, or of those marked in `who`, each with the same weight that is not 0. */
  addColumn(values: Float64Array, weight: number, who?: Uint8Array): void {
    this.spread().addColumn(values, weight, who)
  }

  /** Adds what another has gathered, a share of each weight. */
  absorb({ values, weights, least, most }: HistogramData, share: number): void {
    for (let i = 0; i < values.length; i++) this.add(values[i]!, weights[i]! * share)
    for (const extreme of [least, most]) if (Number.isFinite(extreme)) this.add(extreme, 0)
  }

  /** What was the only value is one of several. */
  private spread(): WeightedValues {
    return (this.many ??= this.asMany())
  }

  private asMany(): WeightedValues {
    const many = new WeightedValues(this.parts, this.counts)
    if (this.weight > 0) many.add(this.value, this.weight)
    return many
  }

  data(): HistogramData {
    return (this.many ?? this.asMany()).data()
  }

  /** Is given its quantiles as they have been worked out elsewhere: it keeps no more. */
  settleAt(quantiles: Quantiles): void {
    const { min, max } = quantiles
    if (min === max && this.isEmpty && !this.many) this.add(min, 1)
    else this.spread().settleAt(quantiles)
  }

  /** Keeps no more than the quantiles, which take little room: from then on only what is possible can be added, without weight. */
  settle(): void {
    this.many?.settle()
  }

  /** The weight of all values. */
  get total(): number {
    return this.many ? this.many.total : this.weight
  }

  get isEmpty(): boolean {
    return this.total === 0
  }

  /** min, 5 %, median, 95 % and max; null where nothing was added. */
  quantiles(): Quantiles | null {
    if (this.many) return this.many.quantiles()
    const { value } = this
    return this.isEmpty ? null : { min: value, q05: value, median: value, q95: value, max: value }
  }

  /** The smallest x with P(X ≤ x) ≥ ½; null where nothing was added. `never`: the weight of what has no value, which is above all. */
  median(never = 0): number | null {
    if (this.many || never > 0) return (this.many ?? this.asMany()).median(never)
    return this.isEmpty ? null : this.value
  }
}
