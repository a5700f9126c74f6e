import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../../testing/runs.ts'
import { RunningSum } from './running-sum.ts'
import { Spread } from './spread.ts'
import { convolvedByTransform } from './transform.ts'

/** Each value of one with each of the other. */
function plainSum(a: Float64Array, b: Float64Array): Float64Array {
  const sum = new Float64Array(a.length + b.length - 1)
  b.forEach((q, j) => q > 0 && a.forEach((p, i) => (sum[i + j]! += p * q)))
  return sum
}

function near(found: Float64Array, wanted: Float64Array, from = 0, most = 1e-14): void {
  const furthest = wanted.reduce((most, p, i) => Math.max(most, Math.abs((found[i - from] ?? 0) - p)), 0)
  assert.isBelow(furthest, most)
}

describe('a sum by transforms', () => {
  const anyWeights = fc.array(fc.oneof(fc.constant(0), fc.double({ min: 0, max: 0.1, noNaN: true })), { minLength: 1, maxLength: 90 }).map((list) => Float64Array.from(list))

  it('is what each with each comes to, whatever their lengths', () => {
    fc.assert(fc.property(anyWeights, anyWeights, (a, b) => {
      near(convolvedByTransform(a, b, new Float64Array(a.length + b.length - 1)), plainSum(a, b), 0, 1e-15)
    }), { numRuns: runs(100) })
  })

  it('has nothing where nothing can be, and nothing below nothing', () => {
    const even = Float64Array.from({ length: 2_999 }, (_, i) => (i % 2 ? 0 : 1 / 1_500))
    const sum = convolvedByTransform(even, even, new Float64Array(5_997))
    assert.deepEqual([...sum].filter((p, i) => (i % 2 ? p !== 0 : p <= 0)).slice(0, 5), [])
  })
})

describe('a running sum', () => {
  /** What makes it long, roughly or finely, and then parts of it: chances of some units, and ranges. */
  const anyPart = fc.record({ value: fc.integer({ min: -9, max: 60 }), share: fc.double({ min: 0.01, max: 1, noNaN: true }), count: fc.integer({ min: 1, max: 3 }) })
    .map(({ value, share, count }) => Spread.at(value).orNothing(share).times(count))
  const longAs = { rough: [Spread.even(0, 9_000), Spread.even(5, 90)], fine: Array.from({ length: 12 }, (_, i) => Spread.even(0, 100 + 40 * i)) }

  it('is what its parts come to, whenever it is asked, however it was put off', () => {
    const anySteps = fc.array(fc.record({ part: anyPart, asks: fc.constantFrom('nothing', 'nothing', 'likelihood', 'quantiles', 'whole') }), { minLength: 1, maxLength: 40 })
    fc.assert(fc.property(fc.constantFrom(longAs.rough, longAs.fine), anySteps, (long, steps) => {
      const running = new RunningSum()
      let plain = Float64Array.of(1)
      let from = 0
      const add = (part: Spread) => {
        running.add(part)
        plain = plainSum(plain, part.weights) as Float64Array<ArrayBuffer>
        from += part.from
      }
      const below = (value: number) => plain.slice(0, Math.max(0, value - from)).reduce((sum, p) => sum + p, 0)
      long.forEach(add)
      for (const { part, asks } of steps) {
        add(part)
        assert.isAtLeast(running.from, from)
        assert.isAtMost(running.end, from + plain.length)
        if (asks === 'likelihood') for (const share of [-0.1, 0, 0.3, 0.5, 0.9, 1, 1.1]) {
          const value = from + Math.floor(share * plain.length)
          assert.approximately(running.likelihoodBelow(value), below(value), 1e-12)
        }
        if (asks === 'quantiles') running.quantiles([0.05, 0.5, 0.95]).forEach((value, i) => {
          const share = [0.05, 0.5, 0.95][i]!
          assert.isAtLeast(below(value + 1), share - 1e-9)
          assert.isBelow(below(value), share)
        })
        if (asks === 'whole') near(running.whole().weights, plain, running.whole().from - from)
      }
      near(running.whole().weights, plain, running.whole().from - from)
    }), { numRuns: runs(10) })
  })

  it('goes on from a copy as from itself, whatever becomes of the other', () => {
    fc.assert(fc.property(fc.constantFrom([], longAs.rough, longAs.fine), fc.array(anyPart, { maxLength: 8 }), fc.array(anyPart, { maxLength: 8 }), (long, before, after) => {
      const [first, plain] = [new RunningSum(), new RunningSum()]
      for (const part of [...long, ...before]) for (const sum of [first, plain]) sum.add(part)
      const [copy, other] = [first.copy(), first.copy()]
      for (const part of [Spread.even(0, 400), ...after]) first.add(part)
      for (const part of after) for (const sum of [copy, plain]) sum.add(part)
      assert.deepEqual([copy.from, copy.end, copy.quantiles([0.05, 0.5, 0.95])], [plain.from, plain.end, plain.quantiles([0.05, 0.5, 0.95])])
      near(copy.whole().weights, plain.whole().weights)
      assert.equal(other.end, other.copy().end)
      near(other.copy().whole().weights, other.whole().weights)
    }), { numRuns: runs(15) })
  })

  it('has nothing at all between values that it can have', () => {
    const running = new RunningSum()
    for (const part of [Spread.even(0, 20_000, 2), ...Array.from({ length: 9 }, (_, i) => Spread.at(2 * i).orNothing(0.3))]) running.add(part)
    for (const value of [1, 777, 9_999, 20_001]) {
      assert.equal(running.likelihoods([value, value + 1])[0], 0)
      assert.isAbove(running.likelihoods([value, value + 2])[0]!, 0)
    }
    assert.approximately(running.likelihoods([0, 5_000])[0]!, running.likelihoodBelow(5_000), 1e-15)
  })

  it('costs less than adding up what is long each time', () => {
    const units = Array.from({ length: 1_000 }, (_, i) => Spread.at(20 + (i % 30)).orNothing(0.5))
    const running = new RunningSum()
    let [cost, plainCost] = [0, 0]
    let plain = Spread.at(0)
    for (const part of [Spread.even(0, 40_000), ...units]) {
      cost += running.add(part)
      plainCost += plain.costOf(part)
      plain = plain.plus(part)
    }
    assert.isBelow(cost, plainCost / 2)
    assert.deepEqual(running.quantiles([0.05, 0.5, 0.95]), plain.quantiles([0.05, 0.5, 0.95]))
    near(running.whole().weights, plain.weights, running.whole().from - plain.from)
  })
})
