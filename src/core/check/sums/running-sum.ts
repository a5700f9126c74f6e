import { FineSum, hair } from './fine-sum.ts'
import { reached } from './reached.ts'
import { Spread } from './spread.ts'

/** How many times as long as what is late a rough sum has to be. */
const narrower = 6

/** A rough sum, and for each of its values and the end how likely it is to lie below. */
interface Early {
  sum: Spread
  below: Float64Array
}

/**
 * A sum to which independent parts are added again and again. Where it is rough, what came last is kept apart, which is short: it is
 * added up at once when there is much of it, or when somebody has to see all values.
 */
export class RunningSum {
  private early: Early | null = null
  private late = new FineSum()

  get from(): number {
    return this.late.from + (this.early?.sum.from ?? 0)
  }

  get end(): number {
    return this.late.end + (this.early ? this.early.sum.end - 1 : 0)
  }

  /** Multiplications that it takes at most to add a part. */
  costOf(part: Spread): number {
    return this.late.costOf(part)
  }

  /** Adds a part, and answers how many multiplications that took. */
  add(part: Spread): number {
    const { early, late } = this
    const cost = late.costOf(part)
    late.add(part)
    const isTooMuch = early ? late.length * narrower > early.sum.weights.length : late.isRough
    return isTooMuch ? cost + this.unite() : cost
  }

  /** Adds up what is late, and answers how many multiplications that took. */
  private unite(): number {
    const late = this.late.whole()
    const [cost, all] = this.early ? [this.early.sum.costOf(late), this.early.sum.plus(late)] : [0, late.copy()]
    const fine = new FineSum(all)
    this.early = fine.isRough ? { sum: all, below: all.cumulated() } : null
    this.late = fine.isRough ? new FineSum() : fine
    return cost
  }

  /** All of it as one spread: it stands until something is added. */
  whole(): Spread {
    if (this.early && this.late.length > 1) this.unite()
    return this.early ? this.early.sum.plus(this.late.whole()) : this.late.whole()
  }

  /** How likely it is to lie below a value. */
  likelihoodBelow(value: number): number {
    return this.likelihoods([this.from, Math.max(this.from, value)])[0]!
  }

  /** How likely it is to lie from each of some rising values to before the next. */
  likelihoods(values: readonly number[]): number[] {
    const { early, late } = this
    return early ? late.whole().likelihoodsWith(early.sum.from, early.below, values) : late.likelihoods(values)
  }

  /** For each share, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    const { early, late } = this
    if (!early) return late.quantiles(shares)
    const { mean, variance } = early.sum.moments
    const bell = { mean: mean + late.likely.mean, deviation: Math.sqrt(variance + late.likely.deviation ** 2) }
    const total = early.below.at(-1)! * late.whole().total
    const below = (value: number) => late.whole().likelihoodBelowWith(early.sum.from, early.below, value)
    return shares.map((share) => reached(below, share * total * (1 - hair), this.from, this.end, bell.mean, bell))
  }
}
