import { FineSum } from './fine-sum.ts'
import { RoughSum } from './rough-sum.ts'
import type { Spread } from './spread.ts'

/** A rough sum that has become so many times as long may have become smooth; it takes a while to see that of one of more values than this. */
const longer = 2
const mostSeen = 2 ** 18

/** A sum to which independent parts are added again and again, in whichever way that costs least. */
export class RunningSum {
  private sum: FineSum | RoughSum = new FineSum()
  /** The length from which on a rough sum is looked at again. */
  private nextLook = 0

  /** A copy to add more to. */
  copy(): RunningSum {
    const copy = new RunningSum()
    copy.sum = this.sum.copy()
    copy.nextLook = this.nextLook
    return copy
  }

  get from(): number {
    return this.sum.from
  }

  get end(): number {
    return this.sum.end
  }

  /** Whether it has no more than so many values. */
  isWithin(values: number): boolean {
    return this.sum instanceof FineSum ? this.sum.isWithin(values) : this.end - this.from <= values
  }

  /** Multiplications that it takes at most to add a part. */
  costOf(part: Spread): number {
    return this.sum.costOf(part)
  }

  /** Adds a part, and answers how many multiplications that took. */
  add(part: Spread): number {
    const { sum } = this
    const cost = sum.add(part)
    if (sum instanceof FineSum ? sum.isRough : sum.end - sum.from >= this.nextLook) this.choose(sum)
    return cost
  }

  private choose(sum: FineSum | RoughSum): void {
    const own = sum.whole().copy()
    // To see how rough values are takes their waves, which may be there.
    const fine = sum instanceof FineSum && sum.isFresh ? sum : new FineSum(own)
    this.sum = fine.isRough ? new RoughSum(own) : fine
    const next = longer * own.weights.length
    this.nextLook = next <= mostSeen ? next : Infinity
  }

  /** All of it as one spread: it stands until something is added. */
  whole(): Spread {
    return this.sum.whole()
  }

  /** How likely it is to lie below a value. */
  likelihoodBelow(value: number): number {
    return this.likelihoods([this.from, Math.max(this.from, value)])[0]!
  }

  /** How likely it is to lie from each of some rising values to before the next. */
  likelihoods(values: readonly number[]): number[] {
    return this.sum.likelihoods(values)
  }

  /** For each share, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    return this.sum.quantiles(shares)
  }
}
