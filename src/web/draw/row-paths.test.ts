import { assert } from 'chai'
import type { ShownLine, LanePoint } from '../../core/view/lanes.ts'
import { drawnLane, type LaneInput } from './lane-scale.ts'
import { rowPaths } from './row-paths.ts'

const height = 40
const point = (fields: Partial<LanePoint>): LanePoint => ({ from: 0, to: 0, low: 0, high: 0, least: 0, most: 0, limit: null, isAbout: false, lost: 0, ...fields })
const sure = (from: number, to: number, fields: Partial<LanePoint> = {}) => point({ from, to, low: to, high: to, least: to, most: to, ...fields })
const lineOf = (points: (LanePoint | null)[]) => ({ at: (row: number) => points[row] ?? null }) as ShownLine

/** A lane in which one unit is one pixel, and nothing stands 14 pixels from its left. */
const lane = (points: (LanePoint | null)[], fields: Partial<LaneInput> = {}) =>
  drawnLane({ id: 'tally stamps', name: 'Stamps', line: lineOf(points), low: 0, high: 100, left: 0, width: 128, wide: false, levels: null, others: [], zoom: null, ...fields })

describe('what lanes draw in a row', () => {
  it('goes down the row, over to what the row leaves, and on down', () => {
    const { narrow, wide, bounds, band, walls, others, lost } = rowPaths([lane([sure(0, 0), sure(0, 30)])], 1, height)
    assert.equal(narrow, 'M14 0V10L44 30V40')
    assert.deepEqual([wide, bounds, band, walls, others], ['', '', '', '', ''])
    assert.isEmpty(lost)
    assert.equal(rowPaths([lane([sure(7, 7)])], 0, height).narrow, 'M21 0V40', 'a row that changes nothing')
  })

  it('draws narrow lanes as one path, and the wide one as another', () => {
    const { narrow, wide } = rowPaths([lane([sure(1, 1)], { wide: true }), lane([sure(2, 2)], { left: 128 }), lane([sure(3, 3)], { left: 256 })], 0, height)
    assert.equal(wide, 'M15 0V40')
    assert.equal(narrow, 'M144 0V40M273 0V40')
  })

  it('leaves out lanes to which the route does not come there, and draws the others', () => {
    const { narrow } = rowPaths([lane([null]), lane([sure(5, 5)], { left: 128 }), lane([], { line: null, left: 256 })], 0, height)
    assert.equal(narrow, 'M147 0V40')
  })

  it('joins its areas to those of the row above, and draws none without a width', () => {
    const uncertain = [point({ to: 10, low: 8, high: 12, least: 5, most: 20 }), point({ from: 10, to: 30, low: 25, high: 33, least: 20, most: 40 })]
    const { bounds, band } = rowPaths([lane(uncertain)], 1, height)
    assert.equal(bounds, 'M19 0H34L54 40H34Z')
    assert.equal(band, 'M22 0H26L47 40H39Z')
    const first = rowPaths([lane(uncertain)], 0, height)
    assert.equal(first.bounds, 'M19 0H34L34 40H19Z', 'the first row has none above it')
    const again = rowPaths([lane([point({ to: 5, low: 5, high: 5, least: 4, most: 6 }), sure(5, 5)])], 1, height)
    assert.equal(again.bounds, 'M18 0H20L19 40H19Z', 'what comes together still had a width above')
    assert.equal(again.band, '')
  })

  it('has a wall at the cap with what is lost there, and none beyond what the lane shows', () => {
    const { walls, lost } = rowPaths([lane([sure(50, 50, { limit: 50, lost: 120 })])], 0, height)
    assert.equal(walls, 'M64 0V40')
    assert.deepEqual(lost, [{ x: 64, xp: 120 }])
    const beyond = rowPaths([lane([sure(50, 50, { limit: 101, lost: 1 })])], 0, height)
    assert.deepEqual([beyond.walls, beyond.lost], ['', []])
    assert.isEmpty(rowPaths([lane([sure(50, 50, { limit: 60 })])], 0, height).lost)
  })

  it('draws other kinds of player also where the one that is shown does not come', () => {
    const others = [{ name: 'Usual', line: lineOf([sure(0, 20)]) }, { name: 'Thorough', line: lineOf([null]) }]
    const { others: drawn, narrow } = rowPaths([lane([null], { others })], 0, height)
    assert.equal(drawn, 'M14 0V10L34 30V40')
    assert.equal(narrow, '')
  })

  it('is the same where amounts differ by less than can be seen', () => {
    const [one, other] = [1 / 3, 1 / 3 + 1e-6].map((to) => rowPaths([lane([sure(0, to, { least: 0, most: 60 + to })])], 0, height))
    assert.deepEqual(one, other)
  })
})
