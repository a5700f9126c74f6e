import type { Spread } from './spread.ts'
import { transformCost, transformOf } from './transform.ts'

/** A wave that is lower than this tells no more than rounding does. */
const faint = 1e-15

/** Numbers of which the waves of parts that were added may consist, to be had again where the same is added: 8 MB. */
const mostKept = 2 ** 20

/** Multiplications that a wave takes for each part, or for each of its values. */
const eachWave = 4

/**
 * The distribution of a long sum as the waves it is made of: its Fourier transform, modulo `size`. The longer a sum of many parts is, the
 * smoother it is, and the fewer waves are left: what is added to it only makes them lower.
 */
export class Waves {
  /** By part that was added before, its own waves: of each its real part and its imaginary. */
  private readonly ofParts = new Map<Spread, Float64Array>()
  /** What the likelihoods of all values below one are made of, until something is added. */
  private sums: Float64Array | null = null
  /** By wave: the cotangent that it is summed up with. */
  private cots: Float64Array | null = null

  private constructor(
    readonly size: number,
    private readonly origin: number,
    /** How often each goes up and down within the size; that of 0 is all values together. */
    private numbers: Int32Array,
    private waves: Float64Array,
  ) {}

  static of(spread: Spread, size: number): Waves {
    const spectrum = spectrumOf(spread, size)
    // The other half mirrors this one.
    const all = new Int32Array(size / 2 + 1)
    for (let k = 0; k < all.length; k++) all[k] = k
    return new Waves(size, spread.from, all, spectrum.slice(0, size + 2)).withoutFaint()
  }

  /** A copy to add more to. What the waves of parts are is known to both. */
  copy(): Waves {
    const copy = new Waves(this.size, this.origin, this.numbers, this.waves.slice())
    for (const [part, waves] of this.ofParts) copy.ofParts.set(part, waves)
    copy.cots = this.cots
    return copy
  }

  get count(): number {
    return this.numbers.length
  }

  /** All values together. */
  get total(): number {
    return this.waves[0]!
  }

  /** Multiplications that it takes to add a part. */
  costOf(part: Spread): number {
    return eachWave * this.count + (this.ofParts.has(part) ? 0 : Math.min(this.oneByOne(part), transformCost(this.size)))
  }

  /** Multiplications for the waves of a part, value by value. */
  private oneByOne({ points }: Spread): number {
    return eachWave * points * this.count
  }

  add(part: Spread): void {
    const { waves } = this
    const by = this.wavesOf(part)
    let faded = 0
    for (let i = 0; i < waves.length; i += 2) {
      const a = waves[i]!
      const b = waves[i + 1]!
      const re = a * by[i]! - b * by[i + 1]!
      const im = a * by[i + 1]! + b * by[i]!
      waves[i] = re
      waves[i + 1] = im
      if (isFaint(re, im)) faded++
    }
    this.sums = null
    if (faded * 2 > this.count) this.withoutFaint()
  }

  private withoutFaint(): this {
    const { numbers, waves, ofParts } = this
    const left = numbers.map((_, i) => i).filter((i) => i === 0 || !isFaint(waves[2 * i]!, waves[2 * i + 1]!))
    this.numbers = left.map((i) => numbers[i]!)
    this.waves = those(waves, left)
    this.cots = null
    for (const [part, own] of ofParts) ofParts.set(part, those(own, left))
    return this
  }

  private wavesOf(part: Spread): Float64Array {
    const { ofParts } = this
    let waves = ofParts.get(part)
    if (waves) return waves
    if (ofParts.size * 2 * this.count > mostKept) ofParts.clear()
    ofParts.set(part, (waves = this.transformed(part)))
    return waves
  }

  private transformed(part: Spread): Float64Array {
    const { size, numbers } = this
    if (this.oneByOne(part) <= transformCost(size)) return this.addedUp(part)
    return those(spectrumOf(part, size), numbers)
  }

