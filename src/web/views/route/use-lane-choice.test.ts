import { assert } from 'chai'
import { setFields } from '../../../core/change/edits.ts'
import { byId } from '../../../core/plan/records.ts'
import { recordsOf } from '../../../core/testing/plans.ts'
import { OpenPlan } from '../../testing/open-plan.ts'
import { useLaneChoice } from './use-lane-choice.ts'

const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'whistle', name: 'Whistle', kind: 'flag' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 5 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'area' }],
})

describe('the choice of lanes', () => {
  let opened: OpenPlan
  let choice: ReturnType<typeof useLaneChoice>

  beforeEach(async () => {
    opened = await new OpenPlan(records, 'unchecked').open()
    choice = useLaneChoice()
  })
  afterEach(() => opened.close())

  const shown = () => choice.shown.value.map(({ id }) => id)

  it('begins with levels, then what is counted, then flags and the XP of levels', () => {
    assert.deepEqual(shown(), ['level courier', 'tally stamps', 'tally renown', 'tally whistle'])
    assert.equal(choice.wide.value, 'level courier')
    assert.deepEqual(choice.all.value.map(({ name }) => name), ['Courier, level', 'Stamps', 'Renown', 'Whistle'])
  })

  it('hides lanes, and shows one that is widened', () => {
    choice.toggle('level courier')
    choice.toggle('tally renown')
    assert.deepEqual(shown(), ['tally stamps', 'tally whistle'])
    assert.equal(choice.wide.value, 'tally stamps')
    choice.widen('tally renown')
    assert.equal(choice.wide.value, 'tally renown')
    assert.isTrue(choice.isShown('tally renown'))
    choice.toggle('tally renown')
    assert.equal(choice.wide.value, 'tally stamps')
  })

  it('moves lanes, not past the ends', () => {
    choice.move('tally renown', -1)
    choice.move('level courier', -1)
    choice.move('tally whistle', 1)
    assert.deepEqual(shown(), ['level courier', 'tally renown', 'tally stamps', 'tally whistle'])
  })

  it('takes in a tally that is new, and lets go of one that is gone', () => {
    choice.move('tally renown', -1)
    choice.widen('tally stamps')
    const stamps = byId(opened.plan.records!, 'tally', 'stamps')!
    opened.plan.edit(setFields(opened.plan.records!, 'tally', stamps.key, { id: 'marks', name: 'Marks' }, 'rename'))
    assert.sameMembers(shown(), ['level courier', 'tally renown', 'tally whistle', 'tally marks'])
    assert.equal(choice.wide.value, 'level courier')
  })

  it('keeps how far each lane is zoomed, as long as it is', () => {
    choice.setZoom('tally stamps', { times: 4, at: 20 })
    assert.deepEqual(choice.zoomOf('tally stamps'), { times: 4, at: 20 })
    assert.isNull(choice.zoomOf('tally renown'))
    choice.setZoom('tally stamps', { times: 1, at: 20 })
    assert.isNull(choice.zoomOf('tally stamps'))
  })

  it('is each plan\'s own', async () => {
    choice.toggle('tally stamps')
    opened.plan.close()
    assert.deepEqual(shown(), [])
    await opened.plan.open('another')
    assert.include(shown(), 'tally stamps')
    await opened.plan.open('one')
    assert.notInclude(shown(), 'tally stamps')
  })
})
