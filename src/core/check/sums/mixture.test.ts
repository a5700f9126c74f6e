import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../../testing/runs.ts'
import { mixture } from './mixture.ts'
import { Spread } from './spread.ts'

const anySpread = fc.record({ from: fc.integer({ min: -9, max: 9 }), span: fc.nat(4), moved: fc.integer({ min: -40, max: 40 }) })
  .map(({ from, span, moved }) => Spread.at(moved).plus(Spread.even(from, from + span)))

describe('a mixture of spreads', () => {
  it('has each value as likely as all of them together have it', () => {
    fc.assert(fc.property(fc.array(fc.record({ spread: anySpread, share: fc.double({ min: 0.01, max: 1, noNaN: true }) }), { minLength: 1, maxLength: 6 }), (parts) => {
      const mixed = mixture(parts)
      const plain = new Map<number, number>()
      for (const { spread, share } of parts) spread.weights.forEach((weight, i) => plain.set(spread.from + i, (plain.get(spread.from + i) ?? 0) + weight * share))
      const values = [...plain.keys()]
      assert.deepEqual([mixed.from, mixed.end], [Math.min(...values), Math.max(...values) + 1])
      mixed.weights.forEach((weight, i) => assert.approximately(weight, plain.get(mixed.from + i) ?? 0, 1e-12))
      assert.equal(mixed.points, plain.size)
    }), { numRuns: runs(100) })
  })

  it('is the only one there is', () => {
    const die = Spread.even(1, 6)
    assert.deepEqual([...mixture([{ spread: die, share: 1 }]).weights], [...die.weights])
  })
})
