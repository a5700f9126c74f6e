import type { Quantiles, StopResult } from '../check/result.ts'
import { columnOf, momentWidth, numberAt, type RouteTrace } from '../check/route/trace.ts'
import { rowKinds, type LaneRows } from './lane-rows.ts'

/** Which amount a lane shows: a tally's value, or a character's level. */
export type LaneId = `tally ${string}` | `level ${string}`

/** The amount at one row: as the row is left, and what the row did to it. */
export interface LanePoint {
  /** Before the row. */
  from: number
  /** After it. */
  to: number
  low: number
  high: number
  least: number
  most: number
  /** Whether the band is drawn between two stops, where no check has found it. */
  isAbout: boolean
  limit: number | null
  lost: number
}

/** What lines are drawn from: the rows, by row the number of its item in the trace (see `itemsOfRows`), and what was found on leaving stops. */
interface LaneSource {
  rows: LaneRows
  items: Int32Array
  trace: RouteTrace
  stops: readonly StopResult[]
}

/** By row the amount before it and after it; NaN: the route does not come here. */
interface Amounts {
  from: Float64Array
  to: Float64Array
}

/** The lines of some lanes. */
export function laneLines(drawn: LaneSource, lanes: readonly LaneId[]): ReadonlyMap<LaneId, LaneLine> {
  const amounts = follow(drawn, lanes.map((lane) => laneColumn(drawn.trace, lane)))
  return new Map(lanes.map((lane, k) => [lane, new LaneLine(drawn, lane, amounts[k]!)]))
}

/**
 * By lane, given by its column (negative: the trace has none), the amounts at all rows. A large plan has tens of thousands of rows, and all
 * lanes are followed anew after an edit: together, for what an item gives to each lies side by side.
 */
function follow({ rows: { stops, kinds }, items, trace }: LaneSource, columns: readonly number[]): Amounts[] {
  const { entered, left, items: given, places } = trace
  const width = momentWidth(trace)
  const amounts = columns.map((): Amounts => ({ from: new Float64Array(stops.length), to: new Float64Array(stops.length) }))
  const at = new Float64Array(columns.length)
  let current = -1
  for (let i = 0; i < stops.length; i++) {
    const [stop, kind, item] = [stops[i]!, kinds[i]!, items[i]!]
    const isThere = stop >= 0 && stop < places.length
    for (let k = 0; k < columns.length; k++) {
      const column = columns[k]!
      const { from, to } = amounts[k]!
      if (!isThere || column < 0) {
        from[i] = to[i] = NaN
        continue
      }
      if (stop !== current) at[k] = entered[stop * width + column]!
      from[i] = kind === rowKinds.item || stop === 0 ? at[k]! : left[(stop - 1) * width + column]!
      if (kind === rowKinds.wholePlace) at[k] = left[stop * width + column]!
      else if (kind === rowKinds.item && item >= 0) at[k] = at[k]! + given[item * width + column]!
      to[i] = at[k]!
    }
    if (isThere) current = stop
  }
  return amounts
}

/** Where a lane's numbers stand in a trace; negative: nowhere. */
function laneColumn(trace: RouteTrace, lane: LaneId): number {
  const [kind, id] = partsOf(lane)
  return columnOf(trace, kind === 'level' ? { character: id } : { tally: id })
}

function partsOf(lane: LaneId): ['tally' | 'level', string] {
  return lane.split(' ') as ['tally' | 'level', string]
}

/** A line at the rows that are shown. */
export interface ShownLine {
  /** What a row shows; null: the route does not come here. */
  at(row: number): LanePoint | null
  /** By row what there is after it; NaN: the route does not come here. */
  readonly to: Float64Array
}

/**
 * The amount of a lane at every row. The line is the middle walk; the band runs between what the check found on leaving
 * each stop, in proportion to the way that the line has made within it.
 */
export class LaneLine implements ShownLine {
  /** By row, before it and after it; NaN: the route does not come here. */
  readonly from: Float64Array
  readonly to: Float64Array
  private readonly column: number
  private readonly isLevel: boolean
  private readonly id: string

  constructor(
    private readonly drawn: LaneSource,
    lane: LaneId,
    { from, to }: Amounts,
  ) {
    const [kind, id] = partsOf(lane)
    this.id = id
    this.isLevel = kind === 'level'
    this.column = laneColumn(drawn.trace, lane)
    this.from = from
    this.to = to
  }

  /** The same line at some of its rows, by their indices: what rows between them do counts, though they are not shown. */
  among(indices: readonly number[]): ShownLine {
    return new LineAmong(this, indices)
  }

  at(row: number): LanePoint | null {
    const [from, to, stop] = [this.from[row] ?? NaN, this.to[row] ?? NaN, this.drawn.rows.stops[row] ?? -1]
    if (Number.isNaN(to) || stop < 0) return null
    const { least, low, high, most } = this.bounds(stop)
    return { from, to, least: boundAt(least, to), low: boundAt(low, to), high: boundAt(high, to), most: boundAt(most, to), isAbout: to !== numberAt(this.drawn.trace, 'left', stop, this.column), limit: this.limit(row, stop), lost: this.lost(row, stop) }
  }

  private limit(row: number, stop: number): number | null {
    const { drawn: { trace, rows }, column } = this
    return this.isLevel ? numberAt(trace, rows.kinds[row] === rowKinds.wholePlace ? 'left' : 'entered', stop, column + trace.characters.length) : null
  }

