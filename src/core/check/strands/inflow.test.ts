import { assert } from 'chai'
import fc from 'fast-check'
import { unitsPerOne } from '../../plan/basics.ts'
import type { Change } from './change.ts'
import { Inflow, type Part } from './inflow.ts'

const change = (min: number, max: number, paid = 0): Change => ({ tally: 0, min: min - paid, max: max - paid, paid, dips: Math.min(0, min), climbs: Math.max(0, max), yields: min === 0 && max === 0 ? [] : [{ tally: 0, min, max }] })
const inflowOf = (parts: readonly Part[]) => {
  const inflow = new Inflow()
  for (const part of parts) inflow.add(part.change, part.count, part.share)
  return inflow
}
const one = unitsPerOne

describe('what comes to a sum', () => {
  it('is counted in the widest steps that fit all of it, also what is paid, and whole ones where it is rolled', () => {
    const stepOf = (...changes: Change[]) => inflowOf(changes.map((each) => ({ change: each, count: 1, share: 1 }))).step
    assert.equal(stepOf(), one)
    assert.equal(stepOf(change(15 * one, 15 * one), change(40 * one, 40 * one)), 5 * one)
    assert.equal(stepOf(change(15 * one, 15 * one), change(0, 0, 6 * one)), 3 * one)
    assert.equal(stepOf(change(10 * one, 20 * one)), one)
    assert.equal(stepOf(change(10 * one, 10 * one), change(one / 4, one / 4)), one / 4)
    assert.equal(stepOf(change(-6 * one, -6 * one), change(4 * one, 4 * one)), 2 * one)
  })

  it('grows unless something makes less of it, and tells whether something is paid', () => {
    const told = (each: Change) => {
      const { grows, isPaid } = inflowOf([{ change: each, count: 2, share: 0 }])
      return [grows, isPaid]
    }
    assert.deepEqual(told(change(0, 5)), [true, false])
    assert.deepEqual(told(change(-1, 5)), [false, false])
    assert.deepEqual(told(change(5, 5, 5)), [true, true])
    assert.deepEqual(told(change(0, 0, 5)), [false, true])
  })

  const part = fc.record({
    change: fc.tuple(fc.integer({ min: -50, max: 3_000 }), fc.nat({ max: 40 })).map(([min, more]) => change(min * one, (min + more) * one)),
    count: fc.integer({ min: 1, max: 40 }),
    share: fc.constantFrom(0, 0.3, 0.5, 1),
  })

  it('takes as many multiplications as when each part is added to a sum as wide as it is by then', () => {
    fc.assert(fc.property(fc.array(part, { maxLength: 12 }), fc.nat({ max: 3_000_000 }), (parts, effort) => {
      const inflow = inflowOf(parts)
      let [taken, range, variance] = [0, 0, 0]
      for (const { change: { min, max }, count, share } of parts.filter((each) => each.share > 0)) {
        range += count * (share < 1 ? Math.max(Math.abs(min), Math.abs(max)) : max - min)
        variance += count * share * ((max - min) ** 2 / 12 + (1 - share) * ((min + max) / 2) ** 2)
        // Longer sums than this are followed by their waves.
        taken += count * ((max - min) / inflow.step + 1) * Math.min(range / inflow.step, (20 * Math.sqrt(variance)) / inflow.step, 1_024)
      }
      for (const limit of [effort, taken, taken - 1]) assert.equal(inflow.isWithin(limit, () => parts), taken <= limit)
    }))
  })

  it('is not within anything where its values are too many to be kept', () => {
    assert.isFalse(inflowOf([{ change: change(0, 9_000_000 * one), count: 1, share: 1 }]).isWithin(Infinity, () => []))
  })
})
