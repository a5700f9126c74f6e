import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../../../core/change/diff.ts'
import { setFields } from '../../../core/change/edits.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { smallPlan } from '../../../core/testing/plans.ts'
import { placeSums } from '../../../core/view/place-sums.ts'
import { sheetRows, type SheetRow } from '../../../core/view/sheet.ts'
import { heightsAt, rowHeights, type HeightContext, type Heights } from './row-height.ts'
import { linesOf } from './text-width.ts'

const [lines, letter] = [15, 7]
const records = smallPlan()
const context = (textWidth: number, fonts = 0): HeightContext => ({ records, sums: new Map(), textWidth, fonts })
let made = 0

/** A row of a source whose name has so many letters. */
function row(letters: number): SheetRow {
  const key = `s${made++}`
  return { type: 'source', key, source: { key, id: key, name: 'ab '.repeat(letters), kind: 'event', pattern: null, requires: '', count: 1, yields: [], takes: [], caps: [] } } as unknown as SheetRow
}

describe('heights of rows', () => {
  it('are as many lines as a name takes', () => {
    const { heights } = rowHeights([row(1), row(40)], context(400))
    assert.isAbove(heights[1]!, heights[0]! + 2 * lines)
    assert.equal((heights[1]! - heights[0]!) % lines, 0)
  })

  it('are those of rows measured anew, whatever was added, taken away or changed before', () => {
    const anyRows = fc.array(fc.integer({ min: 1, max: 60 }), { maxLength: 12 })
    fc.assert(fc.property(anyRows, anyRows, fc.nat(12), fc.nat(4), fc.constantFrom(300, 300, 420), fc.constantFrom(0, 0, 1), (first, added, at, gone, width, fonts) => {
      const rows = first.map(row)
      const before = rowHeights(rows, context(300))
      const after = [...rows]
      after.splice(at, gone, ...added.map(row))
      assert.deepEqual([...rowHeights(after, context(width, fonts), before).heights], [...rowHeights(after, context(width, fonts)).heights])
    }))
  })
})

describe('heights of places', () => {
  const ids = ['whale_oil', 'drift_hares', 'lantern_moths', 'ferry_stamps', 'lamp_glass']
  const yields = ids.map((tally) => ({ tally, min: 12_345, max: 12_345 }))
  const plan = smallPlan({
    tallies: ids.map((id) => ({ id, name: id, kind: 'collectible' })),
    places: ['depot', 'pier'].map((id) => ({ id, name: id, kind: 'area', contents: [{ source: { id: `${id}_round`, name: 'Round', kind: 'quest', yields: yields.slice(0, 1) } }] })),
  })
  const heightsOf = (of: Records, before?: Heights) => rowHeights(sheetRows(of, inOrder(of, 'route')[0]!.key, new Set()), { records: of, sums: placeSums(of), textWidth: 440, fonts: 0 }, before)

  it('follow what their sources give in all', () => {
    const { key } = inOrder(plan, 'source')[0]!
    const before = heightsOf(plan)
    const given = apply(plan, setFields(plan, 'source', key, { yields } as never, 'more'))
    const after = heightsOf(given, before)
    assert.isAbove(after.heights[0]!, before.heights[0]!)
    assert.deepEqual([...after.heights], [...heightsOf(given).heights])
    assert.deepEqual([...heightsOf(plan, after).heights], [...before.heights])
  })
})

describe('heights of rows that are found', () => {
  it('are those that they have among all, and those of rows that have changed are measured', () => {
    const all = [row(1), row(40), row(5), row(60)].map((one, i) => ({ ...one, id: `row ${i}` }))
    const measured = rowHeights(all, context(400))
    assert.deepEqual([...heightsAt(measured, [1, 3])], [measured.heights[1], measured.heights[3]])
    assert.strictEqual(heightsAt(measured, null), measured.heights)
    const changed = { ...row(80), id: 'row 2' }
    const [first, second, third] = heightsAt(rowHeights([all[0]!, all[1]!, changed, all[3]!], context(400), measured), [0, 2, 3])
    assert.deepEqual([first, third], [measured.heights[0], measured.heights[3]])
    assert.equal(second, rowHeights([changed], context(400)).heights[0])
  })
})

describe('lines of a text', () => {
  it('break between words, and within a word that is longer than a line', () => {
    assert.equal(linesOf('', 10 * letter, 'x'), 1)
    assert.equal(linesOf('drift hare', 10 * letter, 'x'), 1)
    assert.equal(linesOf('drift hare', 9 * letter, 'x'), 2)
    assert.equal(linesOf('drift hares run', 10 * letter, 'x'), 2)
    assert.equal(linesOf('lamplighters', 5 * letter, 'x'), 3)
    assert.equal(linesOf('a lamplighters b', 5 * letter, 'x'), 5)
  })
})
