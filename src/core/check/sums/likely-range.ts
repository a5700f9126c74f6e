import type { Spread } from './spread.ts'

/** A sum is outside of its range with a probability of at most 1e-18, on each side. */
const doubt = Math.log(1e18)

/** Parts of a sum whose values all lie within one distance of their means: their variance, and how far all of them may go together. */
interface Kind {
  variance: number
  down: number
  up: number
}

/** The range in which a sum of independent parts lies, but for what is negligible; the more parts, the narrower than all that is possible. */
export class LikelyRange {
  mean = 0
  private variance = 0
  /** By distance: within 1, 2, 4, … */
  private kinds: Kind[] = []

  add(part: Spread): void {
    const { mean, variance } = part.moments
    const down = mean - part.from
    const up = part.end - 1 - mean
    const kind = this.kindWithin(Math.max(down, up))
    this.mean += mean
    this.variance += variance
    kind.variance += variance
    kind.down += down
    kind.up += up
  }

  private kindWithin(distance: number): Kind {
    const i = Math.max(0, Math.ceil(Math.log2(distance)))
    while (this.kinds.length <= i) this.kinds.push({ variance: 0, down: 0, up: 0 })
    return this.kinds[i]!
  }

  copy(): LikelyRange {
    const copy = new LikelyRange()
    copy.mean = this.mean
    copy.variance = this.variance
    copy.kinds = this.kinds.map((kind) => ({ ...kind }))
    return copy
  }

  get deviation(): number {
    return Math.sqrt(this.variance)
  }

  get from(): number {
    return Math.floor(this.mean - this.furthest('down'))
  }

  /** One more than the last value. */
  get end(): number {
    return Math.ceil(this.mean + this.furthest('up')) + 1
  }

  /** Parts that go less far are taken together (Bernstein's inequality), the others as far as they may go, whichever is nearest. */
  private furthest(way: 'down' | 'up'): number {
    let apart = 0
    for (const kind of this.kinds) apart += kind[way]
    let nearest = apart
    let variance = 0
    let distance = 1
    for (const kind of this.kinds) {
      apart -= kind[way]
      variance += kind.variance
      const third = (doubt * distance) / 3
      nearest = Math.min(nearest, apart + third + Math.sqrt(third ** 2 + 2 * doubt * variance))
      distance *= 2
    }
    return nearest
  }
}
