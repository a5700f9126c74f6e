/** What is less likely than this is left out of a spread's tails; what is possible at all is told apart from it. */
const negligible = 1e-22

/** The distribution of a sum of whole steps: P(from + i) at index i. */
export class Spread {
  constructor(
    readonly from: number,
    readonly weights: Float64Array,
  ) {}

  static at(value: number): Spread {
    return new Spread(value, Float64Array.of(1))
  }

  get end(): number {
    return this.from + this.weights.length
  }

  /** All of it together; less than 1 for a part of a spread. */
  get total(): number {
    return this.weights.reduce((sum, p) => sum + p, 0)
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

  /** The sum with another spread, independent of this one. */
  plus(other: Spread): Spread {
    const [a, b] = this.weights.length >= other.weights.length ? [this.weights, other.weights] : [other.weights, this.weights]
    const sum = new Float64Array(Math.max(0, a.length + b.length - 1))
    for (let j = 0; j < b.length; j++) {
      const p = b[j]!
      if (p === 0) continue
      for (let i = 0; i < a.length; i++) sum[i + j]! += a[i]! * p
    }
    return trimmed(this.from + other.from, sum)
  }

  /** With probability `share` what it is, else nothing. */
  orNothing(share: number): Spread {
    const from = Math.min(0, this.from)
    const weights = new Float64Array(Math.max(this.end, 1) - from)
    this.weights.forEach((p, i) => (weights[this.from - from + i] = p * share))
    weights[-from]! += 1 - share
    return trimmed(from, weights)
  }

  /** Every value from min to max, equally likely. */
  static even(min: number, max: number): Spread {
    return new Spread(min, new Float64Array(max - min + 1).fill(1 / (max - min + 1)))
  }

  /** The sum of `count` such, independent of each other. */
  times(count: number): Spread {
    let [sum, power]: [Spread, Spread] = [Spread.at(0), this]
    for (let n = count; n > 0; n >>= 1) {
      if (n & 1) sum = sum.plus(power)
      if (n > 1) power = power.plus(power)
    }
    return sum
  }
}

function trimmed(from: number, weights: Float64Array): Spread {
  let [first, end] = [0, weights.length]
  while (first < end && weights[first]! < negligible) first++
  while (end > first && weights[end - 1]! < negligible) end--
  return new Spread(from + first, weights.subarray(first, end))
}
