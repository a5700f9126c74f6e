import { leastOf } from '../../plan/least-of.ts'
import { hair } from './fine-sum.ts'
import { roomsInTurn } from './rooms-in-turn.ts'
import { Spread } from './spread.ts'

/** How many times as much is put off as it takes to catch up, and how much less wide it stays. */
const putOffMost = 5
const narrower = 6

/**
 * A long sum that is not smooth. What came last is kept apart, which is short: it is added up at once when there is much of it, or when
 * somebody has to see all values.
 */
export class RoughSum {
  /** What came since, together and one by one, and what it would cost to add it one by one. */
  private late = Spread.at(0)
  private parts: Spread[] = []
  private owed = 0
  /** Of what came early: P(X < from + i) at index i. */
  private below: Float64Array | null = null
  private readonly earlyRoom = roomsInTurn()
  private readonly lateRoom = roomsInTurn()

  constructor(private early: Spread) {}

  /** A copy to add more to. */
  copy(): RoughSum {
    const copy = new RoughSum(this.early.copy())
    copy.late = this.late.copy()
    copy.parts = [...this.parts]
    copy.owed = this.owed
    copy.below = this.below
    return copy
  }

  get from(): number {
    return this.early.from + this.late.from
  }

  get end(): number {
    return this.early.end + this.late.end - 1
  }

  /** Multiplications that it takes at most to add a part. */
  costOf(part: Spread): number {
    return this.early.costOf(part)
  }

  /** Adds a part, and answers how many multiplications that took. */
  add(part: Spread): number {
    let cost = this.late.costOf(part)
    this.late = this.late.plus(part, this.lateRoom)
    this.parts.push(part)
    this.owed += this.early.costOf(part)
    if (this.owed > putOffMost * this.early.costOf(this.late) || this.late.weights.length * narrower > this.early.weights.length) cost += this.catchUp()
    return cost
  }

  /** Adds up what was put off, the cheaper way. */
  private catchUp(): number {
    const { parts, late } = this
    const rest = this.owed < this.early.costOf(late) ? parts : [late]
    let cost = 0
    for (const part of rest) {
      cost += this.early.costOf(part)
      this.early = this.early.plus(part, this.earlyRoom)
    }
    this.late = Spread.at(0)
    this.parts = []
    this.owed = 0
    this.below = null
    return cost
  }

  /** All of it as one spread: it stands until something is added. */
  whole(): Spread {
    if (this.parts.length) this.catchUp()
    return this.early
  }

  private get belowEarly(): Float64Array {
    return (this.below ??= this.early.cumulated())
  }

  /** How likely it is to lie from each of some rising values to before the next. */
  likelihoods(values: readonly number[]): number[] {
    return this.late.likelihoodsWith(this.early.from, this.belowEarly, values)
  }

  /** For each share, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    const { early, late, belowEarly } = this
    const total = belowEarly.at(-1)! * late.total
    return shares.map((share) => {
      const wanted = share * total * (1 - hair)
      // It lies as far from where the early part has it as the late part goes.
      const at = leastOf(early.from, early.end, (value) => belowEarly[value - early.from + 1]! >= wanted)
      return leastOf(at + late.from, at + late.end, (value) => late.likelihoodBelowWith(early.from, belowEarly, value + 1) >= wanted)
    })
  }
}
