import { assert } from 'chai'
import fc from 'fast-check'
import { bulkFields, bulkOperations, changeNumbers, moveAll, setRoles, type BulkFieldName, type BulkOperation } from '../../../core/change/bulk.ts'
import { pasteColumn, setCurveValue } from '../../../core/change/curve-edits.ts'
import { apply, conflictsOf, equal, invert, type Diff } from '../../../core/change/diff.ts'
import { removeRecords, renameId, setFields } from '../../../core/change/edits.ts'
import { firstSteps } from '../../../core/change/first-steps.ts'
import { addGateOnPassage, addGateOnPlace, addPlaceBeside, turnOneWay } from '../../../core/change/map-edits.ts'
import { pasteRows } from '../../../core/change/paste-rows.ts'
import { putOver } from '../../../core/change/settle.ts'
import { shapeFault } from '../../../core/change/shape.ts'
import { replaceAll, replacements } from '../../../core/change/replace.ts'
import { withThreshold } from '../../../core/change/threshold.ts'
import { routeOfAllPlaces, usualPlayers } from '../../../core/change/what-is-checked.ts'
import { copyRows } from '../../../core/exchange/copy-rows.ts'
import { readEntry } from '../../../core/exchange/entry-line.ts'
import { readRows, readTable } from '../../../core/exchange/paste.ts'
import { withTallies } from '../../../core/exchange/paste-additions.ts'
import { readPlanValue, toFile } from '../../../core/plan/file.ts'
import { kindNames } from '../../../core/plan/kinds.ts'
import { inOrder, type ItemRow, type Records } from '../../../core/plan/records.ts'
import { anySample, newKeys } from '../../../core/testing/plans.ts'
import { runs } from '../../../core/testing/runs.ts'
import { pegsOf } from '../../../core/view/pegs.ts'
import { sheetRows, type SheetRow } from '../../../core/view/sheet.ts'
import { addEntry, cells, doubleRows, dropRows, editCell, entryContext, entrySpot, itemOf, moveRow, moveRows, removeRows, toggleRole } from './sheet-actions.ts'

/** Chooses what is done, and with what: the numbers that fast-check gave, one after another. */
class Choice {
  private next = 0
  constructor(private readonly numbers: readonly number[]) {}

  number(below: number): number {
    return this.numbers[this.next++ % this.numbers.length]! % Math.max(1, below)
  }

  of<T>(list: readonly T[]): T {
    return list[this.number(list.length)]!
  }
}

const newKey = newKeys()
const long = 'a very long name of a gate at the far end of the flats '.repeat(8)
const words = ['Gull Stair', '', ' ', long, '12 renown', '3-5 renown', '2 × 4 stamps', 'level >= 4 for 3 stamps', 'renown >= 99999999999999', '1e30 renown', '0.12345 stamps', '-3 stamps', 'hub · 4 min, goal', 'area 0.00001', 'lamp_glass >= 3 and renown >= 20', 'Ünicode · 名前', '5', '"quoted"\tand tabbed', 'place', 'door', '1000001 drift 1 renown', '99999999999999 renown']
const lines = ['12 hares 20 renown side', '3 × 1-4 stamps', 'door North hatch level >= 3 for 5 stamps', `place ${long}`, `door ${long} level >= 2`, 'place Gull Stair', 'place 42', `tally ${long} collectible`, 'tally level experience', '1000000 crates 1 renown', 'chest 0.5 stamps 3 min', 'stage Landing', 'cap Cap level >= 2', `${long} 3 renown`, '99999999999999 renown', 'door Ladder to Gull Stair level >= 3', `door X to ${long} level >= 2`, 'stage 42', 'place Gull Stair goal 4 min hub', `place ${long} goal`, 'place 名前', 'crates 2 × 4 xp if level >= 2 side', '3 crates 4 xp x3', '6 drift respawns if level >=', 'teas 1 stamps takes 2 renown respawns if taken(x)']
const amounts = [0, 0.5, 1, 1.3, 2, 1_000_000, 1e12, -1, 0.00004, -0.5]

interface Sheet {
  records: Records
  route: string | null
  rows: readonly SheetRow[]
  choice: Choice
}

function someItems({ rows, choice }: Sheet): ItemRow[] {
  const items = rows.map(itemOf).filter((item) => item !== null)
  const from = choice.number(items.length)
  return items.slice(from, from + 1 + choice.number(5)).filter((_, i) => i === 0 || choice.number(3) > 0)
}

