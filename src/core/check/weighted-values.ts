import { sameList } from '../plan/same-list.ts'
import { whereReached } from './quantiles.ts'
import type { Quantiles } from './result.ts'

/** Weights, or counts of no more than `mostCounted`. */
type Dense = Float64Array<ArrayBuffer> | Uint16Array<ArrayBuffer>

/** Numbers that a histogram which only counts can take. */
export const mostCounted = 65_535

/** Values a dense histogram may span before it becomes sparse. */
const widest = 1 << 16

/** Those that hold nothing (any more) are many. */
const [noWeights, noCounts] = [new Float64Array(0), new Uint16Array(0)]

/** A distribution as plain data: its values, rising, each with its weight; least and greatest also of what is only possible. */
export interface HistogramData {
  values: Float64Array
  weights: Float64Array
  least: number
  most: number
}

/** The values of a distribution, each with its weight. Those that are whole parts, and near each other, are counted in an array, all others in a map. */
export class WeightedValues {
  private weights: Map<number, number> | null = null
  private dense: Dense
  private base = 0
  total = 0
  /** Least and greatest, also of what was added without weight: it is possible. */
  private least = Infinity
  private most = -Infinity
  /** What is left of one that is settled: the values at 5 %, 50 % and 95 %. */
  private settled: readonly number[] | null = null

  /** `parts`: how finely whole values are divided, a power of 2. `counts`: every weight is 1, which takes a quarter of the room. */
  constructor(
    private readonly parts: number,
    private readonly counts: boolean,
  ) {
    this.dense = this.room(0)
  }

  /** A copy to gather more in. */
  copy(): WeightedValues {
    const copy = new WeightedValues(this.parts, this.counts)
    copy.weights = this.weights && new Map(this.weights)
    copy.dense = this.dense.slice()
    copy.base = this.base
    copy.total = this.total
    copy.least = this.least
    copy.most = this.most
    copy.settled = this.settled
    return copy
  }

  private room(values: number): Dense {
    if (values === 0) return this.counts ? noCounts : noWeights
    return this.counts ? new Uint16Array(values) : new Float64Array(values)
  }

  add(value: number, weight: number): void {
    if (Number.isNaN(value)) return
    if (value < this.least) this.least = value
    if (value > this.most) this.most = value
    if (weight === 0) return
    this.total += weight
    this.put(value, weight)
  }

  private put(value: number, weight: number): void {
    if (this.weights) return this.addTo(this.weights, value, weight)
    const scaled = value * this.parts
    const at = scaled - this.base
    if (at >= 0 && at < this.dense.length && Number.isInteger(scaled)) this.dense[at]! += weight
    else this.addOutside(value, weight)
  }

  /** Adds every number of a column, or of those marked in `who`, each with the same weight that is not 0. */
  addColumn(values: Float64Array, weight: number, who?: Uint8Array): void {
    if (this.dense.length === 0 && !this.weights) this.makeRoomFor(values, who)
    const { parts } = this
    let { dense, base, least, most } = this
    let added = 0
    for (let i = 0; i < values.length; i++) {
      if (who && who[i] === 0) continue
      const value = values[i]!
      const scaled = value * parts - base
      const at = scaled | 0
      // What lies in the array and is no new extreme is most of it.
      if (at === scaled && value >= least && value <= most && at >= 0 && at < dense.length) {
        dense[at]! += weight
        added++
      } else {
        this.add(value, weight)
        ;({ dense, base, least, most } = this)
      }
    }
    this.total += added * weight
  }

  /** Room for a first column, and about as much on both sides for those that follow: it seldom has to be widened. */
  private makeRoomFor(values: Float64Array, who?: Uint8Array): void {
    let [low, high] = [Infinity, -Infinity]
    for (let i = 0; i < values.length; i++) {
      if (who && who[i] === 0) continue
      if (values[i]! < low) low = values[i]!
      if (values[i]! > high) high = values[i]!
    }
    const from = Math.floor(low * this.parts)
    const range = Math.ceil(high * this.parts) - from + 1
    // Of nobody, or of what is no number for anyone, there is no range.
    if (!(range > 0 && range * 2 < widest)) return
    const beside = Math.max(4, range >> 1)
    this.base = from - beside
    this.dense = this.room(range + 2 * beside)
  }

  private addTo(weights: Map<number, number>, value: number, weight: number): void {
    weights.set(value, (weights.get(value) ?? 0) + weight)
  }

