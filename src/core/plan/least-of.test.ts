import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../testing/runs.ts'
import { leastOf } from './least-of.ts'

describe('the least of which something is true', () => {
  it('is where it turns, or the end where it never does, and few are asked', () => {
    fc.assert(fc.property(fc.integer({ min: -1000, max: 1000 }), fc.nat(2000), fc.integer({ min: -50, max: 2050 }), (from, length, turns) => {
      let asked = 0
      const found = leastOf(from, from + length, (value) => {
        asked++
        assert.isTrue(value >= from && value < from + length, 'only what lies between is asked')
        return value >= from + turns
      })
      assert.equal(found, from + Math.min(Math.max(turns, 0), length))
      assert.isAtMost(asked, Math.ceil(Math.log2(length + 1)))
    }), { numRuns: runs(300) })
  })

  it('finds its way among numbers of more than 32 bits', () => {
    assert.equal(leastOf(0, 2 ** 50, (value) => value >= 2 ** 40 + 1), 2 ** 40 + 1)
  })
})
