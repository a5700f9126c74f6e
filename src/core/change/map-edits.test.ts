import { assert } from 'chai'
import { inOrder, type Records } from '../plan/records.ts'
import { validate } from '../rules/validate.ts'
import { recordsOf } from '../testing/plans.ts'
import { apply } from './diff.ts'
import { addGateOnPassage, addGateOnPlace, addPlaceBeside, turnOneWay } from './map-edits.ts'

const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  places: [{ id: 'depot', name: 'Depot', kind: 'hub' }, { id: 'flats', name: 'Flats', kind: 'area' }, { id: 'moon', name: 'Moon', kind: 'area' }],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
})
const [depot, flats, moon] = inOrder(records, 'place')
const gates = (of: Records) => inOrder(of, 'gate').map(({ id, guards, place }) => ({ id, guards, place }))

describe('building in the map', () => {
  it('joins a new place to the chosen one, in no route, and to none where none is chosen', () => {
    const beside = apply(records, addPlaceBeside(records, { place: 'x', passage: 'y' }, flats!.key))
    assert.deepInclude(beside.passage.get('y')!, { from: 'flats', to: 'new_place', twoWay: true })
    assert.deepEqual(inOrder(beside, 'route')[0]!.stops, ['depot', 'flats'])
    assert.deepEqual(validate(beside), [])
    assert.lengthOf([...apply(records, addPlaceBeside(records, { place: 'x', passage: 'y' }, null)).passage.keys()], 1)
  })

  it('puts a gate where it is met: at the beginning of a passage, before a place, or anywhere', () => {
    const road = inOrder(records, 'passage')[0]!
    assert.deepEqual(gates(apply(records, addGateOnPassage(records, 'g', road.key)!)), [{ id: 'gate_on_road', guards: { passage: 'road' }, place: depot!.key }])
    // A passage that leads both ways leads into its beginning too.
    assert.deepEqual(gates(apply(records, addGateOnPlace(records, 'g', depot!.key)!)), [{ id: 'gate_into_depot', guards: { place: 'depot' }, place: flats!.key }])
    assert.deepEqual(gates(apply(records, addGateOnPlace(records, 'g', moon!.key)!)), [{ id: 'gate_into_moon', guards: { place: 'moon' }, place: null }])
    assert.isNull(addGateOnPassage(records, 'g', 'gone'))
  })

  it('turns a passage one way and back', () => {
    const road = inOrder(records, 'passage')[0]!
    const once = apply(records, turnOneWay(records, road.key)!)
    assert.isFalse(once.passage.get(road.key)!.twoWay)
    assert.isTrue(apply(once, turnOneWay(once, road.key)!).passage.get(road.key)!.twoWay)
  })
})
