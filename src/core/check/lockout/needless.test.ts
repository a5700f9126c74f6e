import { assert } from 'chai'
import fc from 'fast-check'
import { withoutNeedless } from './needless.ts'

describe('what is left out of a list', () => {
  it('is all that is not needed and may be left out, in the order that stays', () => {
    fc.assert(fc.property(fc.array(fc.record({ needed: fc.boolean(), loose: fc.boolean() }), { maxLength: 80 }), (all) => {
      const needed = all.filter((entry) => entry.needed)
      const isPossible = (fewer: readonly object[]) => needed.every((entry) => fewer.includes(entry))
      const kept = withoutNeedless(all, all.filter(({ loose }) => loose), isPossible)
      assert.deepEqual(kept, all.filter((entry) => entry.needed || !entry.loose))
    }))
  })

  it('is found in few tries where little is needed of much', () => {
    const all = Array.from({ length: 1_000 }, (_, i) => ({ i }))
    let tries = 0
    const kept = withoutNeedless(all, all, (fewer) => (tries++, [300, 700].every((n) => fewer.includes(all[n]!))))
    assert.deepEqual(kept.map(({ i }) => i), [300, 700])
    assert.isBelow(tries, 60)
  })
})