function someRows({ rows, choice }: Sheet): SheetRow[] {
  const from = choice.number(rows.length)
  return rows.slice(from, from + 1 + choice.number(5))
}

/** Everything that can be done to the rows of the sheet, and beside it. */
const acts: Record<string, (sheet: Sheet) => Diff | null> = {
  edit({ records, rows, choice }) {
    const edited = editCell(records, choice.of(rows), choice.of(cells), choice.of(words))
    return 'diff' in edited ? edited.diff : null
  },
  enter({ records, rows, route, choice }) {
    const row = choice.of([undefined, ...rows])
    const place = row ? (itemOf(row)?.row.place ?? null) : null
    const added = addEntry(records, readEntry(choice.of(lines), entryContext(records, place)), row, route)
    return 'diff' in added ? added.diff : null
  },
  paste(sheet) {
    const { records, rows, choice } = sheet
    const spot = entrySpot(records, choice.of([undefined, ...rows]))
    const text = choice.of([copyRows(records, someItems(sheet)), lines.join('\n'), words.map((word) => `${word}\t${choice.of(words)}`).join('\n')])
    const context = entryContext(records, null)
    const table = readTable(choice.number(2) === 0 ? text : `place\tname\tXP\t${choice.of([...words, 'Ice marks', long, 'level'])}\tasks\n${words.map((word) => `${choice.of([...words, 'Landing'])}\t${word}\t4\t2-3\t${choice.of(['', 'level >= 2', 'ice_marks > 1'])}`).join('\n')}`, context)
    const whole = choice.number(2) === 0 ? withTallies(table, context) : table
    return spot && pasteRows(records, readRows(whole, context, { places: choice.number(2) === 0, tallies: choice.number(2) === 0 }), spot, sheet.route, newKey).diff
  },
  move: ({ records, rows, route, choice }) => moveRow(records, rows, choice.of(rows), choice.of([1, -1]), route),
  moveTogether: (sheet) => moveRows(sheet.records, sheet.rows, someRows(sheet), sheet.choice.of([1, -1])),
  drop: (sheet) => dropRows(sheet.records, sheet.rows, someItems(sheet), sheet.choice.number(sheet.rows.length + 1)),
  double: (sheet) => doubleRows(sheet.records, someRows(sheet), sheet.route)?.diff ?? null,
  doubleOne: ({ records, rows, route, choice }) => doubleRows(records, [choice.of(rows)], route)?.diff ?? null,
  remove: (sheet) => (sheet.choice.number(3) === 0 ? removeRows(sheet.records, someRows(sheet)) : null),
  role: ({ records, rows, choice }) => toggleRole(records, choice.of(rows)),
  roles: (sheet) => setRoles(someItems(sheet), sheet.choice.of(['main', 'side'])),
  moveTo(sheet) {
    const places = inOrder(sheet.records, 'place')
    return places.length ? moveAll(sheet.records, someItems(sheet), sheet.choice.of(places)) : null
  },
  numbers(sheet) {
    const { records, choice } = sheet
    return changeNumbers(records, someItems(sheet), choice.of(Object.keys(bulkFields) as BulkFieldName[]), choice.of(Object.keys(bulkOperations) as BulkOperation[]), choice.of(amounts))
  },
  peg({ records, choice }) {
    const gates = [...records.gate.values()].filter((gate) => pegsOf(gate, 'postmaster').length)
    if (!gates.length) return null
    const gate = choice.of(gates)
    const asked = withThreshold(gate, choice.of(pegsOf(gate, 'postmaster')), choice.of(amounts))
    return asked && setFields(records, 'gate', gate.key, asked, 'dragged')
  },
  replace({ records, choice }) {
    const options = { find: choice.of(['a', 'place', 'Road', '1', 'renown']), by: choice.of(['', 'Zz', long, '9', 'level']), matchCase: choice.number(2) === 0, names: true, ids: choice.number(2) === 0 }
    return replaceAll(records, replacements(records, options), 'replaced')
  },
  rename({ records, choice }) {
    const kind = choice.of(kindNames)
    const rows = inOrder(records, kind)
    return rows.length ? renameId(records, kind, choice.of(rows).key, `renamed_${newKey()}`) : null
  },
  delete({ records, choice }) {
    const kind = choice.of(kindNames)
    const rows = inOrder(records, kind)
    return rows.length && choice.number(3) === 0 ? removeRecords(records, [{ kind, key: choice.of(rows).key }]) : null
  },
  map({ records, choice }) {
    const [places, passages] = [[...records.place.keys()], [...records.passage.keys()]]
    if (!places.length || !passages.length) return null
    return choice.of([
      () => addPlaceBeside(records, { place: newKey(), passage: newKey() }, choice.of([null, ...places])),
      () => addGateOnPassage(records, newKey(), choice.of(passages)),
      () => addGateOnPlace(records, newKey(), choice.of(places)),
      () => turnOneWay(records, choice.of(passages)),
    ])()
  },
  curve({ records, choice }) {
    const curves = inOrder(records, 'curve')
    if (!curves.length) return null
    const curve = choice.of(curves)
    const level = curve.firstLevel + choice.number(curve.maxLevel - curve.firstLevel)
    return choice.number(2) ? setCurveValue(records, curve, level, 120.5) : pasteColumn(records, curve, [10, 20, 30.25], level)
  },
  begin: ({ records, route, choice }) =>
    firstSteps(records, { tally: choice.of(words), character: choice.of(words), base: 100, factor: 1.1, add: 5, levels: 20 }, choice.of(words), { tally: newKey(), curve: newKey(), character: newKey(), place: newKey(), passage: newKey() }, route),
  route: ({ records, route }) => routeOfAllPlaces(records, route, newKey),
  players: ({ records }) => usualPlayers(records, newKey),
}

