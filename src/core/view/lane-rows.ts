import type { RouteTrace } from '../check/route/trace.ts'
import { sameList } from '../plan/same-list.ts'
import type { SheetRow } from './sheet.ts'

/** How a row stands in a lane: an item, a place whose items follow it, or a place that stands for all of its items. */
export const rowKinds = { item: 0, place: 1, wholePlace: 2 } as const

/** What of a sheet's rows a lane is drawn from, side by side in arrays: while it stays the same, so does the lane. */
export interface LaneRows {
  /** By row its stop; −1: the route does not come here. */
  stops: Int32Array
  /** By row one of `rowKinds`. */
  kinds: Uint8Array
  /** By row the key of its source or gate; of others ''. */
  keys: readonly string[]
}

/** The rows of a sheet as lanes know them, and the rows that they were made from. */
export interface Outline {
  rows: readonly SheetRow[]
  lanes: LaneRows
}

interface LaneRow {
  stop: number
  kind: number
  key: string
}

/** The outline of these rows; the same lane rows again where they are as the ones before. */
export function outlineOf(rows: readonly SheetRow[], before?: Outline): Outline {
  return { rows, lanes: before && isDrawnAlike(rows, before) ? before.lanes : laneRows(rows) }
}

/** In one loop: going through tens of thousands of rows column by column takes ten times as long. */
function laneRows(rows: readonly SheetRow[]): LaneRows {
  const [stops, kinds, keys] = [new Int32Array(rows.length), new Uint8Array(rows.length), new Array<string>(rows.length)]
  for (let i = 0; i < rows.length; i++) {
    const row = laneRow(rows[i]!)
    stops[i] = row.stop
    kinds[i] = row.kind
    keys[i] = row.key
  }
  return { stops, kinds, keys }
}

function isDrawnAlike(rows: readonly SheetRow[], before: Outline): boolean {
  if (rows.length !== before.rows.length) return false
  for (let i = 0; i < rows.length; i++) if (rows[i] !== before.rows[i] && !isRow(laneRow(rows[i]!), before.lanes, i)) return false
  return true
}

function laneRow(row: SheetRow): LaneRow {
  if (row.type === 'heading') return { stop: -1, kind: rowKinds.item, key: '' }
  const stop = row.stop ?? -1
  if (row.type === 'place') return { stop, kind: row.folded || row.again ? rowKinds.wholePlace : rowKinds.place, key: '' }
  return { stop, kind: rowKinds.item, key: row.id }
}

function isRow({ stop, kind, key }: LaneRow, { stops, kinds, keys }: LaneRows, i: number): boolean {
  return stops[i] === stop && kinds[i] === kind && keys[i] === key
}

type Items = Pick<RouteTrace, 'keys' | 'itemsFrom'>

/** By the keys of a trace, which stay the same list while they are alike, what was found by them last. */
const known = new WeakMap<readonly string[], { rows: LaneRows; itemsFrom: Int32Array; numbers: Int32Array }>()

/** By row the number of its item in the trace; −1: a place, or an item that did nothing. */
export function itemsOfRows(rows: LaneRows, { keys, itemsFrom }: Items): Int32Array {
  const last = known.get(keys)
  if (last?.rows === rows && sameList(last.itemsFrom, itemsFrom)) return last.numbers
  const numbers = numbersOf(rows, { keys, itemsFrom })
  known.set(keys, { rows, itemsFrom, numbers })
  return numbers
}

function numbersOf({ stops, kinds, keys: ofRows }: LaneRows, { keys, itemsFrom }: Items): Int32Array {
  const numbers = new Int32Array(ofRows.length).fill(-1)
  for (let from = 0, to = 0; from < ofRows.length; from = to) {
    const stop = stops[from]!
    while (to < ofRows.length && stops[to] === stop) to++
    if (stop < 0) continue
    const end = itemsFrom[stop + 1]!
    let next = itemsFrom[stop]!
    // Items mostly come in the order of the rows, and then need not be looked up.
    for (let row = from; row < to; row++) if (next < end && keys[next] === ofRows[row] && kinds[row] === rowKinds.item) numbers[row] = next++
    if (next === end) continue
    const here = new Map<string, number>()
    for (let item = itemsFrom[stop]!; item < end; item++) here.set(keys[item]!, item)
    for (let row = from; row < to; row++) if (kinds[row] === rowKinds.item) numbers[row] = here.get(ofRows[row]!) ?? -1
  }
  return numbers
}
