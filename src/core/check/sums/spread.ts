import { whereReached } from '../quantiles.ts'
import { convolvedByTransform, transformCost } from './transform.ts'

/** What is less likely than this is left out of a spread's tails; what is possible at all is told apart from it. */
const negligible = 1e-22

interface Moments {
  mean: number
  variance: number
}

/** The distribution of a sum of whole steps: P(from + i) at index i. */
export class Spread {
  private known: Moments | null = null

  /** `points`: how many values are possible, at most. */
  constructor(
    readonly from: number,
    readonly weights: Float64Array,
    readonly points = weights.length,
  ) {}

  static at(value: number): Spread {
    return new Spread(value, Float64Array.of(1))
  }

  get end(): number {
    return this.from + this.weights.length
  }

  /** All of it together; less than 1 for a part of a spread. */
  get total(): number {
    let sum = 0
    for (let i = 0; i < this.weights.length; i++) sum += this.weights[i]!
    return sum
  }

  /** The part from a value on, or the part below it. */
  above(value: number): Spread {
    const at = Math.min(Math.max(value - this.from, 0), this.weights.length)
    return new Spread(this.from + at, this.weights.subarray(at))
  }

  below(value: number): Spread {
    const at = Math.min(Math.max(value - this.from, 0), this.weights.length)
    return new Spread(this.from, this.weights.subarray(0, at))
  }

  /** Its mean, and its variance; those of what is left out are nothing. */
  get moments(): Moments {
    return (this.known ??= this.reckoned())
  }

  private reckoned(): Moments {
    let sum = 0
    let squares = 0
    for (let i = 0; i < this.weights.length; i++) {
      sum += i * this.weights[i]!
      squares += i * i * this.weights[i]!
    }
    return { mean: this.from + sum, variance: Math.max(0, squares - sum * sum) }
  }

  copy(): Spread {
    return new Spread(this.from, this.weights.slice(), this.points)
  }

  /** Multiplications that the sum with another takes. */
  costOf(other: Spread): number {
    return this.isOne || other.isOne ? 0 : Math.min(this.eachByEach(other), transformCost(this.weights.length + other.weights.length - 1))
  }

  /** The same where each value of one meets each of the other. */
  private eachByEach(other: Spread): number {
    return Math.min(this.points * other.weights.length, other.points * this.weights.length)
  }

  /** Whether it is one value for certain. */
  private get isOne(): boolean {
    return this.weights.length === 1 && this.weights[0] === 1
  }

  /** The sum with another spread, independent of this one. `room`: gives what its weights are written into, all 0. */
  plus(other: Spread, room = (length: number) => new Float64Array(length)): Spread {
    const from = this.from + other.from
    if (other.isOne) return new Spread(from, this.weights, this.points)
    if (this.isOne) return new Spread(from, other.weights, other.points)
    const sum = room(Math.max(0, this.weights.length + other.weights.length - 1))
    const points = this.points * other.points
    if (this.eachByEach(other) > this.costOf(other)) return trimmed(from, convolvedByTransform(this.weights, other.weights, sum), points)
    const [wide, sparse] = other.points * this.weights.length <= this.points * other.weights.length ? [this.weights, other.weights] : [other.weights, this.weights]
    return trimmed(from, convolved(wide, sparse, sum), points)
  }

  /** With probability `share` what it is, else nothing. */
  orNothing(share: number): Spread {
    const from = Math.min(0, this.from)
    const weights = new Float64Array(Math.max(this.end, 1) - from)
    this.weights.forEach((p, i) => (weights[this.from - from + i] = p * share))
    weights[-from]! += 1 - share
    return trimmed(from, weights, this.points + 1)
  }

  /** Every `stride`th value from min to max, equally likely. */
  static even(min: number, max: number, stride = 1): Spread {
    const weights = new Float64Array(max - min + 1)
    const values = (max - min) / stride + 1
    for (let i = 0; i < weights.length; i += stride) weights[i] = 1 / values
    return new Spread(min, weights, values)
  }

