import FFT from 'fft.js'

/** Multiplications that take as long as one value of a transform does for each time that their number can be halved. */
const eachHalving = 8

/** The length of the transforms that a sum of so many values takes. */
export function sizeFor(values: number): number {
  return Math.max(4, 2 ** Math.ceil(Math.log2(values)))
}

/** Transforms of more values than this would take too much memory. */
const largest = 2 ** 22

/** What a sum of so many values costs by transforms, in multiplications. */
export function transformCost(values: number): number {
  const size = sizeFor(values)
  return size > largest ? Infinity : eachHalving * size * Math.log2(size)
}

const transforms = new Map<number, { fft: FFT; data: Float64Array; spectrum: Float64Array }>()

/** What transforms one of so many values, and rooms for them and for what becomes of them: real parts, each with its imaginary one. */
export function transformOf(size: number) {
  let known = transforms.get(size)
  if (!known) transforms.set(size, (known = { fft: new FFT(size), data: new Float64Array(2 * size), spectrum: new Float64Array(2 * size) }))
  return known
}

/**
 * The convolution of two lists of weights, by way of their Fourier transforms, into `sum`: as long as both together, less one.
 * What is no more than rounding may leave is 0.
 */
export function convolvedByTransform(a: Float64Array, b: Float64Array, sum: Float64Array): Float64Array {
  const size = sizeFor(sum.length)
  const { fft, data, spectrum } = transformOf(size)
  // Both at once: one as real parts, one as imaginary.
  data.fill(0)
  for (let i = 0; i < a.length; i++) data[2 * i] = a[i]!
  for (let i = 0; i < b.length; i++) data[2 * i + 1] = b[i]!
  fft.transform(spectrum, data)
  multiply(spectrum, size)
  fft.inverseTransform(data, spectrum)
  const least = roundingOf(a, b, size)
  for (let i = 0; i < sum.length; i++) sum[i] = data[2 * i]! > least ? data[2 * i]! : 0
  return sum
}

/** Makes of the transform of a + ib that of a * b: (z(k)² − z̄(−k)²) / 4i. */
function multiply(z: Float64Array, size: number): void {
  for (let k = 0; k <= size / 2; k++) {
    const i = 2 * k
    const j = 2 * ((size - k) % size)
    const x = z[i]!
    const y = z[i + 1]!
    const u = z[j]!
    const v = z[j + 1]!
    const re = (x * y + u * v) / 2
    const im = (u * u - v * v - x * x + y * y) / 4
    z[i] = re
    z[i + 1] = im
    z[j] = re
    z[j + 1] = -im
  }
}

function roundingOf(a: Float64Array, b: Float64Array, size: number): number {
  const squares = (list: Float64Array) => {
    let sum = 0
    for (let i = 0; i < list.length; i++) sum += list[i]! * list[i]!
    return sum
  }
  return Number.EPSILON * Math.log2(size) * (squares(a) + squares(b))
}