/** Acts of which the page says, before they are done, that they cannot be. */
const refusable = new Set(['numbers', 'peg', 'replace', 'begin', 'curve'])

/** What comes of an act, chosen by these numbers; null: nothing. */
function acted(records: Records, [act, numbers]: Done): Diff | null {
  const route = inOrder(records, 'route')[0]?.key ?? null
  const rows = sheetRows(records, route, new Set())
  const diff = rows.length ? acts[act]!({ records, route, rows, choice: new Choice(numbers) }) : null
  // What no plan can hold is refused with a sentence before it is done; only deliberate numbers and names can come to that.
  return diff && refusable.has(act) && shapeFault(records, diff) ? null : diff
}

type Done = [act: string, numbers: number[]]
const anyDone: fc.Arbitrary<Done> = fc.tuple(fc.constantFrom(...Object.keys(acts)), fc.array(fc.nat(10_000), { minLength: 12, maxLength: 12 }))

function assertCanBeHeld(records: Records, after: string): void {
  const read = readPlanValue(JSON.parse(JSON.stringify(toFile(records))))
  assert.isTrue(read.ok, `${after}: ${JSON.stringify(read.ok ? '' : read.issues.slice(0, 2))}`)
  const items = [...records.source.values(), ...records.gate.values()]
  assert.isEmpty(items.filter(({ place }) => place !== null && !records.place.has(place)), `${after}: rows in no place`)
}

describe('whatever is done in the sheet', () => {
  it('leaves a plan that its file can hold, and is undone whole', () => {
    fc.assert(fc.property(anySample, fc.array(anyDone, { minLength: 1, maxLength: 8 }), (sample, done) => {
      let records = sample
      for (const one of done) {
        const diff = acted(records, one)
        if (!diff) continue
        const after = apply(records, diff)
        assertCanBeHeld(after, `${one[0]}: ${diff.name}`)
        assert.isTrue(equal(toFile(apply(after, invert(diff))), toFile(records)), `${diff.name} is not undone`)
        records = after
      }
    }), { numRuns: runs(50) })
  })

  it('goes together with what another window does meanwhile, or is put over it', () => {
    fc.assert(fc.property(anySample, fc.array(fc.tuple(anyDone, anyDone), { minLength: 1, maxLength: 5 }), (sample, rounds) => {
      let records = sample
      for (const both of rounds) {
        const [theirs, mine] = both.map((one) => acted(records, one))
        if (theirs) records = apply(records, theirs)
        if (!mine) continue
        const settled = putOver(records, mine, conflictsOf(records, mine))
        assert.deepEqual(conflictsOf(records, settled), [], `${theirs?.name}, then ${mine.name}`)
        records = apply(records, settled)
        assertCanBeHeld(records, `${theirs?.name}, then ${mine.name}`)
      }
    }), { numRuns: runs(50) })
  })
})
