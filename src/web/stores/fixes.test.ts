import { assert } from 'chai'
import { recordsOf } from '../../core/testing/plans.ts'
import { OpenPlan, until } from '../testing/open-plan.ts'
import { useFixesStore } from './fixes.ts'

/** A door that asks for more than the road gives, and one that does not. */
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [
    { source: { id: 'round', name: 'Round', kind: 'quest', count: 4, yields: [{ tally: 'stamps', min: 2, max: 2 }] } },
    { gate: { id: 'hatch', name: 'Hatch', kind: 'door', requires: 'stamps >= 9' } },
    { gate: { id: 'chain', name: 'Chain', kind: 'door', requires: 'stamps >= 2' } },
  ] }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})

describe('fixes of the chosen gate', function () {
  this.timeout(60_000)
  let opened: OpenPlan
  let fixes: ReturnType<typeof useFixesStore>

  beforeEach(async () => {
    opened = await new OpenPlan(records).open()
    fixes = useFixesStore()
    await until(() => opened.check.areAllKnown)
  })
  afterEach(() => {
    fixes.stop()
    opened.close()
  })

  const look = (id: string) => fixes.look(opened.key('gate', id), opened.check.gate(id)!)

  it('come one after another, and one is made as a step that can be undone', async () => {
    const looking = look('hatch')
    assert.isTrue(fixes.isLooking)
    await looking
    assert.isFalse(fixes.isLooking)
    assert.includeMembers(fixes.fixes.map(({ kind }) => kind), ['threshold', 'source'])
    const fix = fixes.fixes.find(({ kind }) => kind === 'threshold')!
    fixes.apply(fix)
    assert.deepEqual([fixes.fixes, fixes.taken?.gate, opened.plan.undoName], [[], opened.key('gate', 'hatch'), fix.diff.name])
    await until(() => !opened.check.isStale)
    assert.equal(opened.check.gate('hatch')!.verdict, 'clear')
    opened.plan.undo()
    await until(() => !opened.check.isStale)
    assert.equal(opened.check.gate('hatch')!.verdict, 'sealed')
  })

  it('are not looked for where nothing is to be mended, and what was taken is told until another gate is looked at', async () => {
    await look('chain')
    assert.deepEqual([fixes.fixes, fixes.isLooking], [[], false])
    await look('hatch')
    fixes.apply(fixes.fixes[0]!)
    await until(() => !opened.check.isStale)
    await look('hatch')
    assert.isNotNull(fixes.taken)
    await look('chain')
    assert.isNull(fixes.taken)
  })

  it('of a plan that is another by now are not offered', async () => {
    const looking = look('hatch')
    opened.edit('gate', 'hatch', { requires: 'stamps >= 30' })
    await looking
    assert.deepEqual(fixes.fixes, [])
    // What is looked for next ends what was looked for before.
    await until(() => opened.check.areAllKnown)
    const first = look('hatch')
    await Promise.all([first, look('hatch')])
    assert.isNotEmpty(fixes.fixes)
    assert.equal(new Set(fixes.fixes.map(({ says }) => says)).size, fixes.fixes.length)
  })
})
