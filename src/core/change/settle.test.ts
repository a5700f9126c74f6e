import { assert } from 'chai'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
import { newKeys, smallPlan } from '../testing/plans.ts'
import { addPlaceAfter } from './add-place.ts'
import { apply, conflictsOf, type Diff } from './diff.ts'
import { addItem, moveItem, removeRecords, setFields } from './edits.ts'
import { freshRecord } from './fresh.ts'
import { conflictWords, putOver } from './settle.ts'

const newKey = newKeys()
const start = smallPlan()
const withHut = apply(start, addPlaceAfter(start, { id: 'hut', name: 'Hut', kind: 'area', goal: false, minutes: 0 }, { place: 'hut', passage: newKey() }, null, null))
const gate = (records: Records, id: string, place: string | null) => addItem(records, 'gate', id, { ...(freshRecord(records, 'gate', id) as never as object), name: `Gate ${id}` } as never, { place, after: null })
const withoutHut = (records: Records) => removeRecords(records, [{ kind: 'place', key: 'hut' }])
const depot = inOrder(start, 'place')[0]!.key
const heldIn = (records: Records, place: string | null) => (contentsByPlace(records).get(place) ?? []).map(({ row }) => row.id)
const wordsOf = (records: Records, diff: Diff) => conflictsOf(records, diff).map((conflict) => conflictWords(records, diff, conflict))
const settled = (records: Records, diff: Diff) => apply(records, putOver(records, diff, conflictsOf(records, diff)))

describe('what was changed elsewhere too', () => {
  it('is put over field by field, and nothing beside it', () => {
    const mine = setFields(withHut, 'place', 'hut', { minutes: 4, goal: true }, 'mine')
    const theirs = apply(withHut, setFields(withHut, 'place', 'hut', { minutes: 9, name: 'Old hut' }, 'theirs'))
    assert.deepEqual(wordsOf(theirs, mine), [{ what: 'Old hut · minutes', mine: '4', theirs: '9' }])
    assert.deepInclude(settled(theirs, mine).place.get('hut'), { minutes: 4, goal: true, name: 'Old hut' })
  })

  it('is deleted as it stands now, if it is to be deleted', () => {
    const mine = withoutHut(withHut)
    const theirs = apply(withHut, setFields(withHut, 'place', 'hut', { minutes: 9 }, 'theirs'))
    assert.deepEqual(wordsOf(theirs, mine), [{ what: 'Hut · minutes', mine: 'deleted', theirs: '9' }])
    assert.isUndefined(settled(theirs, mine).place.get('hut'))
  })

  it('may be gone: then nothing of it is changed', () => {
    const mine = setFields(withHut, 'place', 'hut', { minutes: 4 }, 'mine')
    assert.deepEqual(wordsOf(start, mine), [{ what: 'place · the whole record', mine: 'kept', theirs: 'deleted' }])
    assert.deepEqual(putOver(start, mine, conflictsOf(start, mine)).changes, [])
  })

  it('may be the place of a row: the row goes where the plan begins, and is in none without it', () => {
    const added = gate(withHut, 'hatch', 'hut')
    assert.deepEqual(wordsOf(start, added), [{ what: 'Gate hatch · its place', mine: 'kept, in Depot', theirs: 'deleted' }])
    assert.deepEqual(heldIn(settled(start, added), depot), ['hatch'])
    const before = apply(withHut, gate(withHut, 'hatch', null))
    const moved = moveItem(before, contentsByPlace(before).get(null)![0]!, { place: 'hut', after: null })
    assert.deepEqual(heldIn(settled(apply(before, withoutHut(before)), moved), depot), ['hatch'])
    const none = apply(start, removeRecords(start, [{ kind: 'place', key: depot }]))
    assert.deepEqual(wordsOf(none, added)[0]!.mine, 'left out: there is no place')
    assert.deepEqual(putOver(none, added, conflictsOf(none, added)).changes, [])
  })

  it('may be what a deleted place holds: nothing of that is left behind in no place', () => {
    const mine = withoutHut(withHut)
    const theirs = apply(withHut, gate(withHut, 'hatch', 'hut'))
    assert.deepEqual(wordsOf(theirs, mine), [{ what: 'Hut · what it holds', mine: 'deleted', theirs: 'added there: Gate hatch' }])
    const after = settled(theirs, mine)
    assert.isUndefined(after.gate.get('hatch'))
    assert.isUndefined(after.place.get('hut'))
    // What the same step takes out of it stands in nobody's way.
    const out = moveItem(theirs, contentsByPlace(theirs).get('hut')![0]!, { place: depot, after: null })
    assert.deepEqual(conflictsOf(theirs, { name: 'both', changes: [...out.changes, ...mine.changes] }), [])
    // Nor does a place that the same step adds.
    assert.deepEqual(conflictsOf(start, { name: 'both', changes: [...gate(withHut, 'hatch', 'hut').changes, ...inverse(withoutHut(withHut))] }), [])
  })
})

const inverse = ({ changes }: Diff) => changes.filter(({ kind }) => kind === 'place').map((change) => ({ ...change, before: change.after, after: change.before }))
