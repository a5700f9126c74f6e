import { assert } from 'chai'
import fc from 'fast-check'
import { Histogram } from './histogram.ts'
import { mostCounted } from './weighted-values.ts'

const anyValue = fc.oneof(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -2_000_000, max: 2_000_000 }), fc.integer({ min: -80, max: 80 }).map((n) => n / 4))
const anyAdded = fc.array(fc.tuple(anyValue, fc.integer({ min: 0, max: 5 })), { maxLength: 30 })

function gathered(added: readonly (readonly [number, number])[], parts = 4): Histogram {
  const histogram = new Histogram(parts)
  for (const [value, weight] of added) histogram.add(value, weight)
  return histogram
}

/** The smallest value with at least that share of all weight at or below it, by counting. */
function plainQuantile(added: readonly (readonly [number, number])[], q: number, never = 0): number | null {
  const all = [...added].filter(([, weight]) => weight > 0).sort(([a], [b]) => a - b)
  const total = all.reduce((sum, [, weight]) => sum + weight, 0)
  let sum = 0
  return all.find(([, weight]) => (sum += weight) >= q * (total + never) - 1e-9)?.[0] ?? null
}

describe('a distribution that is gathered', () => {
  it('has the quantiles that counting gives, however its values lie', () => {
    fc.assert(fc.property(anyAdded, (added) => {
      const quantiles = gathered(added).quantiles()
      if (added.every(([, weight]) => weight === 0)) return assert.isNull(quantiles)
      const values = added.map(([value]) => value)
      // What is only possible has no weight, and is an extreme all the same.
      assert.deepEqual([quantiles!.min, quantiles!.max], [Math.min(...values), Math.max(...values)])
      assert.deepEqual([quantiles!.q05, quantiles!.median, quantiles!.q95], [0.05, 0.5, 0.95].map((q) => plainQuantile(added, q)))
    }))
  })

  it('is one value until another comes, in whatever way it is asked meanwhile', () => {
    const one = gathered([[3.25, 0.5], [9, 0], [3.25, 0.25]])
    assert.deepEqual(one.quantiles(), { min: 3.25, q05: 3.25, median: 3.25, q95: 3.25, max: 9 })
    assert.deepEqual([one.median(0.7), one.median(0.8)], [3.25, null])
    assert.deepEqual(one.data(), { least: 3.25, most: 9, values: Float64Array.of(3.25), weights: Float64Array.of(0.75) })
    one.add(-2, 0.25)
    assert.deepEqual(one.data(), { least: -2, most: 9, values: Float64Array.of(-2, 3.25), weights: Float64Array.of(0.25, 0.75) })
    const columns = gathered([[7, 2]])
    columns.addColumn(Float64Array.of(7, 8, 8), 1)
    assert.deepEqual(columns.data().weights, Float64Array.of(3, 2))
    const settled = gathered([[7, 2]])
    settled.settle()
    settled.add(1, 0)
    assert.deepEqual(settled.quantiles(), { min: 1, q05: 7, median: 7, q95: 7, max: 7 })
  })

  it('tells a number from the whole one that it all but is', () => {
    const histogram = new Histogram()
    histogram.addColumn(Float64Array.of(9, 1 / 3 + 2 / 3 - 2 ** -53), 1)
    assert.equal(histogram.quantiles()!.q05, 1 - 2 ** -53)
  })

  it('has no median where what never comes weighs more than half', () => {
    fc.assert(fc.property(anyAdded, fc.integer({ min: 0, max: 60 }), (added, never) => {
      assert.equal(gathered(added).median(never), plainQuantile(added, 0.5, never))
    }))
    assert.equal(gathered([[3, 1]]).median(0.5), 3)
    assert.isNull(gathered([[3, 1]]).median(1.5))
  })

  it('is the same whether it was gathered in one or in parts that were sent', () => {
    fc.assert(fc.property(anyAdded, anyAdded, (one, other) => {
      const whole = gathered([...one, ...other])
      const parts = new Histogram(4)
      for (const part of [one, other]) parts.absorb(structuredClone(gathered(part).data()), 1)
      assert.deepEqual(parts.data(), whole.data())
      assert.deepEqual(parts.quantiles(), whole.quantiles())
    }))
  })

  it('is the same where it only counts', () => {
    fc.assert(fc.property(fc.array(anyValue, { maxLength: 60 }), (values) => {
      const [weighed, counted] = [new Histogram(4), new Histogram(4, true)]
      for (const histogram of [weighed, counted]) histogram.addColumn(Float64Array.from(values), 1)
      assert.deepEqual(counted.data(), weighed.data())
      assert.deepEqual(counted.quantiles(), weighed.quantiles())
    }))
    const many = new Histogram(1, true)
    for (let i = 0; i < mostCounted; i++) many.add(7, 1)
    assert.deepEqual([...many.data().weights], [mostCounted])
  })

  it('has the same quantiles once it is settled, and takes what is only possible', () => {
    fc.assert(fc.property(anyAdded, (added) => {
      const histogram = gathered(added)
      const before = histogram.quantiles()
      histogram.settle()
      assert.deepEqual(histogram.quantiles(), before)
      histogram.add(-(2 ** 40), 0)
      assert.deepEqual(histogram.quantiles(), before && { ...before, min: -(2 ** 40) })
    }))
  })

  it('is told as alike only where it has the same quantiles', () => {
    const either = fc.tuple(anyAdded, fc.boolean()).map(([added, settles]) => {
      const histogram = gathered(added)
      if (settles) histogram.settle()
      return histogram
    })
    fc.assert(fc.property(either, either, (a, b) => {
      if (a.isAs(b)) assert.deepEqual(a.quantiles(), b.quantiles())
      assert.isTrue(a.isAs(a))
    }), { numRuns: 400 })
    const [one, same] = [gathered([[3, 1]]), gathered([[3, 1]])]
    assert.isTrue(one.isAs(same) && one.isOnly(3, 1))
    assert.isFalse(one.isAs(gathered([[3, 0.5]])) || one.isAs(gathered([[4, 1]])) || one.isAs(gathered([])))
    same.add(4, 0)
    assert.isFalse(same.isAs(one) || one.isAs(same) || same.isOnly(3, 1))
    const settled = [gathered([[3, 1], [9, 1]]), gathered([[3, 2], [9, 2]])]
    assert.isFalse(settled[0]!.isAs(settled[1]!))
    for (const histogram of settled) histogram.settle()
    assert.isTrue(settled[0]!.isAs(settled[1]!))
  })

  it('can be read as data and gathered on', () => {
    const histogram = gathered([[1, 2], [3, 1]])
    assert.deepEqual([...histogram.data().values], [1, 3])
    histogram.add(2, 1)
    assert.deepEqual([...histogram.data().weights], [2, 1, 1])
  })

  it('takes a share of what it absorbs', () => {
    const histogram = new Histogram()
    histogram.absorb(gathered([[5, 30], [9, 10], [12, 0]]).data(), 1 / 40)
    assert.deepEqual([...histogram.data().weights], [0.75, 0.25])
    assert.equal(histogram.quantiles()!.max, 12)
  })
})
