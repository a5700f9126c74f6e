import { assert } from 'chai'
import type { GateResult, Verdict } from '../check/result.ts'
import { railMarks, railY } from './rail.ts'
import type { GateRow } from './sheet.ts'

/** Gates in every `each`th row, with their verdicts. */
function marksOf(verdicts: (Verdict | null)[], { each = 2, height = 600 } = {}) {
  const gates = verdicts.map((_, i) => ({ row: i * each, gate: { id: `g${i}` } }) as GateRow)
  const results = new Map(verdicts.flatMap((verdict, i) => (verdict ? [[`g${i}`, { verdict } as GateResult] as const] : [])))
  return railMarks(gates, results, verdicts.length * each, height)
}
const many = (of: (i: number) => Verdict | null, n = 4_000) => marksOf(Array.from({ length: n }, (_, i) => of(i)))

describe('marks of the rail', () => {
  it('are one for each gate where there are few', () => {
    assert.deepEqual(marksOf(['clear', 'short', null]).map(({ row, verdict }) => [row, verdict]), [[0, 'clear'], [2, 'short'], [4, 'off_route']])
  })

  it('stand within the rail, in the order of the rows', () => {
    const ys = marksOf(['clear', 'clear', 'clear', 'clear'], { height: 100 }).map(({ y }) => y)
    assert.deepEqual(ys, [4, 27, 50, 73])
    assert.deepEqual([railY(0, 10, 100), railY(10, 10, 100), railY(0, 0, 100)], [4, 96, 4])
  })

  it('are those in trouble alone where there are many, and none before it is known', () => {
    assert.deepEqual(many(() => null), [])
    assert.deepEqual(many((i) => (i === 1_000 ? 'depends' : i % 2 ? 'clear' : 'off_route')).map(({ row, verdict }) => [row, verdict]), [[2_000, 'depends']])
  })

  it('stand for several where they would run into each other, with the worst verdict of them', () => {
    const marks = many((i) => (i === 7 ? 'sealed' : i % 2 ? 'short' : 'depends'))
    assert.isBelow(marks.length, 200)
    assert.equal(marks[0]!.verdict, 'sealed')
    assert.isTrue(marks.slice(1).every(({ verdict }) => verdict === 'short'))
    marks.slice(1).forEach(({ y }, i) => assert.isAtLeast(y - marks[i]!.y, 3))
  })
})
