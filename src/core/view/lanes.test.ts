import { assert } from 'chai'
import fc from 'fast-check'
import type { StopResult } from '../check/result.ts'
import type { RouteTrace } from '../check/route/trace.ts'
import { rowKinds } from './lane-rows.ts'
import { laneLines, type LaneLine } from './lanes.ts'

/** By stop what each item there adds to the one tally, what is reset on entering, and how far the bounds lie from the line at its end. */
interface Stop {
  items: number[]
  resets: boolean
  below: number
  above: number
}

/** A lane of items alone; rows to which the route does not come stand between the stops. */
function lineOf(stops: readonly Stop[]): LaneLine {
  const rows = { stops: [] as number[], items: [] as number[] }
  const [entered, left, itemsFrom, given] = [[] as number[], [] as number[], [0], [] as number[]]
  stops.forEach(({ items, resets }, s) => {
    entered.push(resets ? 0 : (left[s - 1] ?? 0))
    rows.stops.push(-1)
    rows.items.push(-1)
    for (const by of items) {
      rows.stops.push(s)
      rows.items.push(given.push(by) - 1)
    }
    left.push(entered[s]! + items.reduce((sum, by) => sum + by, 0))
    itemsFrom.push(given.length)
  })
  const trace: RouteTrace = {
    tallies: ['stamps'], characters: [], places: stops.map((_, s) => `place ${s}`),
    entered: Float64Array.from(entered), left: Float64Array.from(left), itemsFrom: Int32Array.from(itemsFrom), keys: given.map((_, i) => `item ${i}`), items: Float64Array.from(given),
  }
  const results = stops.map(({ below, above }, s) => ({ tallies: { stamps: { min: left[s]! - below, q05: left[s]!, median: left[s]!, q95: left[s]!, max: left[s]! + above } } })) as unknown as StopResult[]
  const outline = { stops: Int32Array.from(rows.stops), kinds: new Uint8Array(rows.stops.length).fill(rowKinds.item), keys: rows.stops.map((_, i) => `row ${i}`) }
  return laneLines({ rows: outline, items: Int32Array.from(rows.items), trace, stops: results }, ['tally stamps']).get('tally stamps')!
}

describe('the line of a lane', () => {
  const amount = fc.integer({ min: -20, max: 30 })
  const away = fc.integer({ min: 0, max: 40 })
  const stops = fc.array(fc.record({ items: fc.array(amount, { maxLength: 5 }), resets: fc.boolean(), below: away, above: away }), { maxLength: 6 })

  it('reaches as far as it and its bounds do at any row', () => {
    fc.assert(fc.property(stops, (of) => {
      const line = lineOf(of)
      const points = Array.from(line.to, (_, row) => line.at(row)).filter((point) => point !== null)
      const all = points.flatMap(({ from, to, least, most }) => [from, to, least, most])
      if (all.length === 0) return assert.isNull(line.extent)
      const [low, high] = line.extent!
      assert.approximately(low, Math.min(...all), 1e-9)
      assert.approximately(high, Math.max(...all), 1e-9)
    }))
  })

  it('has bounds that may fall while the line rises', () => {
    const line = lineOf([{ items: [30], resets: false, below: 0, above: 0 }, { items: [1, 9], resets: false, below: 60, above: 0 }])
    assert.deepEqual([line.at(3)!.least, line.at(4)!.least], [25, -20])
    assert.deepEqual([line.at(3)!.isAbout, line.at(4)!.isAbout], [true, false])
    assert.deepEqual(line.extent, [-20, 40])
  })

  it('is nowhere where the route comes to no row', () => {
    assert.isNull(lineOf([]).extent)
    assert.isNull(lineOf([{ items: [], resets: false, below: 3, above: 3 }]).extent)
  })
})
