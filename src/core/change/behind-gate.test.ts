import { assert } from 'chai'
import { byId, inOrder, type Records } from '../plan/records.ts'
import { smallPlan } from '../testing/plans.ts'
import { addPlaceBehind } from './behind-gate.ts'
import { apply, invert } from './diff.ts'

type Item = { gate: object } | { source: object }
const gate = (id: string, name: string, more: object = {}): Item => ({ gate: { id, name, kind: 'door', ...more } })
const chest = (role: string): Item => ({ source: { id: 'chest', name: 'Chest', kind: 'pickup', role, yields: [{ tally: 'stamps', min: 1, max: 1 }] } })

function planWith(...contents: Item[]): Records {
  return smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents }] })
}

/** The plan with a place more, added at the end of its route. */
function withPlace(records: Records, name: string, after: string | null = null) {
  const diff = addPlaceBehind(records, { id: 'far', name, kind: 'area', goal: false, minutes: 0 }, { place: 'p', passage: 'w' }, after, inOrder(records, 'route')[0]!.key)
  return { diff, records: apply(records, diff) }
}
const barredBy = (records: Records, id: string) => byId(withPlace(records, 'Gull Stair').records, 'gate', id)!

describe('a place that is added behind a gate', () => {
  const passage = { passage: 'depot_to_far' }

  it('is barred by the main door with which the place before ends', () => {
    assert.deepEqual(barredBy(planWith(gate('hatch', 'Hatch')), 'hatch').guards, passage)
    assert.deepEqual(barredBy(planWith(gate('hatch', 'Hatch'), chest('side')), 'hatch').guards, passage)
    assert.deepEqual(barredBy(planWith(gate('yard', 'Yard', { kind: 'area' })), 'yard').guards, passage)
  })

  it('is not barred by what is no way on', () => {
    for (const items of [[gate('g', 'Hatch'), chest('main')], [gate('g', 'Hatch', { role: 'side' })], [gate('g', 'Oil', { kind: 'shop_item' })], [gate('g', 'Stair gate to Rime Wood')]]) {
      assert.isNull(barredBy(planWith(...items), 'g').guards, JSON.stringify(items))
    }
  })

  it('is barred by the gate that names it, wherever that stands', () => {
    const named = barredBy(planWith(gate('stair', 'Stair gate to gull stair'), chest('main'), gate('hatch', 'Hatch')), 'stair')
    assert.deepInclude(named, { name: 'Stair gate', guards: passage })
    assert.deepEqual(barredBy(planWith(gate('stage', 'Gull Stair', { kind: 'stage' }), chest('main')), 'stage').guards, { place: 'far' })
  })

  it('is one step with its gate, and leaves the ways of other gates', () => {
    const start = planWith(gate('hatch', 'Hatch'))
    const { diff, records } = withPlace(start, 'Gull Stair')
    assert.equal(diff.name, 'add Gull Stair behind Hatch')
    assert.deepEqual([...apply(records, invert(diff)).gate], [...start.gate])
    const again = addPlaceBehind(records, { id: 'rock', name: 'Rock', kind: 'area', goal: false, minutes: 0 }, { place: 'q', passage: 'v' }, byId(records, 'place', 'depot')!.key, null)
    assert.equal(again.name, 'add Rock')
    assert.deepEqual(byId(apply(records, again), 'gate', 'hatch')!.guards, passage)
  })

  it('is the first of a plan that has none', () => {
    const { diff, records } = withPlace(smallPlan({ places: [], routes: [{ id: 'line', name: 'Line', stops: [] }] }), 'Gull Stair')
    assert.deepEqual([diff.name, inOrder(records, 'route')[0]!.stops], ['add Gull Stair', ['far']])
  })
})
