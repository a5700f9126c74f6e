import { assert } from 'chai'
import fc from 'fast-check'
import { KnownByIndex } from './known-by-index.ts'

describe('what is known by index', () => {
  const counted = () => {
    let made = 0
    return { known: new KnownByIndex(({ n }: { n: number }) => ({ twice: 2 * n, nth: ++made })), made: () => made }
  }

  it('is made once as long as the same thing stands there', () => {
    const { known, made } = counted()
    const [one, other] = [{ n: 3 }, { n: 3 }]
    assert.equal(known.of(7, one).twice, 6)
    assert.equal(known.of(7, one).nth, 1)
    assert.equal(known.of(7, other).nth, 2, 'another thing, though alike')
    assert.equal(known.of(7, one).nth, 3, 'what stood there before it is not kept')
    assert.equal(known.of(2, one).nth, 4)
    assert.equal(made(), 4)
  })

  it('is of the thing that is asked for, whatever was asked for before', () => {
    const things = Array.from({ length: 6 }, (_, n) => ({ n }))
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat({ max: 9 }), fc.nat({ max: 5 })), { maxLength: 60 }), (asked) => {
      const { known } = counted()
      for (const [index, n] of asked) assert.equal(known.of(index, things[n]!).twice, 2 * n)
    }))
  })
})
