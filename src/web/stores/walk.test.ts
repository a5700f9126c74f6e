import { assert } from 'chai'
import { nextTick } from 'vue'
import { inOrder } from '../../core/plan/records.ts'
import { recordsOf } from '../../core/testing/plans.ts'
import { OpenPlan } from '../testing/open-plan.ts'
import { useWalkStore } from './walk.ts'

/** A round of stamps, a door that asks for all of them, and a pier behind it. */
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 4, yields: [{ tally: 'stamps', min: 2, max: 2 }] } },
      { gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way' }, requires: 'stamps >= 8', lockedText: 'Eight stamps.' } },
    ] },
    { id: 'pier', name: 'Pier', kind: 'area', goal: true },
  ],
  passages: [{ id: 'way', from: 'depot', to: 'pier' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})

describe('the walk that is played by hand', () => {
  let opened: OpenPlan
  let walk: ReturnType<typeof useWalkStore>

  beforeEach(async () => {
    opened = await new OpenPlan(records, 'unchecked').open()
    walk = useWalkStore()
  })
  afterEach(() => opened.close())

  const stamps = () => walk.state!.tallies[0]! / 10_000
  const take = (units: number) => walk.make({ take: 'round', units })
  const toThePier = () => [take(4), walk.make({ open: 'hatch' }), walk.make({ go: 'way' })]

  it('makes moves, and says why one cannot be made', () => {
    assert.isTrue(take(3))
    assert.isFalse(walk.make({ open: 'hatch' }))
    assert.deepEqual(walk.refusal!.move, { open: 'hatch' })
    assert.isNotEmpty(walk.refusal!.says)
    assert.equal(walk.here, 1)
    assert.isTrue(take(1))
    assert.isNull(walk.refusal)
    assert.isTrue(walk.make({ open: 'hatch' }))
    assert.isTrue(walk.make({ go: 'way' }))
    assert.deepEqual([walk.place!.id, stamps(), walk.here], ['pier', 8, 4])
  })

  it('takes moves back and makes them again, to any point; a new move forgets what was taken back', () => {
    toThePier()
    walk.jump(1)
    assert.deepEqual([walk.place!.id, walk.here], ['depot', 1])
    walk.redo()
    walk.redo()
    assert.equal(walk.place!.id, 'pier')
    walk.redo()
    assert.equal(walk.here, 3)
    walk.jump(0)
    assert.equal(stamps(), 0)
    take(1)
    walk.redo()
    assert.deepEqual([walk.here, stamps()], [1, 2])
  })

  it('is played anew with each change of the plan, as far as it goes, and goes on from there', () => {
    toThePier()
    opened.edit('gate', 'hatch', { requires: 'stamps >= 9' })
    assert.deepEqual([walk.here, walk.walk!.broken?.index, walk.place!.id], [1, 1, 'depot'])
    opened.plan.undo()
    assert.equal(walk.place!.id, 'pier')
    opened.edit('gate', 'hatch', { requires: 'stamps >= 9' })
    assert.isTrue(walk.make({ give: 'stamps', amount: 1 }))
    assert.deepEqual([walk.moves.length, walk.walk!.broken], [2, null])
    assert.isTrue(walk.make({ open: 'hatch' }))
  })

  it('expects things where it stands, tells which do not hold, and forgets them', () => {
    take(4)
    walk.expectHere('stamps >= 8')
    walk.expectHere('open(hatch)')
    assert.isTrue(walk.isExpectedHere('open(hatch)'))
    const unmet = () => walk.expected.map(({ text, says }) => [text, says === null])
    assert.deepEqual(unmet(), [['stamps >= 8', true], ['open(hatch)', false]])
    walk.expectHere('open(hatch)')
    assert.deepEqual(unmet(), [['stamps >= 8', true]])
    opened.edit('source', 'round', { yields: [{ tally: 'stamps', min: 1, max: 1 }] })
    assert.deepEqual(unmet(), [['stamps >= 8', false]])
    walk.forget(0)
    assert.deepEqual(walk.expected, [])
  })

  it('is kept in the plan as one step, changed, opened again, and removed', async () => {
    toThePier()
    walk.expectHere('visited(pier)')
    assert.isTrue(walk.isChanged)
    walk.keep('To the pier')
    assert.isFalse(walk.isChanged)
    assert.equal(opened.plan.undoName, 'keep the walk To the pier')
    const row = () => inOrder(opened.plan.records!, 'walk')[0]!
    assert.deepInclude(row(), { id: 'to_the_pier', name: 'To the pier', steps: [{ take: 'round', units: 4 }, { open: 'hatch' }, { go: 'way' }, { expect: 'visited(pier)' }] })
    walk.undo()
    assert.isTrue(walk.isChanged)
    walk.keep('Before the pier')
    assert.deepEqual([opened.plan.records!.walk.size, row().name, row().steps.length], [1, 'Before the pier', 2])
    walk.begin({ at: 'start' })
    assert.equal(walk.here, 0)
    walk.open(row())
    assert.deepEqual([walk.here, walk.kept!.name], [2, 'Before the pier'])
    walk.remove(row())
    await nextTick()
    assert.deepEqual([opened.plan.records!.walk.size, walk.kept, walk.here], [0, undefined, 2])
  })

  it('begins where a kind of player stands at a stop of a route, and at the start where that is gone', () => {
    walk.begin({ at: 'stop', route: opened.key('route', 'line'), profile: opened.key('profile', 'straight'), stop: 1 })
    assert.deepEqual([walk.place!.id, stamps()], ['pier', 8])
    walk.keep('From the pier')
    const row = inOrder(opened.plan.records!, 'walk')[0]!
    assert.deepEqual(row.from, { route: 'line', profile: 'straight', stop: 1 })
    walk.open({ ...row, from: { ...row.from!, stop: 7 } })
    assert.deepEqual(walk.start, { at: 'start' })
  })

  it('starts anew with another plan', async () => {
    take(4)
    void opened.plan.close()
    await nextTick()
    assert.deepEqual([walk.moves, walk.state, walk.here], [[], null, 0])
    assert.isFalse(take(1))
  })
})
