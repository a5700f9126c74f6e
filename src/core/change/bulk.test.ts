import { assert } from 'chai'
import fc from 'fast-check'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
import { anySample, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { pegsOf } from '../view/pegs.ts'
import { changeNumbers, moveAll, setRoles } from './bulk.ts'
import { apply, invert, isEmpty } from './diff.ts'
import { moveStop } from './move-stop.ts'
import { replaceAll, replacements } from './replace.ts'
import { withThreshold } from './threshold.ts'
import { usersOfId } from './users.ts'

const source = (id: string, amount: number, more: object = {}) => ({ source: { id, name: `The ${id}`, kind: 'event', yields: [{ tally: 'renown', min: amount, max: amount }], ...more } })
const records = smallPlan({
  patterns: [{ id: 'drift', name: 'Drift', kind: 'event', yields: [{ tally: 'renown', min: 18, max: 18 }], minutes: 2 }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 5 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      source('round', 60), source('letters', 3, { count: 4, yields: [{ tally: 'renown', min: 2, max: 5 }] }), { source: { id: 'drifts', name: 'Drifts', pattern: 'drift', count: 3 } },
      { gate: { id: 'hatch', name: 'Hatch of the depot', kind: 'door', requires: 'level >= 3 and stamps > 4 or 10 <= renown', costs: [{ tally: 'stamps', amount: 5 }], lockedText: 'Only for the depot.' } },
    ] },
    { id: 'flats', name: 'Flats', kind: 'area' }, { id: 'stair', name: 'Stair', kind: 'area' },
  ],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'stair' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'stair'] }],
})
const items = [...contentsByPlace(records).values()].flat()
const sourceIn = (of: Records, id: string) => inOrder(of, 'source').find((row) => row.id === id)!
const hatchIn = (of: Records) => inOrder(of, 'gate')[0]!

describe('several rows at once', () => {
  it('have their amounts scaled, whole ones to whole ones, also those that a pattern gave', () => {
    const next = apply(records, changeNumbers(records, items, 'amounts', 'scale', 1.5))
    assert.deepEqual(sourceIn(next, 'round').yields, [{ tally: 'renown', min: 90, max: 90 }])
    assert.deepEqual(sourceIn(next, 'letters').yields, [{ tally: 'renown', min: 3, max: 8 }])
    assert.deepEqual(sourceIn(next, 'drifts').yields, [{ tally: 'renown', min: 27, max: 27 }])
    assert.equal(changeNumbers(records, items, 'amounts', 'scale', 1.5).name, 'scale amounts given of 3 rows (× 1.5)')
  })

  it('have counts set and raised, never below one', () => {
    assert.equal(sourceIn(apply(records, changeNumbers(records, items, 'count', 'set', 7)), 'letters').count, 7)
    assert.equal(sourceIn(apply(records, changeNumbers(records, items, 'count', 'add', -9)), 'letters').count, 1)
  })

  it('have every threshold moved, on whichever side it stands, and costs apart from them', () => {
    const raised = hatchIn(apply(records, changeNumbers(records, items, 'thresholds', 'add', 2)))
    assert.equal(raised.requires, 'level >= 5 and stamps > 6 or 12 <= renown')
    assert.deepEqual(raised.costs, [{ tally: 'stamps', amount: 5 }])
    assert.equal(hatchIn(apply(records, changeNumbers(records, items, 'thresholds', 'scale', 0.5))).requires, 'level >= 2 and stamps > 2 or 5 <= renown')
    assert.deepEqual(hatchIn(apply(records, changeNumbers(records, items, 'costs', 'scale', 2))).costs, [{ tally: 'stamps', amount: 10 }])
  })

  it('change their role, and move together in their order', () => {
    const moved = apply(records, moveAll(records, items.slice(0, 3), inOrder(records, 'place')[1]!))
    assert.deepEqual(contentsByPlace(moved).get(inOrder(records, 'place')[1]!.key)!.map(({ row }) => row.id), ['round', 'letters', 'drifts'])
    assert.isTrue(isEmpty(setRoles(items, 'main')))
    assert.equal(sourceIn(apply(records, setRoles(items, 'side')), 'round').role, 'side')
  })

  it('are as they were when the step is undone, whatever it was', () => {
    fc.assert(fc.property(anySample, fc.constantFrom('amounts', 'count', 'thresholds', 'costs', 'minutes'), fc.constantFrom('scale', 'add', 'set'), fc.integer({ min: 0, max: 5 }), (sample, field, operation, by) => {
      const all = [...contentsByPlace(sample).values()].flat()
      const diff = changeNumbers(sample, all, field, operation, by)
      const back = apply(apply(sample, diff), invert(diff))
      assert.deepEqual([...back.source.values(), ...back.gate.values()], [...sample.source.values(), ...sample.gate.values()])
    }), { numRuns: runs(60) })
  })
})

