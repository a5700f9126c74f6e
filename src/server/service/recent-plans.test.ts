import { assert } from 'chai'
import { apply } from '../../core/change/diff.ts'
import { setHead } from '../../core/change/edits.ts'
import type { DoneStep } from '../../core/contract/api.ts'
import { smallPlan } from '../../core/testing/plans.ts'
import { RecentPlans } from './recent-plans.ts'

describe('plans at hand', () => {
  const records = smallPlan()
  const diff = setHead(records, { name: 'Another name' }, 'rename')
  const step = (revision: number): DoneStep => ({ id: 'step-0001', kind: 'do', diff, revision, at: '' })

  it('are given at the revision that they are of, and no other', () => {
    const recent = new RecentPlans(2)
    recent.keep('a', 3, records)
    assert.strictEqual(recent.at('a', 3), records)
    assert.isUndefined(recent.at('a', 4))
    assert.isUndefined(recent.at('b', 3))
  })

  it('follow a step on what they are, and forget what missed one', () => {
    const recent = new RecentPlans(2)
    recent.keep('a', 3, records)
    recent.follow('a', step(4))
    assert.deepEqual(recent.at('a', 4), apply(records, diff))
    recent.follow('a', step(6))
    for (const revision of [4, 5, 6]) assert.isUndefined(recent.at('a', revision))
  })

  it('are as many as there is room for, the oldest going first', () => {
    const recent = new RecentPlans(2)
    for (const id of ['a', 'b', 'a', 'c']) recent.keep(id, 0, records)
    assert.isUndefined(recent.at('b', 0))
    assert.isDefined(recent.at('a', 0))
    recent.forget('a')
    assert.isUndefined(recent.at('a', 0))
  })
})
