import { assert } from 'chai'
import fc from 'fast-check'
import { check } from '../check/check.ts'
import type { KindName } from '../plan/kinds.ts'
import { kindNames } from '../plan/kinds.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records } from '../plan/records.ts'
import { anySample, newKeys, recordsOf, smallPlan } from '../testing/plans.ts'
import { validate } from '../rules/validate.ts'
import { runs } from '../testing/runs.ts'
import { addPlaceAfter } from './add-place.ts'
import { doubleItems, doublePlace } from './double.ts'
import { apply, ConflictError, conflictsOf, diffOf, equal, invert, isEmpty, squash, type Diff } from './diff.ts'
import { addItem, addRecord, freeId, moveItem, moveItems, neighbourSpot, removeRecords, renameId, setFields, shiftRecord } from './edits.ts'
import { firstSteps } from './first-steps.ts'
import { freeSlug, slugFrom } from './slug.ts'
import { newPlan } from '../plan/new-plan.ts'

/** The whole of a plan as plain data, whatever the order of its maps. */
function plain(records: Records): unknown {
  return [records.head, ...kindNames.map((kind) => Object.fromEntries([...(records[kind] as ReadonlyMap<string, object>)].sort(([a], [b]) => (a < b ? -1 : 1))))]
}

function items(records: Records): ItemRow[] {
  return [...contentsByPlace(records).values()].flat()
}

/** Some edit of a plan, chosen by two numbers. */
function someEdit(records: Records, which: number, pick: number): Diff {
  const all = items(records)
  const item = all[pick % all.length]!
  const place = inOrder(records, 'place')[pick % records.place.size]!
  const edits: (() => Diff)[] = [
    () => setFields(records, item.kind, item.row.key, { name: `Name ${pick}` }, 'rename'),
    () => setFields(records, 'place', place.key, { minutes: pick % 7 }, 'minutes'),
    () => moveItem(records, item, { place: place.key, after: null }),
    () => doubleItems(records, [item], newKeys(`new_${which}_${pick}`)).diff,
    () => doublePlace(records, place, newKeys(`copy_${which}_${pick}`), inOrder(records, 'route')[0]!.key).diff,
    () => removeRecords(records, [{ kind: item.kind, key: item.row.key }]),
    () => removeRecords(records, [{ kind: 'place', key: place.key }]),
    () => renameId(records, item.kind, item.row.key, `renamed_${pick}`),
    () => addPlaceAfter(records, { id: `fresh_${pick}`, name: 'Fresh', kind: 'area', goal: false, minutes: 0 }, { place: `np_${which}_${pick}`, passage: `nq_${which}_${pick}` }, place.key, inOrder(records, 'route')[0]!.key),
  ]
  return edits[which % edits.length]!()
}

const anyEdits = fc.array(fc.tuple(fc.nat(8), fc.nat(50)), { minLength: 1, maxLength: 6 })

/** A plan after each of some edits, with their diffs. */
function edited(records: Records, edits: [number, number][]): { states: Records[]; diffs: Diff[] } {
  const states = [records]
  const diffs: Diff[] = []
  for (const [which, number] of edits) {
    // Keys of what is added are never used twice.
    const pick = number + 100 * diffs.length
    const now = states.at(-1)!
    if (items(now).length === 0 || now.place.size === 0) break
    const diff = someEdit(now, which, pick)
    diffs.push(diff)
    states.push(apply(now, diff))
  }
  return { states, diffs }
}

