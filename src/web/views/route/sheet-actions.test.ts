import { assert } from 'chai'
import { apply, type Diff } from '../../../core/change/diff.ts'
import { readEntry } from '../../../core/exchange/entry-line.ts'
import { byId, contentsByPlace, inOrder, type Records } from '../../../core/plan/records.ts'
import { sheetRows, type SheetRow } from '../../../core/view/sheet.ts'
import { recordsOf } from '../../../core/testing/plans.ts'
import { addEntry, cellText, doubleRows, dropRows, editCell, entryContext, entrySpot, itemOf, moveRow, moveRows, removeRows, toggleRole } from './sheet-actions.ts'

const stamps = (n: number) => [{ tally: 'stamps', min: n, max: n }]
const file = {
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot',
  tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'lamp_glass', name: 'Lamp glass', kind: 'collectible' }],
  patterns: [{ id: 'drift', name: 'Drift', kind: 'event', yields: stamps(3) }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', minutes: 2, contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 4, yields: stamps(2) } },
      { source: { id: 'drifts', name: 'Drifts', pattern: 'drift', count: 2 } },
      { gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way' }, requires: 'stamps >= 9' } },
    ] },
    { id: 'pier', name: 'Pier', kind: 'area', goal: true, contents: [{ source: { id: 'crane', name: 'Crane', kind: 'quest', yields: stamps(1) } }] },
  ],
  passages: [{ id: 'way', from: 'depot', to: 'pier' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier', 'depot'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
}
const records = recordsOf(file)
const line = inOrder(records, 'route')[0]!.key
const rowsOf = (of: Records, folded: ReadonlySet<string> = new Set()) => sheetRows(of, line, folded)
const nameOf = (row: SheetRow) => (row.type === 'heading' ? row.text : row.type === 'place' ? row.place.name : itemOf(row)!.row.name)
const rowOf = (name: string, of = records) => rowsOf(of).find((row) => nameOf(row) === name)!
const edited = (row: string, cell: 'name' | 'asks', text: string) => {
  const result = editCell(records, rowOf(row), cell, text)
  assert.property(result, 'diff', `${row}: ${text}`)
  return apply(records, (result as { diff: Diff }).diff)
}
const refused = (row: string, cell: 'name' | 'asks', text: string) => (editCell(records, rowOf(row), cell, text) as { says?: string }).says ?? 'taken'
const idsIn = (of: Records, place: string) => contentsByPlace(of).get(byId(of, 'place', place)!.key)!.map(({ row }) => row.id)

describe('a cell of the sheet', () => {
  it('is taken as it was shown without a change', () => {
    for (const row of rowsOf(records)) for (const cell of ['name', 'asks'] as const) {
      const result = editCell(records, row, cell, cellText(records, row, cell)) as { diff: Diff }
      assert.deepEqual(result.diff.changes, [], `${nameOf(row)} ${cell}`)
    }
  })

  it('holds what a source gives, uses up and asks for', () => {
    const crane = byId(edited('Crane', 'asks', '3 × 2-4 lamp_glass takes 1 stamps if stamps >= 2'), 'source', 'crane')!
    assert.deepInclude(crane, { count: 3, yields: [{ tally: 'lamp_glass', min: 2, max: 4 }], takes: [{ tally: 'stamps', amount: 1 }], requires: 'stamps >= 2' })
    assert.isTrue(byId(edited('Crane', 'asks', '2 stamps respawns if stamps >= 2'), 'source', 'crane')!.respawns)
    assert.match(refused('Crane', 'asks', '2 stamps if stamps >= 2 for 3 stamps'), /what a unit uses up is written before "if"/)
    assert.match(refused('Crane', 'asks', '2 stamps if stamp >= 2'), /did you mean stamps/)
    assert.match(refused('Crane', 'asks', '2.5 × 3 stamps'), /a count is a whole number/)
    assert.match(refused('Crane', 'asks', '4-2 stamps'), /is no amount of a tally/)
  })

  it('leaves to the pattern what the pattern says', () => {
    assert.equal(cellText(records, rowOf('Drifts'), 'asks'), '2 × 3 stamps')
    const more = byId(edited('Drifts', 'asks', '5 × 3 stamps'), 'source', 'drifts')!
    assert.equal(more.count, 5)
    assert.notProperty(more, 'yields')
    assert.deepEqual(byId(edited('Drifts', 'asks', '5 × 4 stamps'), 'source', 'drifts')!.yields, stamps(4))
  })

  it('holds what a gate asks for and costs', () => {
    assert.deepInclude(byId(edited('Hatch', 'asks', 'lamp_glass >= 2 for 5 stamps'), 'gate', 'hatch')!, { requires: 'lamp_glass >= 2', costs: [{ tally: 'stamps', amount: 5 }] })
    assert.match(refused('Hatch', 'asks', 'lamp_glass >='), /column \d+/)
  })

  it('holds what a place is', () => {
    assert.deepInclude(byId(edited('Depot', 'asks', 'area · 3.5 min, goal'), 'place', 'depot')!, { kind: 'area', minutes: 3.5, goal: true })
    // What is not written is not so.
    assert.isFalse(byId(edited('Pier', 'asks', 'area'), 'place', 'pier')!.goal)
    assert.match(refused('Pier', 'asks', 'harbour'), /"harbour" is none of: .*hub/)
  })

  it('needs a name', () => {
    assert.equal(byId(edited('Hatch', 'name', '  Iron hatch '), 'gate', 'hatch')!.name, 'Iron hatch')
    assert.match(refused('Hatch', 'name', '  '), /needs a name/)
  })

  it('turns a role over, but that of a place', () => {
    assert.equal(byId(apply(records, toggleRole(records, rowOf('Round'))!), 'source', 'round')!.role, 'side')
    assert.isNull(toggleRole(records, rowOf('Pier')))
  })
})

describe('rows of the sheet', () => {
  it('move into the place beside theirs, and no further than the ends', () => {
    const move = (name: string, by: 1 | -1) => moveRow(records, rowsOf(records), rowOf(name), by, line)
    const down = apply(records, move('Hatch', 1)!)
    assert.deepEqual([idsIn(down, 'depot'), idsIn(down, 'pier')], [['round', 'drifts'], ['hatch', 'crane']])
    assert.isNull(move('Round', -1))
    assert.isNull(move('Crane', 1))
  })

  it('move together, over what stands beside them', () => {
    const rows = rowsOf(records)
    const move = (by: 1 | -1) => moveRows(records, rows, [rowOf('Round'), rowOf('Drifts')], by)
    assert.deepEqual(idsIn(apply(records, move(1)!), 'depot'), ['hatch', 'round', 'drifts'])
    assert.isNull(move(-1))
  })

  it('change a place with its neighbour on the route', () => {
    const moved = apply(records, moveRow(records, rowsOf(records), rowOf('Pier'), -1, line)!)
    assert.deepEqual(inOrder(moved, 'route')[0]!.stops, ['pier', 'depot', 'depot'])
  })

  it('are dropped where they are let go; into a folded place at its end', () => {
    const rows = rowsOf(records)
    const item = itemOf(rowOf('Round'))!
    const below = (name: string, among = rows) => among.findIndex((row) => nameOf(row) === name) + 1
    assert.deepEqual(idsIn(apply(records, dropRows(records, rows, [item], below('Pier'))!), 'pier'), ['round', 'crane'])
    const folded = rowsOf(records, new Set([byId(records, 'place', 'pier')!.key]))
    assert.deepEqual(idsIn(apply(records, dropRows(records, folded, [item], below('Pier', folded))!), 'pier'), ['crane', 'round'])
    // Let go where it was, it has not moved.
    assert.isNull(dropRows(records, rows, [item], below('Depot')))
    assert.isNull(dropRows(records, rows, [item], 0))
  })

  it('never leave a source where only gates can stand', () => {
    const of = recordsOf({ ...file, anywhere: [{ id: 'notice', name: 'Notice', kind: 'ability' }, { id: 'poster', name: 'Poster', kind: 'ability' }] })
    const rows = rowsOf(of)
    const [crane, hatch] = ['Crane', 'Hatch'].map((name) => itemOf(rowOf(name, of))!)
    assert.isNull(dropRows(of, rows, [crane!], rows.length))
    assert.isNull(dropRows(of, rows, [hatch!, crane!], rows.length))
    assert.isNull(apply(of, dropRows(of, rows, [hatch!], rows.length)!).gate.get(hatch!.row.key)!.place)
    assert.isNull(moveRows(of, rows, [rowOf('Crane', of), rowOf('Notice', of)], 1))
    assert.isNotNull(moveRows(of, rows, [rowOf('Notice', of)], 1))
  })

  it('double: several at once, or a place with all that it holds', () => {
    const two = doubleRows(records, [rowOf('Depot'), rowOf('Round'), rowOf('Hatch')], line)!
    assert.deepEqual(idsIn(apply(records, two.diff), 'depot'), ['round', 'drifts', 'hatch', 'round_2', 'hatch_2'])
    const pier = apply(records, doubleRows(records, [rowOf('Pier')], line)!.diff)
    assert.deepEqual(idsIn(pier, 'pier_2'), ['crane_2'])
    assert.isNull(doubleRows(records, [], line))
  })

  it('go together with what they hold', () => {
    const without = apply(records, removeRows(records, [rowOf('Depot'), rowOf('Crane')])!)
    assert.deepEqual([without.source.size, without.gate.size, without.passage.size], [0, 0, 0])
    assert.deepEqual(inOrder(without, 'route')[0]!.stops, ['pier'])
    assert.isNull(removeRows(records, []))
  })
})

describe('what is entered', () => {
  const entered = (text: string, at: string | undefined) => {
    const row = at === undefined ? undefined : rowOf(at)
    const added = addEntry(records, readEntry(text, entryContext(records, entrySpot(records, row)?.place ?? null)), row, line)
    assert.property(added, 'diff', text)
    return apply(records, (added as { diff: Diff }).diff)
  }

  it('comes below the row that is chosen, at the end of a chosen place, or of the last one', () => {
    assert.deepEqual(idsIn(entered('2 kites 1 stamps', 'Round'), 'depot'), ['round', 'kites', 'drifts', 'hatch'])
    assert.deepEqual(idsIn(entered('2 kites 1 stamps', 'Depot'), 'depot'), ['round', 'drifts', 'hatch', 'kites'])
    assert.deepEqual(idsIn(entered('2 kites 1 stamps', undefined), 'pier'), ['crane', 'kites'])
  })

  it('makes a place the next one after the chosen one', () => {
    const after = entered('place Rock 4 min', 'Crane')
    assert.deepEqual(inOrder(after, 'route')[0]!.stops, ['depot', 'pier', 'rock', 'depot'])
  })

  it('bars the passage to a place that is named, from here', () => {
    assert.deepEqual(byId(entered('door Chain to Depot stamps >= 2', 'Crane'), 'gate', 'chain')!.guards, { passage: 'way' })
  })

  it('is given an id of its own', () => {
    assert.isDefined(byId(entered('2 round 1 stamps', 'Round'), 'source', 'round_2'))
  })

  it('needs a place', () => {
    const empty = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }] })
    const added = addEntry(empty, readEntry('2 kites 1 stamps', entryContext(empty, null)), undefined, null)
    assert.match((added as { says: string }).says, /type "place Harbour Depot" first/)
  })
})