describe('a threshold', () => {
  it('is changed where it stands, in the requirement or as a cost', () => {
    const gate = hatchIn(records)
    const pegs = pegsOf(gate, 'courier')
    assert.deepEqual(pegs.map(({ at }) => at), [3, 4, 10, 5])
    assert.equal(withThreshold(gate, pegs[2]!, 12.5)!.requires, 'level >= 3 and stamps > 4 or 12.5 <= renown')
    assert.deepEqual(withThreshold(gate, pegs[3]!, 7)!.costs, [{ tally: 'stamps', amount: 7 }])
    assert.equal(withThreshold(gate, pegs[1]!, -2)!.requires, 'level >= 3 and stamps > -2 or 10 <= renown')
    assert.isNull(withThreshold(gate, pegs[3]!, 0))
  })

  it('below 0 stands as it is typed, whatever stands around it', () => {
    for (const [requires, changed] of [['stamps>=3', 'stamps>=-2'], ['not 3<stamps', 'not -2<stamps'], ['stamps < (1 + 2)', 'stamps < -2'], ['at_least(1,stamps==3)', 'at_least(1,stamps==-2)']] as const) {
      const gate = { requires, costs: [] }
      const after = withThreshold(gate, pegsOf(gate, null)[0]!, -2)!
      assert.equal(after.requires, changed)
      assert.deepEqual(pegsOf(after, null).map(({ lane, at }) => [lane, at]), [['tally stamps', -2]])
    }
  })
})

describe('what still names a record', () => {
  it('is found in fields and in requirements', () => {
    assert.deepEqual(usersOfId(records, 'tally', 'stamps'), ['Hatch of the depot'])
    assert.deepEqual(usersOfId(records, 'curve', 'rank'), ['Courier'])
    assert.deepEqual(usersOfId(records, 'place', 'flats'), ['road', 'path', 'Line'])
    assert.isEmpty(usersOfId(records, 'gate', 'hatch'))
  })
})

describe('a stop', () => {
  it('changes places with its neighbour, and a passage is made where there was none', () => {
    let n = 0
    const route = inOrder(records, 'route')[0]!
    const next = apply(records, moveStop(records, route, 1, 1, () => `k${n++}`)!)
    assert.deepEqual(inOrder(next, 'route')[0]!.stops, ['depot', 'stair', 'flats'])
    assert.deepEqual(inOrder(next, 'passage').map(({ id }) => id), ['road', 'path', 'depot_to_stair'])
    assert.isNull(moveStop(records, route, 2, 1, () => 'k'))
  })
})

describe('finding and replacing', () => {
  const options = { find: 'depot', by: 'Harbour', matchCase: false, names: true, ids: true }

  it('shows every name, text and id that it would change', () => {
    assert.deepEqual(replacements(records, options).map(({ what, before, after }) => `${what}: ${before} → ${after}`), [
      'name: Depot → Harbour', 'id: depot → harbour', 'name: Hatch of the depot → Hatch of the Harbour', 'text for the player: Only for the depot. → Only for the Harbour.',
    ])
    assert.deepEqual(replacements(records, { ...options, matchCase: true, ids: false }).map(({ after }) => after), ['Hatch of the Harbour', 'Only for the Harbour.'])
    assert.isEmpty(replacements(records, { ...options, find: '' }))
  })

  it('renames ids wherever they are named', () => {
    const next = apply(records, replaceAll(records, replacements(records, options), 'replace'))
    assert.equal(next.head.start, 'harbour')
    assert.deepEqual(inOrder(next, 'route')[0]!.stops, ['harbour', 'flats', 'stair'])
    const all = replacements(records, { ...options, find: 'stamps', by: 'seals' })
    assert.equal(hatchIn(apply(records, replaceAll(records, all, 'replace'))).requires, 'level >= 3 and seals > 4 or 10 <= renown')
  })
})
