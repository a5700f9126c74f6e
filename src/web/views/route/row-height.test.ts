import { assert } from 'chai'
import fc from 'fast-check'
import { smallPlan } from '../../../core/testing/plans.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { heightsAt, rowHeights, type HeightContext } from './row-height.ts'
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
  const place = { type: 'place', id: 'quay', place: { key: 'quay', id: 'quay', name: 'Quay' }, stop: 0, again: false, folded: false, items: 3 } as unknown as SheetRow
  const sumsOf = (...tallies: string[]) => ({ ...context(440), sums: new Map([['quay', tallies.map((tally) => ({ tally, main: 12_345, side: 0, varies: false }))]]) })

  it('follow what they sum up, though their row is the same', () => {
    const [few, many] = [sumsOf('renown'), sumsOf('renown', 'whale_oil', 'drift_hares', 'lantern_moths', 'ferry_stamps', 'coins')]
    const before = rowHeights([place], few)
    assert.isAbove(rowHeights([place], many, before).heights[0]!, before.heights[0]!)
    assert.equal(rowHeights([place], few, rowHeights([place], many)).heights[0], before.heights[0])
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
