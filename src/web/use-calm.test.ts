import { assert } from 'chai'
import { effectScope, nextTick, ref } from 'vue'
import { useCalm } from './use-calm.ts'

function calmed() {
  const amount = ref(1)
  const hand = { isThere: false, isBusy: false }
  const putOff: (() => void)[] = []
  const scope = effectScope()
  const { calm, follow } = scope.run(() => useCalm(() => ({ amount: amount.value }), { isAtHand: () => hand.isThere, isBusy: () => hand.isBusy, atRest: (act) => () => putOff.push(act) }))!
  return {
    amount,
    hand,
    scope,
    follow,
    shown: () => calm.value.amount,
    putOff,
    rest: () => {
      for (const act of putOff.splice(0)) act()
    },
  }
}

describe('what follows calmly', () => {
  it('is as it was until all is at rest', async () => {
    const { amount, shown, putOff, rest } = calmed()
    amount.value = 2
    await nextTick()
    amount.value = 3
    await nextTick()
    assert.equal(shown(), 1)
    assert.lengthOf(putOff, 2)
    rest()
    assert.equal(shown(), 3)
  })

  it('follows at once where the hand is, and when it is asked to', async () => {
    const { amount, hand, shown, follow, putOff } = calmed()
    hand.isThere = true
    amount.value = 2
    await nextTick()
    assert.equal(shown(), 2)
    assert.isEmpty(putOff)
    hand.isThere = false
    amount.value = 3
    await nextTick()
    assert.equal(shown(), 2)
    follow()
    assert.equal(shown(), 3)
  })

  it('lets pass what comes first, though not for ever', async () => {
    const { amount, hand, shown, rest } = calmed()
    hand.isBusy = true
    amount.value = 2
    await nextTick()
    for (let i = 0; i < 3; i++) rest()
    assert.equal(shown(), 1)
    hand.isBusy = false
    rest()
    assert.equal(shown(), 2)
    hand.isBusy = true
    amount.value = 3
    await nextTick()
    for (let i = 0; i < 5; i++) rest()
    assert.equal(shown(), 2)
    rest()
    assert.equal(shown(), 3)
  })

  it('follows no more once it is gone', async () => {
    const { amount, scope, putOff } = calmed()
    scope.stop()
    amount.value = 2
    await nextTick()
    assert.isEmpty(putOff)
  })
})