  private lost(row: number, stop: number): number {
    if (!this.isLevel) return 0
    const { trace, items, rows: { kinds } } = this.drawn
    const lostBy = (item: number) => numberAt(trace, 'items', item, this.column + trace.characters.length)
    if (kinds[row] === rowKinds.item) return items[row]! < 0 ? 0 : lostBy(items[row]!)
    let sum = 0
    if (kinds[row] === rowKinds.wholePlace) for (let item = trace.itemsFrom[stop]!; item < trace.itemsFrom[stop + 1]!; item++) sum += lostBy(item)
    return sum
  }

  /** The bounds in a stop; rows of one stop are asked for one after the other. */
  private bounds(stop: number): Bounds {
    if (this.asked?.stop === stop) return this.asked
    const [before, found] = [this.found(stop - 1), this.found(stop)]
    const ends = (which: keyof Quantiles) => this.ends(stop, before?.[which], found?.[which])
    return (this.asked = { stop, least: ends('min'), low: ends('q05'), high: ends('q95'), most: ends('max') })
  }
  private asked: Bounds | null = null

  /** The line at both ends of a stop, and how far a bound lies from it there; a reset on entering brings the two together. */
  private ends(stop: number, foundBefore: number | undefined, found: number | undefined): Ends {
    const { drawn: { trace }, column } = this
    const [entered, left] = [numberAt(trace, 'entered', stop, column), numberAt(trace, 'left', stop, column)]
    const before = stop > 0 && numberAt(trace, 'left', stop - 1, column) === entered ? foundBefore : undefined
    return { entered, left, start: before === undefined ? 0 : before - entered, end: (found ?? left) - left }
  }

  /** Where bounds were found to lie on leaving a stop. */
  private found(stop: number): Quantiles | undefined {
    const result = this.drawn.stops[stop]
    return (this.isLevel ? result?.positions : result?.tallies)?.[this.id]
  }

  /** Least and greatest of the line and its bounds; null: the route comes nowhere. */
  get extent(): [number, number] | null {
    return this.known === undefined ? (this.known = this.reach()) : this.known
  }
  private known: [number, number] | null | undefined

  /** Of tens of thousands of rows, stop by stop: at most of them nobody has to see where the bounds lie. */
  private reach(): [number, number] | null {
    const { from, to, drawn: { rows: { stops } } } = this
    let [low, high] = [Infinity, -Infinity]
    let last: { stop: number; found: Quantiles | undefined } = { stop: -1, found: undefined }
    for (let first = 0, end = 0; first < stops.length; first = end) {
      const stop = stops[first]!
      let [least, most] = [Infinity, -Infinity]
      // Rows to which the route does not come have no amount, and are neither less nor more than any.
      for (; end < stops.length && stops[end] === stop; end++) {
        const before = from[end]!
        const after = to[end]!
        if (before < low) low = before
        if (before > high) high = before
        if (after < least) least = after
        if (after > most) most = after
      }
      if (least > most) continue
      const [before, found] = [last.stop === stop - 1 ? last.found : this.found(stop - 1), this.found(stop)]
      last = { stop, found }
      low = Math.min(low, least, farthest(this.ends(stop, before?.min, found?.min), to, first, end, least, Math.min))
      high = Math.max(high, most, farthest(this.ends(stop, before?.max, found?.max), to, first, end, most, Math.max))
    }
    return low > high ? null : [low, high]
  }
}

class LineAmong implements ShownLine {
  private amounts: Float64Array | null = null

  constructor(
    private readonly line: LaneLine,
    private readonly indices: readonly number[],
  ) {}

  at(row: number): LanePoint | null {
    const index = this.indices[row]
    return index === undefined ? null : this.line.at(index)
  }

  /** Put together when somebody asks: a lane is drawn at the few rows in view. */
  get to(): Float64Array {
    return (this.amounts ??= Float64Array.from(this.indices, (i) => this.line.to[i]!))
  }
}

interface Ends {
  entered: number
  left: number
  start: number
  end: number
}

interface Bounds extends Record<'least' | 'low' | 'high' | 'most', Ends> {
  stop: number
}

/** How far a bound lies in a stop: mostly as far as where the line itself is the farthest (`line`). Its values there stand from `first` to `end`; `farther`: of two. */
function farthest(ends: Ends, values: Float64Array, first: number, end: number, line: number, farther: (a: number, b: number) => number): number {
  let far = boundAt(ends, line)
  if (!risesWithLine(ends)) for (let i = first; i < end; i++) far = farther(far, boundAt(ends, values[i]!))
  return far
}

/** Whether a bound never falls where the line rises. */
function risesWithLine({ entered, left, start, end }: Ends): boolean {
  return left === entered || (end - start) / (left - entered) >= -1
}

function boundAt({ entered, left, start, end }: Ends, value: number): number {
  const share = left === entered ? 1 : Math.min(Math.max((value - entered) / (left - entered), 0), 1)
  return value + start + (end - start) * share
}

/** The amounts that a lane has to show: of its lines and the thresholds in it. */
export function laneDomain(extents: readonly ([number, number] | null)[], thresholds: readonly number[], isLevel: boolean): [number, number] {
  const all = [...extents.flatMap((extent) => extent ?? []), ...thresholds]
  if (all.length === 0) return [0, 1]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  if (isLevel) return [Math.floor(low), Math.ceil(high + 0.4)]
  const room = (high - Math.min(0, low)) * 0.06 || 1
  return [Math.min(0, low), high + room]
}