  private addedUp({ from, weights }: Spread): Float64Array {
    const { size, numbers } = this
    const [sines, last, quarter] = [sinesOf(size), size - 1, size / 4]
    const start = within(from, size)
    const waves = new Float64Array(2 * numbers.length)
    for (let j = 0; j < weights.length; j++) {
      const weight = weights[j]!
      if (weight === 0) continue
      for (let i = 0; i < numbers.length; i++) {
        const at = Math.imul(numbers[i]!, start + j) & last
        waves[2 * i]! += weight * sines[(at + quarter) & last]!
        waves[2 * i + 1]! -= weight * sines[at]!
      }
    }
    return waves
  }

  /** How likely it is to lie below a value, less the same for some value that is always the same. */
  sumTo(value: number): number {
    const { size, numbers, origin } = this
    const sums = (this.sums ??= this.summed())
    const [sines, last, quarter] = [sinesOf(size), size - 1, size / 4]
    const place = within(value, size)
    let sum = (this.waves[0]! * (value - origin)) / size
    for (let i = 1; i < numbers.length; i++) {
      const at = Math.imul(numbers[i]!, place) & last
      sum += sums[2 * i]! * sines[(at + quarter) & last]! - sums[2 * i + 1]! * sines[at]!
    }
    return sum
  }

  /** Each wave z summed up over the values below one: z / (exp(iθ) − 1) = z (−1 − i cot(θ/2)) / 2, with its mirror image. */
  private summed(): Float64Array {
    const { size, numbers, waves } = this
    const sums = new Float64Array(waves.length)
    const cots = (this.cots ??= Float64Array.from(numbers, (k) => (k * 2 === size ? 0 : 1 / Math.tan((Math.PI * k) / size))))
    for (let i = 1; i < numbers.length; i++) {
      const k = numbers[i]!
      const cot = cots[i]!
      const share = (k * 2 === size ? 1 : 2) / size / 2
      const re = waves[2 * i]!
      const im = waves[2 * i + 1]!
      sums[2 * i] = share * (im * cot - re)
      sums[2 * i + 1] = share * (-re * cot - im)
    }
    return sums
  }

  /** How likely each value is, from one on. */
  weights(from: number, end: number): Float64Array {
    const { size, numbers, waves } = this
    const { fft, data, spectrum } = transformOf(size)
    spectrum.fill(0)
    let height = 0
    for (let i = 0; i < numbers.length; i++) {
      const k = numbers[i]!
      const mirrored = within(-k, size)
      const re = waves[2 * i]!
      const im = waves[2 * i + 1]!
      spectrum[2 * mirrored] = spectrum[2 * k] = re
      spectrum[2 * k + 1] = im
      spectrum[2 * mirrored + 1] = k === mirrored ? 0 : -im
      height += Math.abs(re) + Math.abs(im)
    }
    fft.inverseTransform(data, spectrum)
    const rounding = (Number.EPSILON * Math.log2(size) * 2 * height) / size
    const weights = new Float64Array(end - from)
    for (let i = 0; i < weights.length; i++) {
      const weight = data[2 * within(from + i, size)]!
      if (weight > rounding) weights[i] = weight
    }
    return weights
  }
}

/** The transform of a spread, as numbers and in a room that serve until the next. */
function spectrumOf({ from, weights }: Spread, size: number): Float64Array {
  const { fft, data, spectrum } = transformOf(size)
  data.fill(0)
  for (let i = 0; i < weights.length; i++) data[2 * within(from + i, size)]! += weights[i]!
  fft.transform(spectrum, data)
  return spectrum
}

/** Some of the waves in a list, by their place in it. */
function those(waves: Float64Array, places: Int32Array): Float64Array<ArrayBuffer> {
  const found = new Float64Array(2 * places.length)
  for (let i = 0; i < places.length; i++) {
    found[2 * i] = waves[2 * places[i]!]!
    found[2 * i + 1] = waves[2 * places[i]! + 1]!
  }
  return found
}

function isFaint(re: number, im: number): boolean {
  return re < faint && re > -faint && im < faint && im > -faint
}

/** A value modulo a size. */
function within(value: number, size: number): number {
  return ((value % size) + size) % size
}

const sines = new Map<number, Float64Array>()

/** The sines of all parts of a circle. */
function sinesOf(size: number): Float64Array {
  let known = sines.get(size)
  if (!known) {
    sines.set(size, (known = new Float64Array(size)))
    for (let i = 0; i < size; i++) known[i] = Math.sin((2 * Math.PI * i) / size)
  }
  return known
}