  /** The sum of `count` such, independent of each other; `plus` adds two of them up. */
  times(count: number, plus = (a: Spread, b: Spread): Spread => a.plus(b)): Spread {
    let [sum, power]: [Spread, Spread] = [Spread.at(0), this]
    for (let n = count; n > 0; n = Math.floor(n / 2)) {
      if (n % 2 === 1) sum = plus(sum, power)
      if (n > 1) power = plus(power, power)
    }
    return sum
  }

  /** How likely it is to lie from each of some rising values to before the next. */
  likelihoods(values: readonly number[]): number[] {
    return values.slice(1).map((end, i) => this.below(end).above(values[i]!).total)
  }

  /** How likely it is to lie below a value with something else, of which `below` tells how likely it is to be less than each value from `from` on (see `cumulated`). */
  likelihoodBelowWith(from: number, below: Float64Array, value: number): number {
    const { weights } = this
    const last = below.length - 1
    const room = value - from - this.from
    let sum = 0
    for (let i = 0; i < weights.length && i < room; i++) sum += weights[i]! * below[room - i < last ? room - i : last]!
    return sum
  }

  /** How likely it is to lie from each of some rising values to before the next with something else. */
  likelihoodsWith(from: number, below: Float64Array, values: readonly number[]): number[] {
    const sums = values.map((value) => this.likelihoodBelowWith(from, below, value))
    return sums.slice(1).map((sum, i) => sum - sums[i]!)
  }

  /** For each share of all, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    const { total } = this
    return whereReached(this.weights, shares.map((share) => share * total)).map((i) => this.from + i)
  }

  /** P(X < from + i) at index i, from no value to all of them. */
  cumulated(): Float64Array {
    const sums = new Float64Array(this.weights.length + 1)
    for (let i = 0; i < this.weights.length; i++) sums[i + 1] = sums[i]! + this.weights[i]!
    return sums
  }
}

/** Writes the sum of one that has many values, and one of which most may be impossible, into `sum`. */
function convolved(wide: Float64Array, sparse: Float64Array, sum: Float64Array): Float64Array {
  const points: number[] = []
  for (let j = 0; j < sparse.length; j++) if (sparse[j] !== 0) points.push(j)
  const [last, length] = [sparse.length - 1, wide.length]
  // Where all points of the one meet values of the other, several of them are added up at once.
  for (let k = 0; k < points.length && last < length; k += 4) addSome(sum, wide, sparse, points.slice(k, k + 4), last)
  for (const j of points) {
    const p = sparse[j]!
    for (let i = 0; i < Math.min(length, last - j); i++) sum[i + j]! += wide[i]! * p
    for (let i = Math.max(0, Math.max(length, last) - j); i < length; i++) sum[i + j]! += wide[i]! * p
  }
  return sum
}

/** Adds up to four points where they meet values, from the last of all points on. */
function addSome(sum: Float64Array, wide: Float64Array, sparse: Float64Array, points: readonly number[], last: number): void {
  const [a, b, c, d] = points as [number, ...number[]]
  const p = sparse[a]!
  if (b === undefined) for (let i = last; i < wide.length; i++) sum[i]! += wide[i - a]! * p
  else if (c === undefined) {
    const q = sparse[b]!
    for (let i = last; i < wide.length; i++) sum[i]! += wide[i - a]! * p + wide[i - b]! * q
  } else {
    const [q, r, s, e] = [sparse[b]!, sparse[c]!, d === undefined ? 0 : sparse[d]!, d ?? c]
    for (let i = last; i < wide.length; i++) sum[i]! += wide[i - a]! * p + wide[i - b]! * q + wide[i - c]! * r + wide[i - e]! * s
  }
}

function trimmed(from: number, weights: Float64Array, points: number): Spread {
  let first = 0
  let end = weights.length
  while (first < end && weights[first]! < negligible) first++
  while (end > first && weights[end - 1]! < negligible) end--
  return new Spread(from + first, weights.subarray(first, end), Math.min(points, end - first))
}
