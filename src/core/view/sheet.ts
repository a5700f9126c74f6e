import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'

/**
 * One row of the sheet, in the order of play. `stop`: which stop of the route it belongs to; null: off the route. `items`: what stands in
 * a place, of which its row says what it gives in all: it is another row when they are others.
 */
export type SheetRow =
  | { type: 'place'; id: string; place: Row<'place'>; stop: number | null; again: boolean; folded: boolean; items: readonly ItemRow[] }
  | { type: 'source'; id: string; source: Row<'source'>; stop: number | null }
  | { type: 'gate'; id: string; gate: Row<'gate'>; stop: number | null }
  | { type: 'heading'; id: string; text: string; hint: string }

type Visit = Pick<SheetRow & { type: 'place' }, 'place' | 'stop' | 'again' | 'folded'>

const nothing: readonly ItemRow[] = []

/** What a place's contents were laid out as last: while they stand as they stood, the same rows are given again. */
const laidOut = new WeakMap<readonly ItemRow[], { visit: Visit; rows: SheetRow[] }>()
/** The row that a record was given last: what stands beside a changed one is not drawn again. */
const given = new WeakMap<object, SheetRow>()

function placeRows(visit: Visit, items: readonly ItemRow[]): readonly SheetRow[] {
  const known = visit.again ? undefined : laidOut.get(items)
  if (known && known.visit.place === visit.place && known.visit.stop === visit.stop && known.visit.folded === visit.folded) return known.rows
  const { place, stop, folded, again } = visit
  const heading: SheetRow = { type: 'place', id: stop === null ? place.key : `${place.key}@${stop}`, ...visit, items }
  const rows: SheetRow[] = [again ? heading : sameAgain(place, heading)]
  for (const item of folded ? nothing : items) rows.push(itemRow(item, stop))
  if (!again) laidOut.set(items, { visit, rows })
  return rows
}

function itemRow({ kind, row }: ItemRow, stop: number | null): SheetRow {
  return sameAgain(row, kind === 'source' ? { type: 'source', id: row.key, source: row, stop } : { type: 'gate', id: row.key, gate: row, stop })
}

/** The row that was given of a record, while it is alike. */
function sameAgain(record: object, row: SheetRow): SheetRow {
  const before = given.get(record) as Record<string, unknown> | undefined
  if (before && Object.entries(row).every(([field, value]) => before[field] === value)) return before as unknown as SheetRow
  given.set(record, row)
  return row
}

/** The rows of a plan along a route: its stops with their contents, then places off it, then gates of anywhere. */
export function sheetRows(records: Records, routeKey: string | null, folded: ReadonlySet<string>): SheetRow[] {
  const route = routeKey === null ? undefined : records.route.get(routeKey)
  const contents = contentsByPlace(records)
  const places = inOrder(records, 'place')
  const byId = new Map(places.map((place) => [place.id, place]))
  const seen = new Set<string>()
  const parts: (readonly SheetRow[])[] = []
  const addPlace = (place: Row<'place'>, stop: number | null) => {
    const again = seen.has(place.key)
    seen.add(place.key)
    parts.push(placeRows({ place, stop, again, folded: folded.has(place.key) }, again ? nothing : contents.get(place.key)!))
  }
  let stop = 0
  for (const id of route?.stops ?? []) {
    const place = byId.get(id)
    if (place) addPlace(place, stop++)
  }
  const off = places.filter((place) => !seen.has(place.key))
  if (off.length) {
    if (seen.size) parts.push([{ type: 'heading', id: 'off', text: 'Off this route', hint: 'places that this route does not visit' }])
    for (const place of off) addPlace(place, null)
  }
  const anywhere = contents.get(null)!
  if (anywhere.length) parts.push([{ type: 'heading', id: 'anywhere', text: 'Anywhere', hint: 'gates that stand in no place' }], anywhere.map((item) => itemRow(item, null)))
  return ([] as SheetRow[]).concat(...parts)
}

/** A gate's row, and where it stands. */
export interface GateRow {
  row: number
  gate: Row<'gate'>
  stop: number | null
}

/** The gates among some rows, with the rows in which they were found. */
export interface GateRows {
  rows: readonly SheetRow[]
  gates: readonly GateRow[]
}

/** Rows stand far apart in memory: of those that stand as they stood `before` none is looked at. */
export function gateRowsOf(rows: readonly SheetRow[], before?: GateRows): GateRows {
  const changed = before && changedRows(before.rows, rows)
  const isReplaced = changed?.every((i) => rows[i]!.type === before!.rows[i]!.type)
  if (!isReplaced) return { rows, gates: rows.flatMap((row, i) => (row.type === 'gate' ? [gateRowOf(row, i)] : [])) }
  const anew = new Map(changed!.flatMap((i) => {
    const row = rows[i]!
    return row.type === 'gate' ? [[i, gateRowOf(row, i)] as const] : []
  }))
  return { rows, gates: anew.size ? before!.gates.map((one) => anew.get(one.row) ?? one) : before!.gates }
}

function gateRowOf({ gate, stop }: SheetRow & { type: 'gate' }, row: number): GateRow {
  return { row, gate, stop }
}

/** More rows than this are not told one by one. */
const mostChanged = 100

/** Which rows are others than before; null where they are not as many, or too many are. */
function changedRows(before: readonly SheetRow[], rows: readonly SheetRow[]): number[] | null {
  if (before.length !== rows.length) return null
  const changed: number[] = []
  for (let i = 0; i < rows.length && changed.length <= mostChanged; i++) if (rows[i] !== before[i]) changed.push(i)
  return changed.length > mostChanged ? null : changed
}
