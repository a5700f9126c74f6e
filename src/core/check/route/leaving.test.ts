import { assert } from 'chai'
import { Leaving } from './leaving.ts'

const nothing = (): Leaving => new Leaving([undefined, undefined, undefined], 1, false)

/** What a walk that goes one way leaves a stop with. */
function walked(amounts: readonly number[], after: Leaving = nothing()): Leaving {
  amounts.forEach((amount, i) => after.add(i, amount, 1))
  after.close()
  return after
}

const medians = (of: Leaving) => [0, 1, 2].map((i) => of.at(i).quantiles()?.median ?? null)

describe('what a stop is left with', () => {
  it('is the very same where a walk after an edit leaves it with the same', () => {
    const before = walked([5, 7, 9])
    const after = walked([5, 8, 9], before.next(() => false))
    assert.deepEqual([0, 1, 2].map((i) => after.at(i) === before.at(i)), [true, false, true])
    assert.deepEqual([medians(before), medians(after)], [[5, 7, 9], [5, 8, 9]])
    assert.isTrue(walked([5, 7, 9], before.next(() => false)).isSame(before))
    assert.isFalse(after.isSame(before))
  })

  it('takes over what stands, and only that', () => {
    const next = walked([5, 7, 9]).next((i) => i === 1)
    assert.deepEqual(medians(next), [null, 7, null])
  })

  it('is not taken for the same where only a part of the walks had it', () => {
    const before = walked([5, 7, 9])
    const next = before.next(() => false)
    next.add(0, 5, 0.5)
    next.add(0, 6, 0.5)
    next.close()
    assert.deepEqual(next.at(0).quantiles(), { min: 5, q05: 5, median: 5, q95: 6, max: 6 })
    assert.deepEqual(before.at(0).quantiles(), { min: 5, q05: 5, median: 5, q95: 5, max: 5 })
  })

  it('is the same where it comes to the same quantiles', () => {
    const mixed = (after: Leaving) => {
      after.add(0, 5, 0.5)
      after.add(0, 6, 0.5)
      after.close()
      return after
    }
    const before = mixed(nothing())
    assert.isTrue(mixed(before.next(() => false)).isSame(before))
  })

  it('can be forgotten and gathered anew', () => {
    const next = walked([5, 7, 9]).next(() => true)
    next.clear(2)
    next.add(2, 4, 1)
    assert.deepEqual(medians(next), [5, 7, 4])
  })
})
