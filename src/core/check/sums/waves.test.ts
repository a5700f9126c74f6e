import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../../testing/runs.ts'
import { LikelyRange } from './likely-range.ts'
import { Spread } from './spread.ts'
import { Waves } from './waves.ts'

/** What a source of some units gives: each of an amount, with a probability. */
const anyPart = fc.record({ value: fc.integer({ min: -40, max: 90 }), share: fc.double({ min: 0.01, max: 0.99, noNaN: true }), count: fc.integer({ min: 1, max: 9 }) })
  .map(({ value, share, count }) => Spread.at(value).orNothing(share).times(count))
const anyParts = fc.array(anyPart, { minLength: 1, maxLength: 25 })

const sumOf = (parts: readonly Spread[]) => parts.reduce((sum, part) => sum.plus(part), Spread.at(0))

describe('the waves of a sum', () => {
  it('tell the same of it as its values do', () => {
    fc.assert(fc.property(anyParts, (parts) => {
      const plain = sumOf(parts)
      const waves = Waves.of(Spread.at(0), 2 ** 15)
      for (const part of parts) waves.add(part)
      waves.weights(plain.from, plain.end).forEach((weight, i) => assert.approximately(weight, plain.weights[i]!, 1e-13))
      const below = plain.cumulated()
      for (let i = 0; i < below.length; i += 7) assert.approximately(waves.sumTo(plain.from + i) - waves.sumTo(plain.from), below[i]!, 1e-12)
    }), { numRuns: runs(15) })
  })

  it('become few where it becomes smooth', () => {
    const waves = Waves.of(Spread.at(0), 2 ** 13)
    const before = waves.count
    for (let i = 0; i < 400; i++) waves.add(Spread.at(1 + (i % 7)).orNothing(0.5))
    assert.equal(before, 2 ** 12 + 1)
    assert.isBelow(waves.count, 400)
  })

  it('stand for values of any size, in whatever order what is long and what is short comes', () => {
    const [far, wide] = [Spread.at(-3_000_000_017), Spread.even(10, 3_000)]
    const waves = Waves.of(far, 2 ** 13)
    for (const part of [wide, wide, Spread.even(0, 6)]) waves.add(part)
    const plain = sumOf([far, wide, wide, Spread.even(0, 6)])
    waves.weights(plain.from, plain.end).forEach((weight, i) => assert.approximately(weight, plain.weights[i]!, 1e-14))
  })
})

describe('the likely range of a sum', () => {
  it('leaves out no more than is negligible', () => {
    fc.assert(fc.property(anyParts, fc.nat(3), (parts, times) => {
      const likely = new LikelyRange()
      const all = Array.from({ length: 10 ** times }, () => parts).flat().slice(0, 900)
      for (const part of all) likely.add(part)
      const { from, end } = likely
      const sum = sumOf(all)
      assert.isBelow(sum.below(from).total + sum.above(end).total, 1e-17)
      assert.approximately(likely.mean, sum.moments.mean, 1e-6)
      assert.approximately(likely.deviation, Math.sqrt(sum.moments.variance), 1e-3)
    }), { numRuns: runs(20) })
  })

  it('is all that is possible of a few parts, and far less of many', () => {
    const few = new LikelyRange()
    for (const part of [Spread.at(500).orNothing(0.01), Spread.even(-4, 4)]) few.add(part)
    assert.deepEqual([few.from, few.end], [-4, 505])
    const many = new LikelyRange()
    for (let i = 0; i < 10_000; i++) many.add(Spread.at(20).orNothing(0.5))
    const { from, end } = many
    assert.isBelow(end - from, 20_000)
    // One that goes far makes no more of it than it can.
    many.add(Spread.at(5_000).orNothing(0.5))
    assert.isBelow(many.end - many.from - (end - from), 5_001)
  })
})
