import { assert } from 'chai'
import { scaleLinear } from 'd3-scale'
import type { DrawnLane } from './lane-scale.ts'
import { ThreadRuns } from './thread-runs.ts'

const lane = (id: string, left = 0) => ({ id, left, width: 100, scale: scaleLinear([0, 50], [left, left + 100]) }) as unknown as DrawnLane
const thread = (row: number, to: number, at: number, reached = true) => ({ row, to, at, reached })

describe('threads in the lanes', () => {
  it('begin, pass and end in the rows that they run through', () => {
    const runs = new ThreadRuns()
    runs.add(lane('level a'), thread(3, 6, 10))
    assert.deepEqual([2, 3, 5, 6, 7].map((row) => runs.at(row).length), [0, 1, 1, 1, 0])
    assert.deepEqual(runs.at(3), [{ x: 20, row: 3, to: 6, reached: true }])
  })

  it('are one where they run over each other, and apart where they do not', () => {
    const runs = new ThreadRuns()
    for (const one of [thread(1, 5, 10), thread(2, 5, 10), thread(4, 9, 10.1, false), thread(20, 22, 10), thread(3, 5, 30)]) runs.add(lane('level a'), one)
    runs.add(lane('tally b', 200), thread(4, 5, 10))
    assert.deepEqual(runs.at(4).map(({ x, row, to, reached }) => [x, row, to, reached]), [[20, 1, 9, false], [60, 3, 5, true], [220, 4, 5, true]])
    assert.deepEqual(runs.at(21).map(({ row }) => row), [20])
  })

  it('are no more than there is room for, however many gates wait', () => {
    const runs = new ThreadRuns()
    for (let row = 0; row < 5_000; row++) runs.add(lane('level a'), thread(row, 5_000, (row * 7) % 50, false))
    assert.isAtMost(runs.at(4_999).length, 101)
  })

  it('are not drawn outside of what is shown of the lane', () => {
    const runs = new ThreadRuns()
    for (const at of [-1, 51, 400]) runs.add(lane('level a'), thread(1, 5, at))
    assert.deepEqual(runs.at(2), [])
  })

  it('are the same list again in rows in which nothing has changed', () => {
    const first = new ThreadRuns()
    for (const one of [thread(1, 5, 10), thread(7, 9, 20)]) first.add(lane('level a'), one)
    const [row2, row8] = [first.at(2), first.at(8)]
    const second = new ThreadRuns(first)
    for (const one of [thread(1, 5, 10), thread(7, 10, 20)]) second.add(lane('level a'), one)
    assert.strictEqual(second.at(2), row2)
    assert.notStrictEqual(second.at(8), row8)
    assert.strictEqual(second.at(6), second.at(12))
  })
})
