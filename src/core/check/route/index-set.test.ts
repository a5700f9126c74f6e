import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../../testing/runs.ts'
import { IndexSet } from './index-set.ts'

const anyIndexes = fc.array(fc.nat(40), { maxLength: 30 })

function setOf(indexes: readonly number[]): IndexSet {
  const set = new IndexSet()
  set.addAll(indexes)
  return set
}

const risen = (set: Iterable<number>) => [...set].sort((a, b) => a - b)

describe('a set of indexes', () => {
  it('holds what a plain set does', () => {
    fc.assert(fc.property(anyIndexes, anyIndexes, (some, others) => {
      const [plain, set, other] = [new Set(some), setOf(some), setOf(others)]
      assert.deepEqual([...set], risen(plain))
      assert.equal(set.size, plain.size)
      for (const i of [...others, 99]) assert.equal(set.has(i), plain.has(i))
      assert.equal(set.includes(other), others.every((i) => plain.has(i)))
      assert.deepEqual([...set.marks(50)].flatMap((mark, i) => (mark ? [i] : [])), risen(plain))
    }), { numRuns: runs(200) })
  })

  it('is united with another, and its copy is not', () => {
    fc.assert(fc.property(anyIndexes, anyIndexes, (some, others) => {
      const set = setOf(some)
      const copy = set.copy()
      set.unite(setOf(others))
      const both = new Set([...some, ...others])
      assert.deepEqual([...set], risen(both))
      assert.equal(set.size, both.size)
      assert.deepEqual([...copy], risen(new Set(some)))
    }), { numRuns: runs(200) })
  })

  it('holds the first so many', () => {
    const all = IndexSet.below(3)
    assert.deepEqual([...all], [0, 1, 2])
    assert.equal(all.size, 3)
    assert.isFalse(all.has(3))
    assert.deepEqual([...all.marks(5)], [1, 1, 1, 0, 0])
    assert.deepEqual([...all.marks(2)], [1, 1])
  })
})