describe('diffs', () => {
  it('are taken back by their inverse', () => {
    fc.assert(fc.property(anySample, anyEdits, (records, edits) => {
      const { states, diffs } = edited(records, edits)
      diffs.forEach((diff, i) => assert.deepEqual(plain(apply(states[i + 1]!, invert(diff))), plain(states[i]!)))
    }), { numRuns: runs(60) })
  })

  it('squash into one that does the same', () => {
    fc.assert(fc.property(anySample, anyEdits, (records, edits) => {
      const { states, diffs } = edited(records, edits)
      const one = squash(diffs, 'all')
      assert.deepEqual(plain(apply(records, one)), plain(states.at(-1)!))
      assert.deepEqual(plain(apply(states.at(-1)!, invert(one))), plain(records))
    }), { numRuns: runs(60) })
  })

  it('leave everything in the order in which it would be put anew', () => {
    fc.assert(fc.property(anySample, anyEdits, (records, edits) => {
      for (const state of edited(records, edits).states) {
        const anew = { ...state, ...Object.fromEntries(kindNames.map((kind) => [kind, new Map(state[kind] as ReadonlyMap<string, never>)])) }
        for (const kind of kindNames) assert.deepEqual(inOrder(state, kind), inOrder(anew, kind))
        assert.deepEqual(contentsByPlace(state), contentsByPlace(anew))
      }
    }), { numRuns: runs(60) })
  })

  it('are found between two plans, and none between the same', () => {
    fc.assert(fc.property(anySample, anyEdits, (records, edits) => {
      const after = edited(records, edits).states.at(-1)!
      assert.deepEqual(plain(apply(records, diffOf(records, after, 'd'))), plain(after))
      assert.isTrue(isEmpty(diffOf(after, after, 'none')))
    }), { numRuns: runs(40) })
  })

  it('conflict where the same field was changed, and only there', () => {
    const records = smallPlan()
    const place = inOrder(records, 'place')[0]!
    const mine = setFields(records, 'place', place.key, { minutes: 4 }, 'minutes')
    const named = apply(records, setFields(records, 'place', place.key, { name: 'Hut' }, 'name'))
    assert.equal(inOrder(apply(named, mine), 'place')[0]!.minutes, 4)
    const theirs = apply(records, setFields(records, 'place', place.key, { minutes: 9 }, 'minutes'))
    assert.deepEqual(conflictsOf(theirs, mine), [{ kind: 'place', key: place.key, field: 'minutes', expected: 0, found: 9 }])
    assert.throws(() => apply(theirs, mine), ConflictError)
    const gone = apply(records, removeRecords(records, [{ kind: 'place', key: place.key }]))
    assert.equal(conflictsOf(gone, mine)[0]!.field, null)
  })

  it('take an optional field away and bring it back', () => {
    const records = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'd', patterns: [{ id: 'x', name: 'X', kind: 'event' }] })
    const key = inOrder(records, 'pattern')[0]!.key
    const diff = setFields(records, 'pattern', key, { kind: undefined } as never, 'no kind')
    const without = apply(records, diff)
    assert.notProperty(without.pattern.get(key), 'kind')
    assert.deepEqual(plain(apply(without, invert(diff))), plain(records))
  })

  it('compare JSON whatever the order of keys', () => {
    assert.isTrue(equal({ a: 1, b: [{ c: null }] }, { b: [{ c: null }], a: 1 }))
    assert.isFalse(equal({ a: 1 }, { a: 1, b: 2 }))
    assert.isFalse(equal([1], { 0: 1 }))
  })
})

