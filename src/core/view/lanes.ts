import type { ItemTrace, Moment, RouteTrace } from '../check/route/trace.ts'
import type { StopResult } from '../check/result.ts'
import type { SheetRow } from './sheet.ts'

/** Which amount a lane shows: a tally's value, or a character's level. */
export type LaneId = `tally ${string}` | `level ${string}`

/** The amount at one row: as the row is left, and what the row did to it. Null: the route does not come here. */
export interface LanePoint {
  /** Before the row. */
  from: number
  /** After it. */
  to: number
  low: number
  high: number
  least: number
  most: number
  limit: number | null
  lost: number
}

interface Reader {
  moment(m: Moment): number
  item(t: ItemTrace): number
  lost(t: ItemTrace): number
  limit(m: Moment): number | null
  stop(s: StopResult): { min: number; q05: number; q95: number; max: number } | undefined
}

function readerOf(lane: LaneId, trace: RouteTrace): Reader | null {
  const [kind, id] = lane.split(' ') as ['tally' | 'level', string]
  if (kind === 'tally') {
    const t = trace.tallies.indexOf(id)
    if (t < 0) return null
    return { moment: (m) => m.tallies[t]!, item: (i) => i.tallies[t]!, lost: () => 0, limit: () => null, stop: (s) => s.tallies[id] }
  }
  const c = trace.characters.indexOf(id)
  if (c < 0) return null
  return { moment: (m) => m.positions[c]!, item: (i) => i.positions[c]!, lost: (i) => i.lost[c]!, limit: (m) => m.limits[c]!, stop: (s) => s.positions[id] }
}

/**
 * The amount of a lane at every row. The line is the middle walk; the band runs between what the check found on leaving
 * each stop, in proportion to the way that the line has made within it.
 */
export function lanePoints(rows: readonly SheetRow[], trace: RouteTrace, stops: readonly StopResult[], lane: LaneId): (LanePoint | null)[] {
  const reader = readerOf(lane, trace)
  if (!reader) return rows.map(() => null)
  let at = 0
  let current = -1
  return rows.map((row): LanePoint | null => {
    if (row.type === 'heading' || row.stop === null) return null
    const stop = trace.stops[row.stop]
    if (!stop) return null
    if (row.stop !== current) {
      current = row.stop
      at = reader.moment(stop.entered)
    }
    const from = row.type === 'place' && row.stop > 0 ? reader.moment(trace.stops[row.stop - 1]!.left) : at
    const trace1 = row.type === 'place' ? undefined : stop.items[row.id]
    const folded = row.type === 'place' && (row.folded || row.again)
    at = folded ? reader.moment(stop.left) : at + (trace1 ? reader.item(trace1) : 0)
    const lost = folded ? Object.values(stop.items).reduce((sum, item) => sum + reader.lost(item), 0) : trace1 ? reader.lost(trace1) : 0
    return { from, to: at, ...bandAt(reader, trace, stops, row.stop, at), limit: reader.limit(folded ? stop.left : stop.entered), lost }
  })
}

function bandAt(reader: Reader, trace: RouteTrace, stops: readonly StopResult[], stop: number, value: number) {
  const entered = reader.moment(trace.stops[stop]!.entered)
  const left = reader.moment(trace.stops[stop]!.left)
  const after = stops[stop] ? reader.stop(stops[stop]) : undefined
  const before = stop > 0 && stops[stop - 1] ? reader.stop(stops[stop - 1]!) : undefined
  const share = left === entered ? 1 : Math.min(Math.max((value - entered) / (left - entered), 0), 1)
  const spread = (of: 'min' | 'q05' | 'q95' | 'max') => {
    // How far the bound lies from the line at both ends of the stop; a reset on entering brings the line and the band together.
    const start = before && reader.moment(trace.stops[stop - 1]!.left) === entered ? before[of] - entered : 0
    const end = after ? after[of] - left : 0
    return value + start + (end - start) * share
  }
  return { least: spread('min'), low: spread('q05'), high: spread('q95'), most: spread('max') }
}

/** The amounts that a lane has to show: of its line, its bounds and the thresholds in it. */
export function laneDomain(points: readonly (LanePoint | null)[], thresholds: readonly number[], isLevel: boolean): [number, number] {
  let low = Infinity
  let high = -Infinity
  for (const point of points) {
    if (!point) continue
    low = Math.min(low, point.from, point.least, point.to)
    high = Math.max(high, point.from, point.most, point.to)
  }
  for (const threshold of thresholds) {
    low = Math.min(low, threshold)
    high = Math.max(high, threshold)
  }
  if (low > high) return [0, 1]
  if (isLevel) return [Math.floor(low), Math.ceil(high + 0.4)]
  const room = (high - Math.min(0, low)) * 0.06 || 1
  return [Math.min(0, low), high + room]
}
