import { LikelyRange } from './likely-range.ts'
import { reached } from './reached.ts'
import { roomsInTurn } from './rooms-in-turn.ts'
import { Spread } from './spread.ts'
import { sizeFor } from './transform.ts'
import { Waves } from './waves.ts'

/** From so many values on a sum is followed by its waves; and up to so many: transforms of more would take too much memory. */
export const long = 1_024
export const longest = 2 ** 20

/** Waves have room for so many times as many values. */
const roomy = 2

/** With more waves than this a sum is rough: it is no less work to follow them than its values. */
const mostWaves = 2_500

/** A likelihood below this is none: it is what rounding leaves. */
const none = 1e-12

/** A hair less than a share counts as enough: what is added up is off by rounding. */
export const hair = 1e-11

/** A sum of independent parts: value by value as long as it is short, then by its waves, which are few where it is smooth. */
export class FineSum {
  /** Its first value and one more than its last, at the most; and whether they are as narrow as is known. */
  private first: number
  private last: number
  private isNarrow = true
  /** How likely each value is; null: nobody has had to see that of the waves yet. */
  private values: Spread | null
  private waves: Waves | null
  /** Waves as they were last made of the values, with nothing added since. */
  private ownWaves: Waves | null
  private likely = new LikelyRange()
  private readonly room = roomsInTurn()
  /** By share: how many deviations from the mean its quantile was. */
  private readonly lastFound = new Map<number, number>()

  constructor(start = Spread.at(0)) {
    this.values = start
    this.first = start.from
    this.last = start.end
    this.likely.add(start)
    this.waves = this.ownWaves = wavesOf(start)
  }

  /** A copy to add more to. */
  copy(): FineSum {
    const copy = new FineSum()
    copy.first = this.first
    copy.last = this.last
    copy.isNarrow = this.isNarrow
    copy.values = this.values && this.values.copy()
    copy.waves = this.waves && this.waves.copy()
    copy.ownWaves = this.isFresh ? copy.waves : null
    copy.likely = this.likely.copy()
    for (const [share, deviations] of this.lastFound) copy.lastFound.set(share, deviations)
    return copy
  }

  get from(): number {
    this.narrow()
    return this.first
  }

  get end(): number {
    this.narrow()
    return this.last
  }

  /** Leaves out at both ends what is negligible: that is worked out when somebody asks. */
  private narrow(): void {
    if (this.isNarrow) return
    this.first = Math.max(this.first, this.likely.from)
    this.last = Math.min(this.last, this.likely.end)
    this.isNarrow = true
  }

  /** Whether it has no more than so many values, as far as that is known without working anything out; else it is worked out. */
  isWithin(values: number): boolean {
    return this.last - this.first <= values || this.end - this.from <= values
  }

  /** Whether its waves are those of its values, in no more room than these need. */
  get isFresh(): boolean {
    return this.waves === this.ownWaves
  }

  get isRough(): boolean {
    return this.waves ? this.waves.count > mostWaves : this.end - this.from > longest
  }

  /** Multiplications that it takes at most to add a part. */
  costOf(part: Spread): number {
    return this.waves ? this.waves.costOf(part) : this.values!.costOf(part)
  }

  /** Adds a part, and answers how many multiplications that took. */
  add(part: Spread): number {
    const cost = this.costOf(part)
    if (this.waves && this.lengthWith(part) > this.waves.size) this.narrow()
    this.likely.add(part)
    if (this.waves) this.addToWaves(part, this.waves)
    else this.addToValues(part)
    return cost
  }

  private addToValues(part: Spread): void {
    const values = this.whole().plus(part, this.room)
    this.values = values
    this.first = values.from
    this.last = values.end
    this.isNarrow = true
    this.waves = this.ownWaves = wavesOf(values)
  }

  private addToWaves(part: Spread, waves: Waves): void {
    // Its ends must not run into each other.
    if (this.lengthWith(part) > waves.size) {
      const length = Math.min(this.lengthWith(part), this.likely.end - this.likely.from)
      if (length > longest) return this.addToValues(part)
      if (length > waves.size) this.waves = Waves.of(this.whole(), sizeFor(roomy * length))
    }
    this.waves!.add(part)
    this.ownWaves = null
    this.first += part.from
    this.last += part.end - 1
    this.isNarrow = false
    this.values = null
  }

  private lengthWith(part: Spread): number {
    return this.last - this.first + part.weights.length - 1
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
    const { total } = waves
    return shares.map((share) => {
      const guess = mean + (this.lastFound.get(share) ?? 0) * deviation
      const found = reached((value) => waves.sumTo(value), below + share * total * (1 - hair), this.from, this.end, guess, this.likely)
      this.lastFound.set(share, (found - mean) / deviation)
      return found
    })
  }
}

function wavesOf(values: Spread): Waves | null {
  const { length } = values.weights
  return length >= long && length <= longest ? Waves.of(values, sizeFor(roomy * length)) : null
}
