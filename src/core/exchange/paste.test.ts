import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../change/diff.ts'
import { pasteRows } from '../change/paste-rows.ts'
import { byId, contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'
import { wholeFrom } from '../plan/source.ts'
import { compile } from '../rules/compile.ts'
import { PlanIndex } from '../rules/plan-index.ts'
import { anySample, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { copyRows } from './copy-rows.ts'
import type { EntryContext } from './entry-line.ts'
import { isItem, namedTallies, pasteSummary, readRows, readTable } from './paste.ts'
import { placesToCome, talliesToCome, withTallies } from './paste-additions.ts'

const records = smallPlan({
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 5 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
})

function contextOf(of: Records): EntryContext {
  return { tallies: inOrder(of, 'tally'), vocabulary: new PlanIndex(of).vocabulary, places: inOrder(of, 'place'), waysOut: [], patterns: inOrder(of, 'pattern'), freeGates: [] }
}
const context = contextOf(records)

function table(...lines: string[][]): string {
  return lines.map((cells) => cells.join('\t')).join('\r\n')
}
const pasted = (text: string, places = false) => readRows(readTable(text, context), context, { places })
const read = (text: string) => pasted(text).rows
const faults = (text: string) => read(text).flatMap((row) => (row.ok ? [] : [`${row.line}: ${row.says}`]))

describe('a pasted table', () => {
  it('is read by its headings, in any order, with a column for each tally', () => {
    const text = table(['Stamps', 'Name', 'Count', 'Renown', 'Role', 'Remarks'], ['2', 'Round', '', '60', '', 'first'], ['', 'Drifts', '6', '18', 'side', ''])
    assert.deepEqual(readTable(text, context).roles, ['tally stamps', 'name', 'count', 'tally renown', 'role', 'ignore'])
    const [round, drifts] = read(text)
    assert.deepInclude(round, { ok: true, kind: 'source', line: 2 })
    assert.deepInclude((round as { record: object }).record, { name: 'Round', count: 1, role: 'main', yields: [{ tally: 'stamps', min: 2, max: 2 }, { tally: 'renown', min: 60, max: 60 }] })
    assert.deepInclude((drifts as { record: object }).record, { count: 6, role: 'side', yields: [{ tally: 'renown', min: 18, max: 18 }] })
  })

  it('is understood without headings by what its cells look like', () => {
    assert.deepEqual(readTable(table(['Round', '1', '60', 'renown'], ['Drifts', '6', '18', 'renown']), context).roles, ['name', 'count', 'amount', 'of tally'])
    assert.deepEqual(readTable(table(['Hatch', 'level >= 2', 'main'], ['Shop', 'level >= 3', 'side']), context).roles, ['name', 'asks', 'role'])
    assert.deepEqual(readTable(table(['Round', '60']), context).roles, ['name', 'tally renown'])
    assert.deepEqual(readTable('12 hares 20 renown\n3 kites 5 renown', context).roles, ['line'])
    assert.deepEqual(readTable(table(['Depot', 'Round', '4 × 15 renown']), context).roles, ['place', 'name', 'gives'])
    assert.deepEqual(readTable(table(['Round', '15 renown', '4'], ['Drifts', '6 renown', '3']), context).roles, ['name', 'gives', 'count'])
    assert.deepEqual(readTable(table(['Round', '15 renown', '4'], ['Drifts', '2x 6 renown', '3']), context).roles, ['name', 'gives', 'minutes'])
    assert.deepEqual(readTable(table(['Round', '4', '2 × 15 renown']), context).roles, ['name', 'minutes', 'gives'])
  })

  it('takes numbers as a spreadsheet shows them, and says which it does not', () => {
    const cells = table(['Round', '1,200', '−1,500', 'stamps'], ['Drifts', '6', '2 – 4', 'stamps'])
    assert.deepEqual(readTable(cells, context).roles, ['name', 'count', 'amount', 'of tally'])
    const rows = read(table(['name', 'count', 'stamps', 'minutes'], ['Round', '1,200', '−1,500', '1,000 min'], ['Drifts', '6', '2 – 4', ''], ['Kites', '1,5', '3', ''], ['Letters', '1', '12,5', '']))
    assert.deepEqual(rows.map((row) => (isItem(row) ? [(row.record as { count: number }).count, (row.record as { yields: { min: number; max: number }[] }).yields.map(({ min, max }) => [min, max])] : row.says)), [
      [1200, [[-1500, -1500]]], [6, [[2, 4]]], '"1,5" is no count: a count is a whole number between 1 and 1,000,000', '"12,5" is no amount: a number, or a range such as 4-7',
    ])
    assert.deepInclude((rows[0] as { record: object }).record, { minutes: 1000 })
  })

  it('has gates where a line asks for something and gives nothing', () => {
    const rows = read(table(['name', 'asks for', 'costs', 'gives', 'kind'], ['Hatch', 'level >= 2', '5 stamps', '', ''], ['Letter', 'level >= 2', '', '40 renown', ''], ['Oil', '', '', '', 'shop item']))
    assert.deepEqual(rows.map((row) => row.ok && row.kind), ['gate', 'source', 'gate'])
    assert.deepInclude((rows[0] as { record: object }).record, { kind: 'door', requires: 'level >= 2', costs: [{ tally: 'stamps', amount: 5 }] })
    assert.deepInclude((rows[2] as { record: object }).record, { kind: 'shop_item' })
  })

  it('finds the names in the first column of words whose heading says nothing, and leaves out the others', () => {
    const roles = (...lines: string[][]) => readTable(table(...lines), context).roles
    assert.deepEqual(roles(['zone', 'priority', 'letter', 'designer', 'qty', 'XP'], ['Depot', '1', 'Kites', 'M.', '3', '12'], ['Depot', '2', 'Oil', 'M.', '1', '5']), ['place', 'ignore', 'name', 'ignore', 'count', 'tally renown'])
    assert.deepEqual(roles(['name', 'letter', 'XP'], ['Kites', 'Oil', '3']), ['name', 'ignore', 'tally renown'])
  })

  it('takes conditions behind "if", as cells are copied, and XP as a heading', () => {
    const rows = read(table(['name', 'gives', 'XP', 'asks'], ['Kites', '2 stamps if stamps >= 3', '12', ''], ['Oil', '1 stamps', '5', 'stamps >= 4'], ['Twice', '1 stamps if stamps >= 3', '5', 'stamps >= 4']))
    assert.deepInclude((rows[0] as { record: object }).record, { requires: 'stamps >= 3', yields: [{ tally: 'stamps', min: 2, max: 2 }, { tally: 'renown', min: 12, max: 12 }] })
    assert.deepInclude((rows[1] as { record: object }).record, { requires: 'stamps >= 4' })
    assert.match(rows[2]!.says, /its condition stands twice/)
  })

  it('says of every line that it does not understand why, with its number', () => {
    const text = table(['name', 'place', 'count', 'amount', 'tally', 'role', 'kind', 'asks'],
      ['Round', 'Depot', '1', '60', 'renown', 'main', '', ''], ['', '', '1', '5', 'renown', '', '', ''], ['Far', 'Moon', '1', '5', 'renown', '', '', ''],
      ['Bad', '', '0', '5', 'renown', '', '', ''], ['Bad', '', '1', 'many', 'renown', '', '', ''], ['Bad', '', '1', '5', 'renwon', '', '', ''],
      ['Bad', '', '1', '5', 'renown', 'often', '', ''], ['Bad', '', '1', '5', 'renown', '', 'dragon', ''], ['Bad', '', '', '', '', '', '', 'levl > 3'])
    assert.deepEqual(faults(text), [
      '3: there is no name in this line',
      '4: there is no place "Moon": let it be added, or the column be left out',
      '5: "0" is no count: a count is a whole number between 1 and 1,000,000',
      '6: "many" is no amount: a number, or a range such as 4-7',
      '7: "renwon" is no tally; did you mean renown',
      '8: "often" is neither main nor side',
      '9: "dragon" is no kind; there are: enemy, quest, pickup, event, production, door, area, shop item, stage, form, ability, cap',
      '10: column 1: "levl" is no tally of this plan; did you mean level?',
    ])
    assert.equal(pasteSummary(read(text)), '1 row understood, 8 lines not')
  })

  it('asks which count is meant where a line has two', () => {
    const rows = read(table(['name', 'gives', 'count'], ['Drifts', '4 × 18 renown', '6'], ['Round', '4 × 18 renown', '4'], ['Kites', '18 renown', '6'], ['Letters', '4 × 18 renown', '']))
    assert.deepEqual(rows.map((row) => (row.ok && row.kind === 'source' ? (row.record as { count: number }).count : row.says)), ['how many are there, 4 or 6? One count is enough', 4, 6, 4])
  })

  it('can be read otherwise: a column is what it is said to be', () => {
    const guessed = readTable(table(['Round', '3', '60'], ['Drifts', '6', '18']), context)
    assert.deepEqual(guessed.roles, ['name', 'count', 'tally renown'])
    const { rows: [row] } = readRows({ ...guessed, roles: ['name', 'minutes', 'tally stamps'] }, context)
    assert.deepInclude((row as { record: object }).record, { count: 1, minutes: 3, yields: [{ tally: 'stamps', min: 60, max: 60 }] })
  })

  const route = inOrder(records, 'route')[0]!.key
  const newKeys = () => {
    let n = 0
    return () => `k${n++}`
  }
  const afterPaste = (text: string, addsPlaces: boolean) => {
    const spot = { place: inOrder(records, 'place')[0]!.key, after: null }
    const { diff } = pasteRows(records, pasted(text, addsPlaces), spot, route, newKeys())
    const after = apply(records, diff)
    const rowsOf = ({ key, name, kind, minutes, goal }: Row<'place'>) => [name, kind, minutes, goal, ...(contentsByPlace(after).get(key) ?? []).map(({ row }) => row.name)]
    return { name: diff.name, after, places: inOrder(after, 'place').map(rowsOf) }
  }

  it('adds places that are not there yet, as the next stops, where it is let', () => {
    const text = table(['place', 'name', 'renown', 'kind', 'asks'], ['Moon', 'Round', '60', '', ''], ['Depot', 'Kites', '5', '', ''], ['Moon', 'Hatch', '', 'door', 'level >= 2'], ['Rock', 'Letters', '7', '', ''], ['moon', 'Oil', '2', '', ''])
    assert.deepEqual(placesToCome(readTable(text, context), context), ['Moon', 'Rock'])
    assert.equal(faults(text).length, 4)
    const { name, after, places } = afterPaste(text, true)
    assert.equal(name, 'paste 5 rows and 2 places')
    assert.deepEqual(places, [['Depot', 'area', 0, false, 'Kites'], ['Moon', 'area', 0, false, 'Round', 'Hatch', 'Oil'], ['Rock', 'area', 0, false, 'Letters']])
    assert.deepEqual(inOrder(after, 'route')[0]!.stops, ['depot', 'moon', 'rock'])
    assert.deepEqual(inOrder(after, 'passage').map(({ from, to }) => [from, to]), [['depot', 'moon'], ['moon', 'rock']])
  })

  it('adds tallies for columns of amounts that no heading explains, where it is let', () => {
    const text = table(['name', 'XP', 'Ice marks', 'level', 'notes', 'asks', 'costs'], ['Kites', '12', '2-4', '1', '7', '', ''], ['Letters', '5', '1,200 to 1,300', '2', '8', '', ''], ['Hatch', '', '', '', '', 'ice_marks >= 3', '5 ice marks'])
    const plain = readTable(text, context)
    assert.deepEqual(plain.roles, ['name', 'tally renown', 'ignore', 'ignore', 'ignore', 'asks', 'costs'])
    assert.deepEqual(talliesToCome(plain), [{ column: 2, name: 'Ice marks' }, { column: 3, name: 'level' }])
    assert.lengthOf(faults(text), 1)
    const whole = withTallies(plain, context)
    assert.deepEqual(whole.tallies.map(({ id, name, kind }) => [id, name, kind]), [['ice_marks', 'Ice marks', 'collectible'], ['level_2', 'level', 'collectible']])
    const spot = { place: inOrder(records, 'place')[0]!.key, after: null }
    const { diff } = pasteRows(records, readRows(whole, context), spot, route, newKeys())
    assert.equal(diff.name, 'paste 3 rows and 2 tallies')
    const after = apply(records, diff)
    assert.deepEqual(byId(after, 'source', 'letters')!.yields!.map(({ tally, max }) => [tally, max]), [['renown', 5], ['ice_marks', 1300], ['level_2', 2]])
    assert.deepInclude(byId(after, 'gate', 'hatch'), { requires: 'ice_marks >= 3', costs: [{ tally: 'ice_marks', amount: 5 }] })
    assert.deepEqual(compile(after).issues, [])
  })

  it('has headings where one is that of names, and none where a cell happens to be a known word', () => {
    assert.deepEqual(readTable(table(['name', 'Gold', 'Gems'], ['Kites', '2', '3']), context).headings, ['name', 'Gold', 'Gems'])
    assert.isNull(readTable(table(['Kites', 'event'], ['Letters', 'quest']), context).headings)
  })

  it('takes lines as they are typed, places among them: what follows comes there', () => {
    const lines = ['6 kites 2 renown', 'door Hatch level >= 2', 'place Moon hub 7 min', '3 drifts 5 renown', 'place Rock goal', 'place Depot', 'Letters 9 renown', 'place Moon', 'Oil 1 stamps']
    const { name, after, places } = afterPaste(lines.join('\n'), false)
    assert.equal(name, 'paste 5 rows and 2 places')
    assert.deepEqual(places, [['Depot', 'area', 0, false, 'kites', 'Hatch', 'Letters'], ['Moon', 'hub', 7, false, 'drifts', 'Oil'], ['Rock', 'area', 0, true]])
    assert.isNull(byId(after, 'gate', 'hatch')!.guards)
    assert.deepEqual(byId(afterPaste(lines.slice(0, 4).join('\n'), false).after, 'gate', 'hatch')!.guards, { passage: 'depot_to_moon' })
  })

  it('takes lines that ask for tallies, and lets in those that other lines name', () => {
    const lines = ['tally Ice marks flag', 'tally Renown experience', '6 kites 2 ice_marks', '3 drifts 5 seal oil, 1 moth wing', 'shop Boots for 9 coins', 'door Hatch moth_wing >= 2', 'Letters 9 coins', 'Odd 3 stamps takes 2 crumbs and often', 'Slip 20 renwon']
    const known = readTable(lines.join('\n'), context)
    const told = ({ rows, tallies }: ReturnType<typeof readRows>) => [rows.map((row) => row.ok), tallies.map(({ id, kind }) => `${id} ${kind}`)]
    const plain = readRows(known, context)
    assert.deepEqual(told(plain), [[true, true, true, false, false, false, false, false, false], ['ice_marks flag']])
    assert.match(plain.rows[1]!.says, /Renown is there already/)
    const whole = readRows(known, context, { tallies: true })
    assert.deepEqual(told(whole), [[true, true, true, true, true, true, true, false, false], ['ice_marks flag', 'seal_oil collectible', 'moth_wing collectible', 'coins currency']])
    assert.deepEqual(namedTallies(whole).map(({ name }) => name), ['Seal oil', 'Moth wing', 'Coins'])
    const after = apply(records, pasteRows(records, whole, { place: inOrder(records, 'place')[0]!.key, after: null }, route, newKeys()).diff)
    assert.deepEqual(compile(after).issues, [])
    assert.deepEqual(byId(after, 'source', 'drifts')!.yields!.map(({ tally }) => tally), ['seal_oil', 'moth_wing'])
    assert.deepEqual(byId(after, 'gate', 'boots')!.costs, [{ tally: 'coins', amount: 9 }])
  })

  it('lets a tally in only while some column is one of amounts of it', () => {
    const whole = withTallies(readTable(table(['name', 'renown', 'Ice marks'], ['Kites', '12', '2']), context), context)
    assert.lengthOf(readRows(whole, context, { tallies: true }).tallies, 1)
    assert.lengthOf(readRows({ ...whole, roles: ['name', 'tally renown', 'ignore'] }, context, { tallies: true }).tallies, 0)
  })

  it('is added as one step, after the spot, under ids of its own', () => {
    const place = inOrder(records, 'place')[0]!
    let n = 0
    const once = pasteRows(records, pasted(table(['Round', '60'], ['Round', '70'], ['Kites', '80'])), { place: place.key, after: null }, null, () => `k${n++}`)
    const next = apply(records, once.diff)
    assert.equal(once.diff.name, 'paste 3 rows')
    assert.deepEqual(contentsByPlace(next).get(place.key)!.map(({ row }) => row.id), ['round', 'round_2', 'kites'])
    const twice = apply(next, pasteRows(next, pasted(table(['Round', '5'])), { place: place.key, after: once.keys[0]! }, null, () => `k${n++}`).diff)
    assert.deepEqual(contentsByPlace(twice).get(place.key)!.map(({ row }) => row.id), ['round', 'round_3', 'round_2', 'kites'])
  })

  it('is what was copied, whatever the plan', () => {
    fc.assert(fc.property(anySample, (sample) => {
      const items = [...contentsByPlace(sample).values()].flat()
      const own = contextOf(sample)
      const { rows } = readRows(readTable(copyRows(sample, items), own), own)
      const wholeOf = wholeFrom(inOrder(sample, 'pattern'))
      const told = ({ kind, row }: ItemRow) => [kind, row.name, row.role, kind === 'gate' ? [row.requires, row.costs, row.lockedText] : [row.count, row.requires, wholeOf(row).respawns]]
      assert.deepEqual(rows.map((row) => (isItem(row) ? [row.kind, row.record.name, row.record.role, row.kind === 'gate' ? [row.record.requires, row.record.costs, row.record.lockedText] : [row.record.count, row.record.requires, row.record.respawns]] : row.says)), items.map(told))
    }), { numRuns: runs(40) })
  })
})