describe('edits', () => {
  it('never take an id twice, nor a word of the language for a tally', () => {
    const records = smallPlan()
    assert.equal(freeId(records, 'tally', 'Stamps'), 'stamps_2')
    assert.equal(freeId(records, 'tally', 'Level'), 'level_2')
    assert.equal(freeId(records, 'place', 'Gull Stair!'), 'gull_stair')
    assert.equal(slugFrom('  Élan 3 — north'), 'elan_3_north')
  })

  it('find an id for every one of thousands of rows of one long name', () => {
    const taken = new Set<string>()
    for (let n = 0; n < 1_200; n++) taken.add(freeSlug('The drift hare that nobody has seen before the ice is gone for good', taken))
    assert.equal(taken.size, 1_200)
    assert.isAtMost(Math.max(...[...taken].map(({ length }) => length)), 64)
    assert.deepEqual([freeSlug('!', taken), freeSlug('!', taken, 'row')], ['item', 'row'])
  })

  it('move a row within its place and into the next', () => {
    const gate = (id: string) => ({ gate: { id, name: id, kind: 'door' } })
    const records = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'a', places: [{ id: 'a', name: 'A', kind: 'area', contents: [gate('g1'), gate('g2')] }, { id: 'b', name: 'B', kind: 'area', contents: [gate('g3')] }] })
    const order = (r: Records) => inOrder(r, 'place').map((place) => contentsByPlace(r).get(place.key)!.map((item) => item.row.id).join(' ')).join(' | ')
    const places = inOrder(records, 'place').map((place) => place.key)
    const step = (r: Records, id: string, by: 1 | -1) => {
      const item = items(r).find(({ row }) => row.id === id)!
      const spot = neighbourSpot(r, item, by, places)
      return spot ? apply(r, moveItem(r, item, spot)) : r
    }
    assert.equal(order(step(records, 'g1', 1)), 'g2 g1 | g3')
    assert.equal(order(step(records, 'g2', 1)), 'g1 | g2 g3')
    assert.equal(order(step(records, 'g3', -1)), 'g1 g2 g3 | ')
    assert.equal(order(step(records, 'g1', -1)), 'g1 g2 | g3')
    assert.equal(inOrder(apply(records, shiftRecord(records, 'place', places[0]!, 1)), 'place')[0]!.id, 'b')
  })

  it('move several rows together, in their order, to between two others', () => {
    const records = smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: ['a', 'b', 'c', 'd'].map((id) => ({ source: { id, name: id, kind: 'event', count: 1 } })) }, { id: 'flats', name: 'Flats', kind: 'area' }] })
    const items = contentsByPlace(records).get('place_0')!
    const idsIn = (of: Records, place: string) => contentsByPlace(of).get(place)!.map(({ row }) => row.id).join('')
    assert.equal(idsIn(apply(records, moveItems(records, [items[0]!, items[3]!], { place: 'place_0', after: items[1]!.row.key })), 'place_0'), 'badc')
    const away = apply(records, moveItems(records, [items[2]!, items[1]!], { place: 'place_1', after: null }))
    assert.deepEqual([idsIn(away, 'place_0'), idsIn(away, 'place_1')], ['ad', 'cb'])
    assert.equal(moveItems(records, items.slice(0, 2), { place: 'place_1', after: null }).name, 'move 2 rows')
  })

  it('put a new place into the route, joined to its neighbours', () => {
    let records = newPlan('Road')
    const route = inOrder(records, 'route')[0]!.key
    const add = (name: string, after: string | null) => {
      records = apply(records, addPlaceAfter(records, { id: slugFrom(name), name, kind: 'area', goal: false, minutes: 0 }, { place: `k_${name}`, passage: `w_${name}` }, after, route))
    }
    add('Depot', null)
    add('Stair', null)
    add('Flats', 'k_Depot')
    assert.deepEqual(inOrder(records, 'route')[0]!.stops, ['depot', 'flats', 'stair'])
    assert.deepEqual(inOrder(records, 'place').map((p) => p.id), ['depot', 'flats', 'stair'])
    assert.equal(records.head.start, 'depot')
    assert.deepEqual(validate(records), [])
  })

  it('begin an empty plan in one step', () => {
    const records = newPlan('Road')
    const keys = { tally: 't', curve: 'c', character: 'ch', place: 'p', passage: 'w' }
    const begun = apply(records, firstSteps(records, { tally: 'Level', character: 'Courier', base: 80, factor: 1.1, add: 5, levels: 9 }, 'Depot', keys, inOrder(records, 'route')[0]!.key))
    assert.deepEqual(validate(begun), [])
    assert.equal(inOrder(begun, 'character')[0]!.experience, 'level_2')
  })

  it('take a place away with all that hangs on it', () => {
    const records = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'a', places: [{ id: 'a', name: 'A', kind: 'area' }, { id: 'b', name: 'B', kind: 'area', contents: [{ gate: { id: 'g', name: 'G', kind: 'door' } }] }], passages: [{ id: 'w', from: 'a', to: 'b' }], routes: [{ id: 'r', name: 'R', stops: ['a', 'b', 'a'] }] })
    const after = apply(records, removeRecords(records, [{ kind: 'place', key: inOrder(records, 'place')[1]!.key }]))
    assert.equal(after.gate.size + after.passage.size, 0)
    assert.deepEqual(inOrder(after, 'route')[0]!.stops, ['a', 'a'])
  })

  it('add rows after others', () => {
    const records = smallPlan()
    const place = inOrder(records, 'place')[0]!.key
    const source = (name: string) => ({ id: name, name, kind: 'event' as const, role: 'main' as const, count: 1, requires: '', caps: [] })
    const one = apply(records, addItem(records, 'source', 'k1', source('one'), { place, after: null }))
    const two = apply(one, addItem(one, 'source', 'k2', source('two'), { place, after: 'k1' }))
    const three = apply(two, addItem(two, 'source', 'k3', source('three'), { place, after: 'k1' }))
    assert.deepEqual(contentsByPlace(three).get(place)!.map((item) => item.row.id), ['one', 'three', 'two'])
    const tally = apply(records, addRecord(records, 'tally', 'kt', { id: 'seals', name: 'Seals', kind: 'collectible', start: 0, min: 0, max: null, resets: 'never', saved: true }))
    assert.equal(inOrder(tally, 'tally').at(-1)!.id, 'seals')
  })

  it('rename an id everywhere, so that the check stays the same', () => {
    const kinds: KindName[] = ['tally', 'curve', 'character', 'pattern', 'place', 'passage', 'source', 'gate', 'route', 'profile']
    fc.assert(fc.property(anySample, fc.nat(9), fc.nat(30), (records, k, pick) => {
      const kind = kinds[k]!
      const rows = inOrder(records, kind)
      const row = rows[pick % rows.length]
      if (!row) return
      const renamed = apply(records, renameId(records, kind, row.key, 'another_name'))
      assert.deepEqual(validate(renamed).length, validate(records).length)
      const words = (r: Records) => JSON.stringify(check(r, { route: 'main_line', profile: 'thorough' }).result.routes.map((route) => route.profiles.map((p) => p.gates.map((g) => [g.verdict, g.p, g.due?.stop, g.opened, g.ready, g.debt.map((d) => d.minutes)]))))
      if (kind !== 'route' && kind !== 'profile') assert.equal(words(renamed), words(records))
    }), { numRuns: runs(25) })
  })
})