  private addOutside(value: number, weight: number): void {
    const scaled = value * this.parts
    if (!Number.isInteger(scaled) || !this.stretch(scaled)) {
      this.weights = this.sparse()
      this.addTo(this.weights, value, weight)
    } else this.dense[scaled - this.base]! += weight
  }

  /** Makes room for a value in the array; false where it would be too long. */
  private stretch(scaled: number): boolean {
    const { base, dense } = this
    const empty = dense.length === 0
    const [from, to] = empty ? [scaled, scaled] : [Math.min(base, scaled), Math.max(base + dense.length - 1, scaled)]
    if (to - from >= widest) return false
    const room = empty ? 0 : Math.min(widest, Math.max(8, dense.length))
    const newBase = scaled < base && !empty ? from - room : from
    const wider = this.room(to - newBase + 1 + (scaled < base ? 0 : room))
    if (!empty) wider.set(dense, base - newBase)
    this.base = newBase
    this.dense = wider
    return true
  }

  private sparse(): Map<number, number> {
    const weights = new Map<number, number>()
    this.dense.forEach((weight, i) => weight > 0 && weights.set((this.base + i) / this.parts, weight))
    this.dense = this.room(0)
    return weights
  }

  data(): HistogramData {
    const { least, most } = this
    return { least, most, ...(this.listed() ?? this.denseData()) }
  }

  /** The values with their weights, where they do not stand in an array; null: they do. */
  private listed(): Pick<HistogramData, 'values' | 'weights'> | null {
    return this.weights && inOrder(this.weights)
  }

  private denseData(): Pick<HistogramData, 'values' | 'weights'> {
    const { dense, base, parts } = this
    let n = 0
    for (let i = 0; i < dense.length; i++) if (dense[i]! > 0) n++
    const [values, weights] = [new Float64Array(n), new Float64Array(n)]
    for (let i = 0, k = 0; i < dense.length; i++) {
      if (dense[i]! <= 0) continue
      values[k] = (base + i) / parts
      weights[k++] = dense[i]!
    }
    return { values, weights }
  }

  /** Is given its quantiles as they have been worked out elsewhere: it keeps no more. */
  settleAt({ min, q05, median, q95, max }: Quantiles): void {
    this.settled = [q05, median, q95]
    this.total = 1
    this.least = Math.min(this.least, min)
    this.most = Math.max(this.most, max)
  }

  /** Keeps no more than the quantiles, which take little room: from then on only what is possible can be added, without weight. */
  settle(): void {
    if (this.isEmpty) return
    this.settled ??= this.at([0.05, 0.5, 0.95])
    this.weights = null
    this.dense = this.room(0)
  }

  /** Whether both keep the same quantiles, and no more. */
  isSettledAs({ settled, least, most }: WeightedValues): boolean {
    return this.settled !== null && settled !== null && this.least === least && this.most === most && sameList(this.settled, settled)
  }

  get isEmpty(): boolean {
    return this.total === 0
  }

  /** min, 5 %, median, 95 % and max; null where nothing was added. */
  quantiles(): Quantiles | null {
    if (this.isEmpty) return null
    const [q05, median, q95] = this.settled ?? this.at([0.05, 0.5, 0.95])
    return { min: this.least, q05: q05!, median: median!, q95: q95!, max: this.most }
  }

  /** The smallest x with P(X ≤ x) ≥ ½; null where nothing was added. `never`: the weight of what has no value, which is above all. */
  median(never = 0): number | null {
    const median = this.isEmpty ? Infinity : this.at([0.5], never)[0]!
    return median === Infinity ? null : median
  }

  private at(quantiles: readonly number[], never = 0): number[] {
    const listed = this.listed()
    const reached = whereReached(listed?.weights ?? this.dense, quantiles.map((q) => q * (this.total + never)))
    const found = reached.map((i) => (listed ? listed.values[i]! : (this.base + i) / this.parts))
    return [...found, ...quantiles.slice(found.length).map(() => (never > 0 ? Infinity : this.most))]
  }
}

function inOrder(of: ReadonlyMap<number, number>): Pick<HistogramData, 'values' | 'weights'> {
  const all = [...of].sort(([a], [b]) => a - b)
  return { values: Float64Array.from(all, ([value]) => value), weights: Float64Array.from(all, ([, weight]) => weight) }
}
