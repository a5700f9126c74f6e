import { leastOf } from '../least-of.ts'
import { Spread } from './spread.ts'

/** From so many values on, what is added is kept apart for a while. */
const wide = 8_192
/** How many times as much is put off as it takes to catch up, and how much less wide it stays. */
const putOffMost = 5
const narrower = 6

/**
 * A sum to which independent parts are added again and again. Where it is long, what came last is kept apart, which is short: it is
 * added up at once when there is much of it, or when somebody has to see all values.
 */
export class RunningSum {
  private early = Spread.at(0)
  /** What came since, together and one by one, and what it would cost to add it one by one. */
  private late = Spread.at(0)
  private parts: Spread[] = []
  private owed = 0
  /** Of what came early: P(X < from + i) at index i. */
  private below: Float64Array | null = null
  private readonly earlyRoom = roomsInTurn()
  private readonly lateRoom = roomsInTurn()

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
    if (this.early.weights.length < wide && this.isWhole) return this.addTo(part)
    let cost = this.late.costOf(part)
    this.late = this.late.plus(part, this.lateRoom)
    this.parts.push(part)
    this.owed += this.early.costOf(part)
    if (this.owed > putOffMost * this.early.costOf(this.late) || this.late.weights.length * narrower > this.early.weights.length) cost += this.catchUp()
    return cost
  }

  private addTo(part: Spread): number {
    const cost = this.early.costOf(part)
    this.early = this.early.plus(part, this.earlyRoom)
    this.below = null
    return cost
  }

  /** Adds up what was put off, the cheaper way. */
  private catchUp(): number {
    const { parts, late, early } = this
    const atOnce = early.costOf(late)
    const rest = this.owed < atOnce ? parts : [late]
    this.late = Spread.at(0)
    this.parts = []
    this.owed = 0
    return rest.reduce((cost, part) => cost + this.addTo(part), 0)
  }

  /** Whether nothing is put off. */
  get isWhole(): boolean {
    return this.parts.length === 0
  }

  /** All of it as one spread: it stands until something is added. */
  whole(): Spread {
    if (!this.isWhole) this.catchUp()
    return this.early
  }

  /** How likely it is to lie below a value. */
  likelihoodBelow(value: number): number {
    const below = this.belowEarly
    const { from, weights } = this.late
    // Of each value of the late part, how far the early part may go; as far as it goes at all, and not at all.
    const room = value - this.early.from - from
    const certain = Math.min(weights.length, Math.max(0, room - below.length + 2))
    const end = Math.min(weights.length, Math.max(0, room))
    let [all, some] = [0, 0]
    for (let i = 0; i < certain; i++) all += weights[i]!
    for (let i = certain; i < end; i++) some += weights[i]! * below[room - i]!
    return all * below.at(-1)! + some
  }

  /** How likely it is to lie from one value to before another. */
  likelihoodWithin(from: number, end: number): number {
    const { early, late } = this
    return likelihoodWithin(late, this.belowEarly, from - early.from, end - early.from)
  }

  private get belowEarly(): Float64Array {
    return (this.below ??= this.early.cumulated())
  }

  /** For each share, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    const { early, late } = this
    if (this.isWhole) return early.quantiles(shares)
    const below = this.belowEarly
    const total = below.at(-1)! * late.total
    return shares.map((share) => {
      const wanted = share * total * (1 - 1e-12)
      // It lies as far from where the early part has it as the late part goes.
      const at = leastOf(early.from, early.end, (value) => below[value - early.from + 1]! >= wanted)
      return leastOf(at + late.from, at + late.end, (value) => this.likelihoodBelow(value + 1) >= wanted)
    })
  }
}

/** Rooms for what is made anew again and again, and may be long: two of them, in turn. */
function roomsInTurn(): (length: number) => Float64Array<ArrayBuffer> {
  const rooms = [new Float64Array(0), new Float64Array(0)]
  return (length) => {
    rooms.reverse()
    if (rooms[0]!.length < length) rooms[0] = new Float64Array(Math.ceil(length * 1.5))
    return rooms[0]!.subarray(0, length).fill(0)
  }
}

/** How likely it is that a part and a sum, of which `below` tells how likely each is not reached, lie from one value to before another. */
export function likelihoodWithin(part: Spread, below: Float64Array, from: number, end: number): number {
  const { weights } = part
  const last = below.length - 1
  let likelihood = 0
  for (let i = 0; i < weights.length; i++) {
    if (weights[i] === 0) continue
    const [low, high] = [from - part.from - i, end - part.from - i]
    const upTo = high <= 0 ? 0 : below[high < last ? high : last]!
    const upFrom = low <= 0 ? 0 : below[low < last ? low : last]!
    likelihood += weights[i]! * (upTo - upFrom)
  }
  return likelihood
}
