import { assert } from 'chai'
import { inOrder } from '../plan/records.ts'
import { newKeys, recordsOf, smallPlan } from '../testing/plans.ts'
import { apply, type Diff } from './diff.ts'
import { addRecord, removeRecords, setFields } from './edits.ts'
import { crowdFault, growth, shapeFault, shapeFaults } from './shape.ts'

const plan = smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [{ source: { id: 'round', name: 'Round', kind: 'quest' } }, { gate: { id: 'gate', name: 'Gate', kind: 'door' } }] }] })

/** A plan with as many tallies as there may be. */
const full = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'full', name: 'Full', start: 'depot', places: [{ id: 'depot', name: 'Depot', kind: 'area' }],
  tallies: Array.from({ length: 200 }, (_, i) => ({ id: `t${i}`, name: 'T', kind: 'score' })),
})
const oneMore = addRecord(full, 'tally', 'new', { id: 'more', name: 'More', kind: 'score', start: 0, min: 0, max: null, resets: 'never', saved: true })

describe('the shape that a change leaves', () => {
  it('is told where a field has none, with the name of the record', () => {
    const nudge = setFields(plan, 'source', 'source_0', { count: 0 }, 'no more rounds')
    assert.equal(shapeFault(plan, nudge), 'Round: a count is at least 1')
    assert.deepEqual(shapeFaults(plan, nudge).map(({ path }) => path), ['source round: count'])
    assert.isNull(shapeFault(plan, setFields(plan, 'source', 'source_0', { count: 2 }, 'two rounds')))
  })

  it('asks of rows that they stand somewhere', () => {
    const unplaced: Diff = { name: 'lose it', changes: [{ kind: 'source', key: 'source_0', before: { place: 'place_0' }, after: { place: null } }] }
    assert.isNotNull(shapeFault(plan, unplaced))
    const everywhere: Diff = { name: 'anywhere', changes: [{ kind: 'gate', key: 'gate_0', before: { place: 'place_0' }, after: { place: null } }] }
    assert.isNull(shapeFault(plan, everywhere))
  })

  it('is no more of a kind than a plan may hold', () => {
    assert.equal(shapeFault(full, oneMore), 'a plan holds at most 200 records of the kind tally, and these would be 201')
    const fewer = apply(full, removeRecords(full, [{ kind: 'tally', key: inOrder(full, 'tally')[0]!.key }]))
    assert.isNull(shapeFault(fewer, oneMore))
  })

  it('may be more than that already, as long as it grows no further', () => {
    const crowded = apply(full, oneMore)
    assert.isNull(shapeFault(crowded, setFields(crowded, 'tally', 'new', { name: 'Still more' }, 'rename')))
    assert.isNull(shapeFault(crowded, removeRecords(crowded, [{ kind: 'tally', key: 'new' }])))
    const swapped: Diff = { name: 'swap', changes: [...removeRecords(crowded, [{ kind: 'tally', key: 'new' }]).changes, ...addRecord(crowded, 'tally', newKeys()(), { id: 'other', name: 'Other', kind: 'score', start: 0, min: 0, max: null, resets: 'never', saved: true }).changes] }
    assert.deepEqual([...growth(swapped)], [])
    assert.isNull(crowdFault(swapped, () => 201))
  })
})
