import { assert } from 'chai'
import { recordsOf } from '../../../core/testing/plans.ts'
import { useWalkStore } from '../../stores/walk.ts'
import { OpenPlan } from '../../testing/open-plan.ts'
import { moveText } from './move-text.ts'
import { useWalkItems } from './walk-items.ts'

const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 2, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 0 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 3, yields: [{ tally: 'renown', min: 5, max: 5 }] } },
      { source: { id: 'kites', name: 'Kites', kind: 'event', role: 'side', respawns: true, yields: [{ tally: 'stamps', min: 1, max: 1 }] } },
      { source: { id: 'letter', name: 'Letter', kind: 'quest', yields: [{ tally: 'stamps', min: 1, max: 1 }], requires: 'stamps >= 2' } },
      { gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way' }, requires: 'stamps >= 1' } },
    ] },
    { id: 'pier', name: 'Pier', kind: 'area' },
  ],
  anywhere: [{ id: 'skill', name: 'Skill', kind: 'ability', requires: 'level >= 9' }],
  passages: [{ id: 'way', from: 'depot', to: 'pier' }],
})

describe('what can be done where a walk is', () => {
  let opened: OpenPlan
  let walk: ReturnType<typeof useWalkStore>
  let items: ReturnType<typeof useWalkItems>

  beforeEach(async () => {
    opened = await new OpenPlan(records, 'unchecked').open()
    walk = useWalkStore()
    items = useWalkItems()
  })
  afterEach(() => opened.close())

  const item = (name: string) => items.value.find((one) => one.name === name)!

  it('is told in the order of the place, with gates of anywhere and the ways on', () => {
    assert.deepEqual(items.value.map(({ name, can }) => [name, can]), [['Round', true], ['Kites', true], ['Letter', false], ['Hatch', false], ['Skill', false], ['Pier', false]])
    assert.equal(item('Round').note, '3 of 3 units left')
    assert.equal(item('Kites').note, '1 of 1 unit left, side')
    assert.equal(item('Letter').note, '1 of 1 unit left; needs stamps >= 2')
    assert.match(item('Hatch').note, /stamps >= 1: 0 of 1/)
    assert.equal(item('Pier').detail, 'barred by Hatch')
  })

  it('changes with each move', () => {
    walk.make(item('Kites').move)
    assert.deepEqual([item('Kites').note, item('Kites').can, item('Kites').done], ['0 of 1 unit left, repeats, side', true, false])
    walk.make(item('Round').all)
    assert.deepEqual([item('Round').note, item('Round').done], ['0 of 3 units left', true])
    walk.make(item('Hatch').move)
    assert.deepEqual([item('Hatch').note, item('Pier').detail, item('Pier').can], ['open', 'open', true])
    walk.make(item('Pier').move)
    assert.deepEqual(items.value.map(({ name, note }) => [name, note]), [['Skill', item('Skill').note], ['Depot', 'been there']])
  })

  it('takes all that is left at once, and one more of what repeats', () => {
    walk.make(item('Round').move)
    assert.deepEqual(item('Round').all, { take: 'round', units: 2 })
    walk.make(item('Kites').all)
    assert.deepEqual(item('Kites').all, { take: 'kites', units: 1 })
  })
})

describe('a move in words', () => {
  it('names what is done by the names of the plan, or by what they were', () => {
    const said = ([{ take: 'round', units: 3 }, { take: 'kites', units: 1 }, { open: 'hatch' }, { give: 'stamps', amount: 1200 }, { go: 'way' }, { fail: true }, { quit: true }, { open: 'gone' }] as const).map((move) => moveText(records, move))
    assert.deepEqual(said, ['3 × Round', 'Kites', 'open Hatch', 'gift: 1,200 Stamps', 'go', 'fail and try again', 'quit and come back', 'open gone'])
  })
})
