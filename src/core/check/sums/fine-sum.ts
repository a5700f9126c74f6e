import { LikelyRange } from './likely-range.ts'
import { reached } from './reached.ts'
import { Spread } from './spread.ts'
import { Waves } from './waves.ts'

/** From so many values on a sum is followed by its waves. */
export const long = 1_024

/** With more waves than this a sum is rough: it is no less work to follow them than its values. */
const mostWaves = 2_500

/** A likelihood below this is none: it is what rounding leaves. */
const none = 1e-12

/** A hair less than a share counts as enough: what is added up is off by rounding. */
export const hair = 1e-11

/** A sum of independent parts: value by value as long as it is short, then by its waves, which are few where it is smooth. */
export class FineSum {
  /** How likely each value is; null: nobody has had to see that of the waves yet. */
  private values: Spread | null
  private waves: Waves | null = null
  readonly likely = new LikelyRange()
  private readonly room = roomsInTurn()
  private range: [number, number]
  /** By share: how many deviations from the mean its quantile was. */
  private readonly lastFound = new Map<number, number>()

  constructor(start = Spread.at(0)) {
    this.values = start
    this.range = [start.from, start.end]
    this.likely.add(start)
    if (start.weights.length >= long) this.waves = Waves.of(start, sizeFor(start.weights.length))
  }

  get from(): number {
    return this.range[0]
  }

  get end(): number {
    return this.range[1]
  }

  get length(): number {
    return this.end - this.from
  }

  get isRough(): boolean {
    return this.waves !== null && this.waves.count > mostWaves
  }

  /** Multiplications that it takes at most to add a part. */
  costOf(part: Spread): number {
    return this.waves ? this.waves.costOf(part) : this.values!.costOf(part)
  }

  add(part: Spread): void {
    this.likely.add(part)
    if (this.waves) this.addToWaves(part, this.waves)
    else this.addToValues(part)
  }

  private addToValues(part: Spread): void {
    const values = this.values!.plus(part, this.room)
    this.values = values
    this.range = [values.from, values.end]
    if (values.weights.length >= long) this.waves = Waves.of(values, sizeFor(values.weights.length))
  }

  private addToWaves(part: Spread, waves: Waves): void {
    const [from, end] = this.likely.range
    const range: [number, number] = [Math.max(from, this.from + part.from), Math.min(end, this.end + part.end - 1)]
    // Its ends must not run into each other.
    const next = range[1] - range[0] > waves.size ? Waves.of(this.whole(), sizeFor(range[1] - range[0])) : waves
    next.add(part)
    this.waves = next
    this.range = range
    this.values = null
  }

  /** All of it as one spread: it stands until something is added. */
  whole(): Spread {
    return (this.values ??= new Spread(this.from, this.waves!.weights(this.from, this.end)))
  }

  /** How likely it is to lie from each of some rising values to before the next. */
  likelihoods(values: readonly number[]): number[] {
    const { waves, from, end } = this
    if (!waves) return this.values!.likelihoods(values)
    const sums = values.map((value) => waves.sumTo(Math.min(Math.max(value, from), end)))
    return sums.slice(1).map((sum, i) => (sum - sums[i]! < none ? 0 : sum - sums[i]!))
  }

  /** For each share, rising, the least value that is not exceeded with at least that probability. */
  quantiles(shares: readonly number[]): number[] {
    const { waves } = this
    if (!waves) return this.values!.quantiles(shares)
    const { mean, deviation } = this.likely
    const below = waves.sumTo(this.from)
    const total = waves.sumTo(this.end) - below
    return shares.map((share) => {
      const guess = mean + (this.lastFound.get(share) ?? 0) * deviation
      const found = reached((value) => waves.sumTo(value), below + share * total * (1 - hair), this.from, this.end, guess, this.likely)
      this.lastFound.set(share, (found - mean) / deviation)
      return found
    })
  }
}

/** The size of waves for so many values, with room for as many again at least. */
function sizeFor(values: number): number {
  return 2 ** Math.ceil(Math.log2(2 * values))
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
