import { assert } from 'chai'
import { inOrder } from '../../../core/plan/records.ts'
import { placeSums } from '../../../core/view/place-sums.ts'
import { sheetRows, type SheetRow } from '../../../core/view/sheet.ts'
import { smallPlan } from '../../../core/testing/plans.ts'
import { askedText, nameOf, placeLine } from './row-words.ts'

const place = (id: string, name: string, contents: object[], more = {}) => ({ id, name, kind: 'area', contents, ...more })
const records = smallPlan({
  patterns: [{ id: 'drift', name: 'Drift', kind: 'event', yields: [{ tally: 'renown', min: 12, max: 12 }] }],
  places: [
    place('depot', '', [
      { source: { id: 'drifts', name: 'Drifts', pattern: 'drift', count: 3, role: 'side', requires: 'stamps >= 2' } }, { source: { id: 'stall', name: '', kind: 'event', yields: [{ tally: 'stamps', min: 2, max: 4 }] } },
      { gate: { id: 'tide', name: 'Tide', kind: 'door', requires: 'stamps >= 1', stays: 'live' } }, { gate: { id: 'toll', name: '', kind: 'door', requires: 'level >= 2', costs: [{ tally: 'stamps', amount: 5 }] } },
    ], { minutes: 7 }),
    place('flats', 'Flats', [], { goal: true }),
  ],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }], routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'depot'] }],
})
const rows = sheetRows(records, inOrder(records, 'route')[0]!.key, new Set())
const row = (id: string) => rows.find((one) => (one.type === 'source' ? one.source.id : one.type === 'gate' ? one.gate.id : '') === id)!
const places = (from = rows) => from.filter((one): one is SheetRow & { type: 'place' } => one.type === 'place')
const lines = (from = rows) => places(from).map((one) => placeLine(one, placeSums(records).get(one.place.key) ?? []))

describe('a row in words', () => {
  it('is called by its id where it has no name', () => {
    assert.deepEqual(['drifts', 'stall', 'toll'].map((id) => nameOf(row(id))), [{ name: 'Drifts', says: '' }, { name: 'stall', says: '' }, { name: 'toll', says: '' }])
    assert.deepEqual(nameOf(row('tide')), { name: 'Tide', says: ' · live' })
    assert.deepEqual(places().map(nameOf), [{ name: 'depot', says: '' }, { name: 'Flats', says: '' }, { name: 'depot', says: ' · visited again' }])
  })

  it('gives or asks as it is typed, with its pattern and what it waits for', () => {
    assert.deepEqual(['drifts', 'stall', 'tide', 'toll'].map((id) => askedText(records, row(id))), ['3 × 12 renown (drift) if stamps >= 2', '2-4 stamps', 'stamps >= 1', 'level >= 2 for 5 stamps'])
  })

  it('of a place says what kind it is, how long it takes and what it gives, that once', () => {
    assert.deepEqual(lines(), ['area · 7 min · 36 renown side, ≈ 3 stamps', 'area, goal · 0 min', 'area · 7 min'])
  })

  it('of a folded place says how many rows it has', () => {
    const folded = sheetRows(records, inOrder(records, 'route')[0]!.key, new Set(places().map((one) => one.place.key)))
    assert.match(lines(folded)[0]!, /^area · 7 min · 4 rows/)
  })
})
