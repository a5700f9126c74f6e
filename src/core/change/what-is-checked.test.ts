import { assert } from 'chai'
import { byId, inOrder, type Records } from '../plan/records.ts'
import { validate } from '../rules/validate.ts'
import { newKeys, recordsOf, smallPlan } from '../testing/plans.ts'
import { apply } from './diff.ts'
import { routeOfAllPlaces, usualPlayers } from './what-is-checked.ts'

const places = ['pier', 'depot', 'rock'].map((id) => ({ id, name: id, kind: 'area' }))
const passages = [{ id: 'in', from: 'depot', to: 'pier' }, { id: 'boat', from: 'depot', to: 'rock', twoWay: false }]
const bare = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', places, passages, routes: [], profiles: [] })

describe('a plan of which nothing is checked', () => {
  it('is given a route through all places, from the start on, by the passages that there are', () => {
    const after = apply(bare, routeOfAllPlaces(bare, null, newKeys()))
    assert.deepEqual(byId(after, 'route', 'main_line')!.stops, ['depot', 'pier', 'depot', 'rock'])
    assert.deepEqual(validate(after), [])
  })

  it('has the route filled that it has', () => {
    const empty = apply(bare, { name: 'empty', changes: [{ kind: 'route', key: 'r', before: null, after: { key: 'r', order: 'a0', id: 'way', name: 'Way', stops: [] } }] } as never)
    const diff = routeOfAllPlaces(empty, 'r', newKeys())
    assert.equal(diff.name, 'let Way go through all places')
    assert.deepEqual(inOrder(apply(empty, diff), 'route').map(({ stops }) => stops), [['depot', 'pier', 'depot', 'rock']])
  })

  it('begins where it can when its start is not there', () => {
    const lost: Records = { ...bare, head: { ...bare.head, start: 'nowhere' } }
    assert.deepEqual(byId(apply(lost, routeOfAllPlaces(lost, null, newKeys())), 'route', 'main_line')!.stops, ['pier', 'depot', 'rock'])
  })

  it('goes nowhere that no way leads to', () => {
    const alone = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'rock', places, passages, routes: [], profiles: [] })
    assert.deepEqual(byId(apply(alone, routeOfAllPlaces(alone, null, newKeys())), 'route', 'main_line')!.stops, ['rock'])
  })

  it('is given the usual kinds of player, under ids of their own', () => {
    const after = apply(bare, usualPlayers(bare, newKeys()))
    assert.deepEqual(inOrder(after, 'profile').map(({ id }) => id), ['straight', 'usual', 'thorough'])
    const beside = smallPlan()
    assert.deepEqual(inOrder(apply(beside, usualPlayers(beside, newKeys())), 'profile').map(({ id }) => id), ['straight', 'straight_2', 'usual', 'thorough'])
  })
})
