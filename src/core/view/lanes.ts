import { columnOf, numberAt, type RouteTrace } from '../check/route/trace.ts'
import type { StopResult } from '../check/result.ts'
import type { SheetRow } from './sheet.ts'

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
  limit: number | null
  lost: number
}

/** What of a row a lane is drawn from: while it stays the same, so does the lane. */
export type LaneRow = { stop: number | null } & ({ item: string } | { place: true; whole: boolean })

/** The rows of a sheet as lanes know them, and the rows that they were made from. */
export interface Outline {
  rows: readonly SheetRow[]
  lanes: readonly LaneRow[]
}

/** The outline of these rows; the same list of lane rows again where it is the same as the one before. */
export function outlineOf(rows: readonly SheetRow[], before?: Outline): Outline {
  return { rows, lanes: before && isDrawnAlike(rows, before) ? before.lanes : rows.map(laneRow) }
}

function isDrawnAlike(rows: readonly SheetRow[], before: Outline): boolean {
  if (rows.length !== before.rows.length) return false
  for (let i = 0; i < rows.length; i++) if (rows[i] !== before.rows[i] && !isSameRow(laneRow(rows[i]!), before.lanes[i]!)) return false
  return true
}

function laneRow(row: SheetRow): LaneRow {
  if (row.type === 'heading') return { stop: null, item: '' }
  return row.type === 'place' ? { stop: row.stop, place: true, whole: row.folded || row.again } : { stop: row.stop, item: row.id }
}

function isSameRow(a: LaneRow, b: LaneRow): boolean {
  return a.stop === b.stop && ('item' in a ? 'item' in b && a.item === b.item : 'place' in b && a.whole === b.whole)
}

/** By row the number of its item in the trace; −1: a place, or an item that did nothing. */
export function itemsOfRows(rows: readonly LaneRow[], { keys, itemsFrom }: RouteTrace): Int32Array {
  const numbers = new Int32Array(rows.length).fill(-1)
  let stop: number | null = null
  let here = new Map<string, number>()
  rows.forEach((row, i) => {
    if (row.stop === null || !('item' in row)) return
    if (row.stop !== stop) {
      stop = row.stop
      here = new Map()
      for (let item = itemsFrom[stop]!; item < itemsFrom[stop + 1]!; item++) here.set(keys[item]!, item)
    }
    numbers[i] = here.get(row.item) ?? -1
  })
  return numbers
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
    private readonly rows: readonly LaneRow[],
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
    this.from = known?.from ?? new Float64Array(rows.length).fill(NaN)
    this.to = known?.to ?? new Float64Array(rows.length).fill(NaN)
    if (!known && this.column >= 0) this.follow()
  }

  /** The same line at some of its rows, by their indices: what rows between them do counts, though they are not shown. */
  among(indices: readonly number[]): LaneLine {
    const count = indices.length
    const known = { from: new Float64Array(count), to: new Float64Array(count) }
    const items = new Int32Array(count)
    for (let k = 0; k < count; k++) {
      const i = indices[k]!
      items[k] = this.items[i]!
      known.from[k] = this.from[i]!
      known.to[k] = this.to[i]!
    }
    return new LaneLine(indices.map((i) => this.rows[i]!), items, this.trace, this.stops, this.lane, known)
  }

  private follow(): void {
    const { rows, items, trace, column, from, to } = this
    let [at, current] = [0, -1]
    rows.forEach((row, i) => {
      const { stop } = row
      if (stop === null || stop >= trace.places.length) return
      if (stop !== current) {
        current = stop
        at = numberAt(trace, 'entered', stop, column)
      }
      from[i] = 'place' in row && stop > 0 ? numberAt(trace, 'left', stop - 1, column) : at
      if ('place' in row) at = row.whole ? numberAt(trace, 'left', stop, column) : at
      else if (items[i]! >= 0) at += numberAt(trace, 'items', items[i]!, column)
      to[i] = at
    })
  }

  /** What a row shows; null: the route does not come here. */
  at(row: number): LanePoint | null {
    const [from, to, of] = [this.from[row] ?? NaN, this.to[row] ?? NaN, this.rows[row]]
    if (Number.isNaN(to) || !of || of.stop === null) return null
    const bound = (which: Bound) => boundAt(this.ends(of.stop!, which), to)
    return { from, to, least: bound('min'), low: bound('q05'), high: bound('q95'), most: bound('max'), limit: this.limit(of), lost: this.lost(row) }
  }

  private limit(row: LaneRow): number | null {
    const { trace, column } = this
    return this.isLevel ? numberAt(trace, 'place' in row && row.whole ? 'left' : 'entered', row.stop!, column + trace.characters.length) : null
  }

  private lost(index: number): number {
    if (!this.isLevel) return 0
    const [row, column] = [this.rows[index]!, this.column + this.trace.characters.length]
    const lostBy = (item: number) => numberAt(this.trace, 'items', item, column)
    if ('item' in row) return this.items[index]! < 0 ? 0 : lostBy(this.items[index]!)
    let sum = 0
    if (row.whole) for (let item = this.trace.itemsFrom[row.stop!]!; item < this.trace.itemsFrom[row.stop! + 1]!; item++) sum += lostBy(item)
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

  private reach(): [number, number] | null {
    let [low, high] = [Infinity, -Infinity]
    let [least, most, current] = [nowhere, nowhere, -1]
    for (let i = 0; i < this.rows.length; i++) {
      const [from, to, { stop }] = [this.from[i]!, this.to[i]!, this.rows[i]!]
      if (Number.isNaN(to) || stop === null) continue
      if (stop !== current) {
        current = stop
        least = this.ends(stop, 'min')
        most = this.ends(stop, 'max')
      }
      low = Math.min(low, from, to, boundAt(least, to))
      high = Math.max(high, from, to, boundAt(most, to))
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
const nowhere: Ends = { entered: 0, left: 0, start: 0, end: 0 }

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
