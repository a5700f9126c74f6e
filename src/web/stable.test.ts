import { assert } from 'chai'
import { computed, ref } from 'vue'
import { sameList } from '../core/plan/same-list.ts'
import { sameEach, sameFields, stable } from './stable.ts'

describe('what is stable', () => {
  it('is not done again where what it rests on comes to the same', () => {
    const text = ref('drifts 4')
    const words = stable(() => text.value.split(' '), sameList)
    let done = 0
    const count = computed(() => (done++, words.value.length))
    assert.equal(count.value, 2)
    text.value = 'drifts 4'
    text.value += ''
    assert.equal(count.value, 2)
    text.value = 'drifts 5'
    assert.equal(count.value, 2)
    assert.equal(done, 2)
    const before = words.value
    text.value = 'drifts  5'.replace('  ', ' ')
    assert.strictEqual(words.value, before)
  })

  it('gives what was there before to who computes', () => {
    const n = ref(1)
    const sums = stable<number[]>((before = []) => [...before, n.value], () => false)
    assert.deepEqual(sums.value, [1])
    n.value = 4
    assert.deepEqual(sums.value, [1, 4])
  })

  it('tells lists, objects and numbers apart by what is in them', () => {
    const lane = { id: 'stamps' }
    assert.isTrue(sameList([1, lane], [1, lane]))
    assert.isFalse(sameList([1], [1, 2]))
    assert.isTrue(sameFields({ lane, left: 3 }, { lane, left: 3 }))
    assert.isFalse(sameFields({ lane, left: 3 }, { lane: { ...lane }, left: 3 }))
    assert.isTrue(sameEach([{ lane, left: 3 }, { lane, left: 4 }], [{ lane, left: 3 }, { lane, left: 4 }]))
    assert.isFalse(sameEach([{ lane, left: 3 }], [{ lane, left: 4 }]))
    assert.isFalse(sameEach([{ lane }], [{ lane }, { lane }]))
    assert.isTrue(sameList(Float64Array.of(1, 2), Float64Array.of(1, 2)))
    assert.isFalse(sameList(Float64Array.of(1, 2), Float64Array.of(1, 3)))
  })
})
