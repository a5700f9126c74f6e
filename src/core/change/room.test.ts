import { assert } from 'chai'
import fc from 'fast-check'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
import { newKeys, smallPlan } from '../testing/plans.ts'
import { apply } from './diff.ts'
import { addItem, moveItem, neighbourSpot, shiftRecord } from './edits.ts'
import { freshRecord } from './fresh.ts'
import { pasteRows } from './paste-rows.ts'
import { doubleItems } from './double.ts'

const start = smallPlan()
const depot = inOrder(start, 'place')[0]!.key
const ids = (records: Records) => contentsByPlace(records).get(depot)!.map(({ row }) => row.id).join(' ')
const added = (records: Records, id: string, after: string | null) => addItem(records, 'gate', id, freshRecord(records, 'gate', id) as never, { place: depot, after })
/** Two windows that have not heard of each other each put a row behind the same one: both rows have the same order key. */
const tied = ['b', 'c', 'd'].map((id) => added(apply(start, added(start, 'a', null)), id, 'a')).reduce(apply, apply(start, added(start, 'a', null)))

describe('room for a row', () => {
  it('is right behind the one that it goes after, also between rows that were put at the same spot', () => {
    const orders = contentsByPlace(tied).get(depot)!.map(({ row }) => row.order)
    assert.equal(new Set(orders).size, 2)
    assert.equal(ids(apply(tied, added(tied, 'x', 'b'))), 'a b x c d')
    assert.equal(ids(apply(tied, added(tied, 'x', 'd'))), 'a b c d x')
    assert.equal(ids(apply(tied, added(tied, 'x', null))), 'x a b c d')
  })

  it('is found for rows that are moved, pasted and doubled', () => {
    const item = (id: string) => contentsByPlace(tied).get(depot)!.find(({ row }) => row.id === id)!
    const up = neighbourSpot(tied, item('d'), -1, [depot])!
    assert.equal(ids(apply(tied, moveItem(tied, item('d'), up))), 'a b d c')
    assert.equal(ids(apply(tied, moveItem(tied, item('b'), neighbourSpot(tied, item('b'), 1, [depot])!))), 'a c b d')
    const row = { line: 1, text: '', ok: true as const, kind: 'gate' as const, place: null, says: '', record: { ...(freshRecord(tied, 'gate', 'x') as object), name: 'X' } as never }
    assert.equal(ids(apply(tied, pasteRows(tied, { rows: [row, { ...row, record: { ...(row.record as object), name: 'Y' } as never }], places: [], tallies: [] }, { place: depot, after: 'b' }, null, newKeys()).diff)), 'a b x y c d')
    assert.equal(ids(apply(tied, doubleItems(tied, [item('b')], newKeys()).diff)), 'a b b_2 c d')
  })

  it('is found in plain lists as well', () => {
    const order = inOrder(start, 'tally')[0]!.order
    const records = { ...start, tally: new Map([...start.tally].map(([key, row]) => [key, { ...row, order }])) }
    const names = (of: Records) => inOrder(of, 'tally').map(({ id }) => id).join(' ')
    assert.equal(names(records), 'renown stamps')
    const renown = inOrder(records, 'tally')[0]!.key
    assert.equal(names(apply(records, shiftRecord(records, 'tally', renown, 1))), 'stamps renown')
    assert.deepEqual(shiftRecord(records, 'tally', renown, -1).changes, [])
  })

  it('is where it is asked for, whoever has put what where before', () => {
    // Each round, two windows put a row at a spot of their own into what both know; then one is put between, and stands there.
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat(20), fc.nat(20), fc.nat(20)), { minLength: 1, maxLength: 8 }), (rounds) => {
      let records = start
      rounds.forEach((spots, r) => {
        const keys = contentsByPlace(records).get(depot)!.map(({ row }) => row.key)
        const [mine, theirs] = spots.slice(0, 2).map((spot, w) => added(records, `r${r}w${w}`, [null, ...keys][spot % (keys.length + 1)]!))
        // What made room in one window may have changed in the other: then they are asked, and nothing is put here.
        records = apply(records, mine!)
        try {
          records = apply(records, theirs!)
        } catch { /* a clash */ }
        const before = contentsByPlace(records).get(depot)!.map(({ row }) => row.key)
        const at = spots[2] % (before.length + 1)
        records = apply(records, added(records, `r${r}x`, [null, ...before][at]!))
        assert.equal(contentsByPlace(records).get(depot)![at]!.row.key, `r${r}x`)
      })
    }))
  })
})
