import type { StopResult } from '../check/result.ts'
import { columnOf, momentWidth, numberAt, type RouteTrace } from '../check/route/trace.ts'
import { laneRowsAt, rowKinds, type LaneRows } from './lane-rows.ts'

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

type Bound = 'min' | 'q05' | 'q95' | 'max'

/**
 * The amount of a lane at every row. The line is the middle walk; the band runs between what the check found on leaving
 * each stop, in proportion to the way that the line has made within it.
 */
export class LaneLine {
  /** By row, before it and after it; NaN: the route does not come here. */
  readonly from: Float64Array
  readonly to: Float64Array
  private readonly column: number
  private readonly isLevel: boolean
  private readonly id: string

  constructor(
    private readonly rows: LaneRows,
    private readonly items: Int32Array,
    private readonly trace: RouteTrace,
    private readonly stops: readonly StopResult[],
    private readonly lane: LaneId,
    known?: { from: Float64Array; to: Float64Array },
  ) {
    const [kind, id] = lane.split(' ') as ['tally' | 'level', string]
    this.id = id
    this.isLevel = kind === 'level'
    this.column = columnOf(trace, this.isLevel ? { character: id } : { tally: id })
    this.from = known?.from ?? new Float64Array(items.length).fill(NaN)
    this.to = known?.to ?? new Float64Array(items.length).fill(NaN)
    if (!known && this.column >= 0) this.follow()
  }

  /** The same line at some of its rows, by their indices: what rows between them do counts, though they are not shown. */
  among(indices: readonly number[]): LaneLine {
    const numbersAt = (of: Float64Array) => Float64Array.from(indices, (i) => of[i]!)
    const items = Int32Array.from(indices, (i) => this.items[i]!)
    return new LaneLine(laneRowsAt(this.rows, indices), items, this.trace, this.stops, this.lane, { from: numbersAt(this.from), to: numbersAt(this.to) })
  }

  /** A large plan has tens of thousands of rows, and each of its lanes is followed anew after an edit. */
  private follow(): void {
    const { rows: { stops, kinds }, items, trace, column, from, to } = this
    const { entered, left, items: given, places } = trace
    const width = momentWidth(trace)
    let [at, current] = [0, -1]
    for (let i = 0; i < stops.length; i++) {
      const stop = stops[i]!
      if (stop < 0 || stop >= places.length) continue
      if (stop !== current) {
        current = stop
        at = entered[stop * width + column]!
      }
      const isItem = kinds[i] === rowKinds.item
      from[i] = isItem || stop === 0 ? at : left[(stop - 1) * width + column]!
      if (isItem) at += items[i]! < 0 ? 0 : given[items[i]! * width + column]!
      else if (kinds[i] === rowKinds.wholePlace) at = left[stop * width + column]!
      to[i] = at
    }
  }

  /** What a row shows; null: the route does not come here. */
  at(row: number): LanePoint | null {
    const [from, to, stop] = [this.from[row] ?? NaN, this.to[row] ?? NaN, this.rows.stops[row] ?? -1]
    if (Number.isNaN(to) || stop < 0) return null
    const bound = (which: Bound) => boundAt(this.ends(stop, which), to)
    return { from, to, least: bound('min'), low: bound('q05'), high: bound('q95'), most: bound('max'), isAbout: to !== numberAt(this.trace, 'left', stop, this.column), limit: this.limit(row, stop), lost: this.lost(row, stop) }
  }

  private limit(row: number, stop: number): number | null {
    const { trace, column } = this
    return this.isLevel ? numberAt(trace, this.rows.kinds[row] === rowKinds.wholePlace ? 'left' : 'entered', stop, column + trace.characters.length) : null
  }

  private lost(row: number, stop: number): number {
    if (!this.isLevel) return 0
    const { trace, items, rows: { kinds } } = this
    const lostBy = (item: number) => numberAt(trace, 'items', item, this.column + trace.characters.length)
    if (kinds[row] === rowKinds.item) return items[row]! < 0 ? 0 : lostBy(items[row]!)
    let sum = 0
    if (kinds[row] === rowKinds.wholePlace) for (let item = trace.itemsFrom[stop]!; item < trace.itemsFrom[stop + 1]!; item++) sum += lostBy(item)
    return sum
  }

  /** The line at both ends of a stop, and how far a bound lies from it there; a reset on entering brings the two together. */
  private ends(stop: number, which: Bound): Ends {
    const { trace, column } = this
    const found = (at: number) => this.stops[at]?.[this.isLevel ? 'positions' : 'tallies'][this.id]?.[which]
    const [entered, left] = [numberAt(trace, 'entered', stop, column), numberAt(trace, 'left', stop, column)]
    const before = stop > 0 && numberAt(trace, 'left', stop - 1, column) === entered ? found(stop - 1) : undefined
    return { entered, left, start: before === undefined ? 0 : before - entered, end: (found(stop) ?? left) - left }
  }

  /** Least and greatest of the line and its bounds; null: the route comes nowhere. */
  get extent(): [number, number] | null {
    return this.known === undefined ? (this.known = this.reach()) : this.known
  }
  private known: [number, number] | null | undefined

  /** Of tens of thousands of rows, stop by stop: at most of them nobody has to see where the bounds lie. */
  private reach(): [number, number] | null {
    const { from, to, rows: { stops } } = this
    let [low, high] = [Infinity, -Infinity]
    for (let first = 0, end = 0; first < stops.length; first = end) {
      const stop = stops[first]!
      let [least, most] = [Infinity, -Infinity]
      for (; end < stops.length && stops[end] === stop; end++) {
        const before = from[end]!
        const after = to[end]!
        if (Number.isNaN(after)) continue
        low = Math.min(low, before)
        high = Math.max(high, before)
        least = Math.min(least, after)
        most = Math.max(most, after)
      }
      if (stop < 0 || least > most) continue
      low = Math.min(low, least, farthest(this.ends(stop, 'min'), to, first, end, least, Math.min))
      high = Math.max(high, most, farthest(this.ends(stop, 'max'), to, first, end, most, Math.max))
    }
    return low > high ? null : [low, high]
  }
}

interface Ends {
  entered: number
  left: number
  start: number
  end: number
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
