import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../../testing/runs.ts'
import { Spread } from './spread.ts'

type Table = Map<number, number>

const tableOf = ({ from, weights }: Spread): Table => new Map([...weights].map((p, i) => [from + i, p] as const).filter(([, p]) => p !== 0))

/** All outcomes of two independent things, one by one. */
function bothOf(a: Table, b: Table): Table {
  const both: Table = new Map()
  for (const [x, p] of a) for (const [y, q] of b) both.set(x + y, (both.get(x + y) ?? 0) + p * q)
  return both
}

function assertAlike(spread: Spread, table: Table): void {
  const found = tableOf(spread)
  for (const value of new Set([...found.keys(), ...table.keys()])) assert.closeTo(found.get(value) ?? 0, table.get(value) ?? 0, 1e-12, `P(${value})`)
}

/** Some values with some weights, not all of them next to each other. */
const anyTable: fc.Arbitrary<Table> = fc.uniqueArray(fc.tuple(fc.integer({ min: -12, max: 30 }), fc.integer({ min: 1, max: 9 })), { minLength: 1, maxLength: 9, selector: ([value]) => value }).map((pairs) => {
  const all = pairs.reduce((sum, [, weight]) => sum + weight, 0)
  return new Map(pairs.map(([value, weight]) => [value, weight / all]))
})

function spreadOf(table: Table): Spread {
  const [least, most] = [Math.min(...table.keys()), Math.max(...table.keys())]
  return new Spread(least, Float64Array.from({ length: most - least + 1 }, (_, i) => table.get(least + i) ?? 0), table.size)
}

describe('the distribution of a sum', () => {
  it('is that of all outcomes of its parts', () => {
    fc.assert(fc.property(anyTable, anyTable, (a, b) => assertAlike(spreadOf(a).plus(spreadOf(b)), bothOf(a, b))), { numRuns: runs(300) })
  })

  it('is written into the room that is given, or into one of its own', () => {
    fc.assert(fc.property(anyTable, anyTable, (a, b) => {
      const room = new Float64Array(200)
      const sum = spreadOf(a).plus(spreadOf(b), (length) => room.subarray(0, length))
      assertAlike(sum, bothOf(a, b))
    }), { numRuns: runs(50) })
  })

  it('of so many alike is that of adding them one by one', () => {
    fc.assert(fc.property(anyTable, fc.nat(7), (table, count) => {
      let all: Table = new Map([[0, 1]])
      for (let i = 0; i < count; i++) all = bothOf(all, table)
      assertAlike(spreadOf(table).times(count), all)
    }), { numRuns: runs(100) })
  })

  it('is nothing with what is left of a share', () => {
    fc.assert(fc.property(anyTable, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (table, share) => {
      const expected: Table = new Map([...table].map(([value, p]) => [value, p * share]))
      expected.set(0, (expected.get(0) ?? 0) + 1 - share)
      assertAlike(spreadOf(table).orNothing(share), expected)
    }), { numRuns: runs(100) })
  })

  it('is as likely at each step of a range', () => {
    assertAlike(Spread.even(2, 5), new Map([2, 3, 4, 5].map((value) => [value, 0.25])))
    assertAlike(Spread.even(-3, 3, 3), new Map([-3, 0, 3].map((value) => [value, 1 / 3])))
    assertAlike(Spread.even(4, 4), new Map([[4, 1]]))
  })

  it('falls apart at any value, and its parts come together again', () => {
    fc.assert(fc.property(anyTable, fc.integer({ min: -20, max: 40 }), (table, value) => {
      const spread = spreadOf(table)
      const [below, above] = [spread.below(value), spread.above(value)]
      assert.isTrue([...tableOf(below).keys()].every((x) => x < value) && [...tableOf(above).keys()].every((x) => x >= value))
      assert.closeTo(below.total + above.total, 1, 1e-12)
    }), { numRuns: runs(100) })
  })

  it('has as quantile the least value that is not exceeded with at least that probability', () => {
    fc.assert(fc.property(anyTable, fc.array(fc.double({ min: 0.02, max: 0.98, noNaN: true }), { maxLength: 4 }), (table, shares) => {
      const rising = [...shares].sort((a, b) => a - b)
      const sorted = [...table].sort(([a], [b]) => a - b)
      const expected = rising.map((share) => {
        let sum = 0
        return sorted.find(([, p]) => (sum += p) >= share - 1e-12)![0]
      })
      assert.deepEqual(spreadOf(table).quantiles(rising), expected)
    }), { numRuns: runs(200) })
  })

  it('tells how likely it is to be less than each value', () => {
    const spread = spreadOf(new Map([[3, 0.25], [5, 0.75]]))
    assert.deepEqual([...spread.cumulated()], [0, 0.25, 0.25, 1])
  })

  it('costs nothing to move along', () => {
    const spread = Spread.even(0, 9)
    assert.equal(spread.costOf(Spread.at(4)), 0)
    assertAlike(spread.plus(Spread.at(-4)), tableOf(Spread.even(-4, 5)))
    assert.equal(spread.costOf(Spread.even(0, 4)), 50)
  })

  it('is that of two dice, and of hundreds of units without the tails that cannot matter', () => {
    const two = Spread.even(1, 6).times(2)
    assert.equal(two.from, 2)
    assert.closeTo(two.above(12).total, 1 / 36, 1e-15)
    const many = Spread.at(10).orNothing(0.5).times(400)
    assert.closeTo(many.total, 1, 1e-12)
    assert.isAbove(many.from, 0)
  })

  it('keeps what is least likely as long as it counts', () => {
    const rare = Spread.even(0, 1).orNothing(0.001).times(6)
    assert.closeTo(rare.weights.at(-1)!, 0.0005 ** 6, 1e-30)
    // Further out there is nothing worth a number; what is left is still all of it.
    const rarer = Spread.even(0, 1).orNothing(0.001).times(40)
    assert.isBelow(rarer.end, 12)
    assert.closeTo(rarer.total, 1, 1e-12)
  })
})
