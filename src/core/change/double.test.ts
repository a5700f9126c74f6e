import { assert } from 'chai'
import fc from 'fast-check'
import { byId, contentsByPlace, inOrder, type ItemRow, type Records } from '../plan/records.ts'
import { validate } from '../rules/validate.ts'
import { anySample, newKeys, recordsOf } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { apply, invert } from './diff.ts'
import { doubleItems, doublePlace } from './double.ts'

/** A pier with a way on, a gate on that way which asks for what lies at the pier, and a gate elsewhere that asks for it too. */
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [{ source: { id: 'round', name: 'Round', kind: 'quest', count: 4, yields: [{ tally: 'stamps', min: 2, max: 2 }] } }] },
    { id: 'pier', name: 'Pier', kind: 'area', contents: [
      { source: { id: 'crane', name: 'Crane', kind: 'quest', yields: [{ tally: 'stamps', min: 1, max: 1 }], requires: 'visited(pier) and stamps >= 2' } },
      { gate: { id: 'chain', name: 'Chain', kind: 'door', guards: { passage: 'way_on' }, requires: 'taken(crane) and open(hatch)' } },
      { gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way_in' }, requires: 'taken(round)' } },
    ] },
    { id: 'rock', name: 'Rock', kind: 'area', goal: true },
  ],
  passages: [{ id: 'way_in', from: 'depot', to: 'pier' }, { id: 'way_on', from: 'pier', to: 'rock' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier', 'rock'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})
const line = inOrder(records, 'route')[0]!.key

const itemOf = (of: Records, kind: 'source' | 'gate', id: string) => ({ kind, row: byId(of, kind, id)! }) as ItemRow
const idsIn = (of: Records, place: string) => contentsByPlace(of).get(byId(of, 'place', place)!.key)!.map(({ row }) => row.id)

describe('rows that are doubled', () => {
  it('stand below the last of them, in the same order, as one step', () => {
    const { diff, keys } = doubleItems(records, [itemOf(records, 'gate', 'chain'), itemOf(records, 'source', 'crane')], newKeys())
    const after = apply(records, diff)
    assert.deepEqual(idsIn(after, 'pier'), ['crane', 'chain', 'crane_2', 'chain_2', 'hatch'])
    assert.equal(diff.name, 'double 2 rows')
    assert.deepEqual(keys.map((key) => (after.source.get(key) ?? after.gate.get(key))!.id), ['crane_2', 'chain_2'])
    // A copy asks for what the row asked for.
    assert.equal(byId(after, 'gate', 'chain_2')!.requires, 'taken(crane) and open(hatch)')
  })

  it('stay each in its own place', () => {
    const after = apply(records, doubleItems(records, [itemOf(records, 'source', 'round'), itemOf(records, 'gate', 'hatch')], newKeys()).diff)
    assert.deepEqual(idsIn(after, 'depot'), ['round', 'round_2'])
    assert.deepEqual(idsIn(after, 'pier'), ['crane', 'chain', 'hatch', 'hatch_2'])
  })

  it('are named when there is one', () => {
    assert.equal(doubleItems(records, [itemOf(records, 'source', 'crane')], newKeys()).diff.name, 'double Crane')
  })
})

describe('a place that is doubled', () => {
  const { diff, keys } = doublePlace(records, byId(records, 'place', 'pier')!, newKeys(), line)
  const after = apply(records, diff)

  it('comes next on the route, joined to the one before and the one behind', () => {
    assert.deepEqual(inOrder(after, 'route')[0]!.stops, ['depot', 'pier', 'pier_2', 'rock'])
    assert.equal(after.place.get(keys[0]!)!.name, 'Pier 2')
    assert.sameDeepMembers(inOrder(after, 'passage').map(({ from, to }) => [from, to]), [['depot', 'pier'], ['pier', 'rock'], ['pier', 'pier_2'], ['pier_2', 'rock']])
    assert.deepEqual(validate(after), [])
  })

  it('names itself and its own things where the first one did, and others as they were', () => {
    assert.deepEqual(idsIn(after, 'pier_2'), ['crane_2', 'chain_2', 'hatch_2'])
    assert.equal(byId(after, 'source', 'crane_2')!.requires, 'visited(pier_2) and stamps >= 2')
    assert.equal(byId(after, 'gate', 'chain_2')!.requires, 'taken(crane_2) and open(hatch_2)')
    assert.equal(byId(after, 'gate', 'hatch_2')!.requires, 'taken(round)')
    assert.equal(byId(after, 'gate', 'chain')!.requires, 'taken(crane) and open(hatch)')
  })

  it('bars its own way on, and no way of the first one', () => {
    const way = inOrder(after, 'passage').find(({ from, to }) => from === 'pier_2' && to === 'rock')!.id
    assert.deepEqual(byId(after, 'gate', 'chain_2')!.guards, { passage: way })
    assert.deepEqual(byId(after, 'gate', 'chain')!.guards, { passage: 'way_on' })
    assert.isNull(byId(after, 'gate', 'hatch_2')!.guards)
  })

  it('counts on from a copy of a copy', () => {
    const again = apply(after, doublePlace(after, byId(after, 'place', 'pier_2')!, newKeys('more'), line).diff)
    assert.deepEqual(inOrder(again, 'place').map(({ name }) => name), ['Depot', 'Pier', 'Pier 2', 'Pier 3', 'Rock'])
  })

  it('leaves a plan without fault without one, and is taken back as one step', () => {
    fc.assert(fc.property(anySample, fc.nat(5), (sample, pick) => {
      const places = inOrder(sample, 'place')
      const { diff: step } = doublePlace(sample, places[pick % places.length]!, newKeys(), inOrder(sample, 'route')[0]!.key)
      const doubled = apply(sample, step)
      assert.deepEqual(validate(doubled), validate(sample))
      assert.deepEqual(apply(doubled, invert(step)), sample)
    }), { numRuns: runs(40) })
  })
})
