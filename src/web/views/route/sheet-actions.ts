import type { Diff, Edited } from '../../../core/change/diff.ts'
import { shapeFault } from '../../../core/change/shape.ts'
import { addItem, addRecord, canStand, freeId, moveItem, moveItems, neighbourSpot, removeRecords, setFields, type Spot } from '../../../core/change/edits.ts'
import { placeBefore } from '../../../core/change/add-place.ts'
import { addPlaceBehind, freeGatesIn } from '../../../core/change/behind-gate.ts'
import { doubleItems, doublePlace, type Doubled } from '../../../core/change/double.ts'
import { moveStop } from '../../../core/change/move-stop.ts'
import type { EntryContext, EntryReading } from '../../../core/exchange/entry-line.ts'
import { asksText, readAsks, readSource, sourceText } from '../../../core/exchange/row-text.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import { leadsTo, placeKinds } from '../../../core/plan/place.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../../../core/plan/records.ts'
import { wholeSource } from '../../../core/plan/source.ts'
import { vocabularyOf } from '../../../core/rules/plan-index.ts'
import { newKey } from '../../new-key.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'

/** The cells of a row that can be edited, in the order of Tab. */
export const cells = ['name', 'asks', 'role'] as const
export type Cell = (typeof cells)[number]

export function itemOf(row: SheetRow | undefined): ItemRow | null {
  if (row?.type === 'source') return { kind: 'source', row: row.source }
  return row?.type === 'gate' ? { kind: 'gate', row: row.gate } : null
}

export function recordOf(row: SheetRow | undefined): { kind: 'place' | 'source' | 'gate'; key: string } | null {
  if (row?.type === 'place') return { kind: 'place', key: row.place.key }
  const item = itemOf(row)
  return item ? { kind: item.kind, key: item.row.key } : null
}

export function wholeOf(records: Pick<Records, 'pattern'>, source: Row<'source'>) {
  return wholeSource(source, source.pattern === undefined ? undefined : inOrder(records, 'pattern').find((pattern) => pattern.id === source.pattern))
}

/** The text with which a cell is edited. */
export function cellText(records: Records, row: SheetRow, cell: Cell): string {
  if (row.type === 'heading') return ''
  const record = row.type === 'place' ? row.place : row.type === 'source' ? row.source : row.gate
  if (cell === 'name') return record.name
  if (cell === 'role') return row.type === 'place' ? '' : (record as Row<'gate'>).role
  if (row.type === 'place') return placeText(row.place)
  if (row.type === 'gate') return asksText(row.gate)
  return sourceText(wholeOf(records, row.source))
}

/** `hub 6 min goal`, as it is typed. */
export function placeText({ kind, minutes, goal }: Pick<Row<'place'>, 'kind' | 'minutes' | 'goal'>): string {
  return `${kind} ${minutes} min${goal ? ' goal' : ''}`
}

export function editCell(records: Records, row: SheetRow, cell: Cell, text: string): Edited {
  return fitting(records, readCell(records, row, cell, text))
}

/** What was read, if a plan can hold it. */
function fitting<T extends { diff: Diff }>(records: Records, read: T | { says: string }): T | { says: string } {
  const fault = 'diff' in read ? shapeFault(records, read.diff) : null
  return fault ? { says: fault } : read
}

function readCell(records: Records, row: SheetRow, cell: Cell, text: string): Edited {
  const target = recordOf(row)
  if (!target || row.type === 'heading') return { says: 'this row cannot be edited' }
  const record = row.type === 'place' ? row.place : row.type === 'source' ? row.source : row.gate
  if (cell === 'name') {
    const name = text.trim()
    return name ? { diff: setFields(records, target.kind, target.key, { name }, `rename ${labelOf(record)} to ${name}`) } : { says: 'a row needs a name' }
  }
  if (row.type === 'place') return editPlace(records, row.place, text)
  return row.type === 'source' ? editGives(records, row.source, text) : editAsks(records, row.gate, text)
}

function editPlace(records: Records, place: Row<'place'>, text: string): Edited {
  const fields = { kind: place.kind, minutes: place.minutes, goal: false }
  for (const word of text.toLowerCase().replace(/[,·]/g, ' ').split(/\s+/).filter(Boolean)) {
    if ((placeKinds as readonly string[]).includes(word)) fields.kind = word as typeof fields.kind
    else if (word === 'goal') fields.goal = true
    else if (/^\d+(\.\d+)?$/.test(word)) fields.minutes = Number(word)
    else if (!/^min(utes?)?$/.test(word)) return { says: `"${word}" is none of: ${placeKinds.join(', ')}, goal, or minutes such as 6 min` }
  }
  return { diff: setFields(records, 'place', place.key, fields, `${labelOf(place)} is ${placeText(fields)}`) }
}

function editGives(records: Records, source: Row<'source'>, text: string): Edited {
  const read = readSource(text, inOrder(records, 'tally'), vocabularyOf(records))
  if (!read.ok) return read
  const whole = wholeOf(records, source)
  // What still says what the pattern says is left to the pattern.
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const { count, requires, yields, takes, respawns } = read.fields
  const own = {
    count,
    requires,
    ...(same(yields, whole.yields) ? {} : { yields }),
    ...(same(takes, whole.takes) ? {} : { takes }),
    ...(respawns === whole.respawns ? {} : { respawns }),
  }
  return { diff: setFields(records, 'source', source.key, own, `${labelOf(source)} gives ${text.trim() || 'nothing'}`) }
}

function editAsks(records: Records, gate: Row<'gate'>, text: string): Edited {
  const read = readAsks(text, inOrder(records, 'tally'), vocabularyOf(records))
  if (!read.ok) return read
  return { diff: setFields(records, 'gate', gate.key, read.fields, `${labelOf(gate)} asks for ${text.trim() || 'nothing'}`) }
}

export function toggleRole(records: Records, row: SheetRow): Diff | null {
  const item = itemOf(row)
  if (!item) return null
  const role = item.row.role === 'main' ? 'side' : 'main'
  return setFields(records, item.kind, item.row.key, { role }, `${labelOf(item.row)} is ${role}`)
}

/** Moves a row one step up or down, across places in the order of the sheet; a place changes with its neighbour on the route. */
export function moveRow(records: Records, rows: readonly SheetRow[], row: SheetRow, by: 1 | -1, routeKey: string | null): Diff | null {
  const route = routeKey === null ? undefined : records.route.get(routeKey)
  if (row.type === 'place') return route && row.stop !== null ? moveStop(records, route, row.stop, by, newKey) : null
  const item = itemOf(row)
  const spot = item && neighbourSpot(records, item, by, placesOf(rows))
  return item && spot ? moveItem(records, item, spot) : null
}

/** Moves several rows together one step up or down; a place among them stays. */
export function moveRows(records: Records, rows: readonly SheetRow[], chosen: readonly SheetRow[], by: 1 | -1): Diff | null {
  const items = chosen.map(itemOf).filter((item) => item !== null)
  const edge = by === 1 ? items.at(-1) : items[0]
  const spot = edge && neighbourSpot(records, edge, by, placesOf(rows))
  return spot && canStand(items, spot) ? moveItems(records, items, clearOf(records, items, spot)) : null
}

/** The places in the order of the sheet. */
function placesOf(rows: readonly SheetRow[]): string[] {
  const places = new Set<string>()
  for (const row of rows) if (row.type === 'place' && !row.again) places.add(row.place.key)
  return [...places]
}

/** The same spot behind the nearest item before it that is not moved itself. */
function clearOf(records: Records, items: readonly ItemRow[], { place, after }: Spot): Spot {
  const moving = new Set(items.map(({ row }) => row.key))
  const keys = (contentsByPlace(records).get(place) ?? []).map(({ row }) => row.key)
  const before = after === null ? [] : keys.slice(0, keys.indexOf(after) + 1)
  return { place, after: before.filter((key) => !moving.has(key)).at(-1) ?? null }
}

/** Moves rows that are dropped above the row at an index; null where they cannot go, or go where they are. */
export function dropRows(records: Records, rows: readonly SheetRow[], items: readonly ItemRow[], before: number): Diff | null {
  const spot = dropSpot(records, rows, before)
  if (!spot || !canStand(items, spot)) return null
  const diff = moveItems(records, items, clearOf(records, items, spot))
  return diff.changes.length ? diff : null
}

/** Where a row goes that is dropped above the row at an index; null where none can go. */
export function dropSpot(records: Records, rows: readonly SheetRow[], before: number): Spot | null {
  const above = rows[before - 1]
  if (!above || above.type === 'heading') return null
  if (above.type !== 'place') return { place: itemOf(above)!.row.place, after: itemOf(above)!.row.key }
  // A folded place, or one that is visited again, shows no rows: what is dropped there goes to its end.
  return above.folded || above.again ? entrySpot(records, above) : { place: above.place.key, after: null }
}

/** Doubles the chosen sources and gates, or the place of a single row; null where there is nothing to double. */
export function doubleRows(records: Records, rows: readonly SheetRow[], routeKey: string | null): Doubled | null {
  const items = rows.map(itemOf).filter((item) => item !== null)
  if (items.length) return doubleItems(records, items, newKey)
  const [row] = rows
  return row?.type === 'place' ? doublePlace(records, row.place, newKey, routeKey) : null
}

export function removeRows(records: Records, rows: readonly SheetRow[]): Diff | null {
  const items = rows.map(recordOf).filter((target) => target !== null)
  return items.length ? removeRecords(records, items) : null
}

/** Where the entry line puts what it adds: after the chosen row, in its place, or at the end of the last place. */
export function entrySpot(records: Records, row: SheetRow | undefined): Spot | null {
  const item = itemOf(row)
  if (item && (item.kind === 'source' || item.row.place !== null)) return { place: item.row.place, after: item.row.key }
  if (row?.type === 'place') {
    const items = [...records.source.values(), ...records.gate.values()].filter((other) => other.place === row.place.key)
    const last = items.sort((a, b) => (a.order < b.order ? -1 : 1)).at(-1)
    return { place: row.place.key, after: last?.key ?? null }
  }
  const lastPlace = inOrder(records, 'place').at(-1)
  return lastPlace ? entrySpot(records, { type: 'place', id: '', place: lastPlace, stop: null, again: false, folded: false, items: [] }) : null
}

/** What a line is read by that is typed in a place; `before`: the one to which a new place joins itself. */
export function entryContext(records: Records, place: string | null, before = place): EntryContext {
  const from = place === null ? undefined : records.place.get(place)?.id
  const ways = inOrder(records, 'passage').flatMap((passage) => {
    const to = from === undefined ? null : leadsTo(passage, from)
    return to === null ? [] : [{ passage: passage.id, to }]
  })
  return { tallies: inOrder(records, 'tally'), vocabulary: vocabularyOf(records), places: inOrder(records, 'place'), waysOut: ways, patterns: inOrder(records, 'pattern'), freeGates: freeGatesIn(records, before) }
}

/** What a line that was read adds, and the key of it. */
export function addEntry(records: Records, reading: EntryReading, row: SheetRow | undefined, routeKey: string | null): Added | { says: string } {
  return fitting(records, entered(records, reading, row, routeKey))
}

export interface Added {
  diff: Diff
  key: string
}

function entered(records: Records, reading: EntryReading, row: SheetRow | undefined, routeKey: string | null): Added | { says: string } {
  if (reading.kind === 'nothing') return { says: reading.says }
  const key = newKey()
  const id = freeId(records, reading.kind, reading.record.name)
  if (reading.kind === 'tally') return { diff: addRecord(records, 'tally', key, { id, ...reading.record }), key }
  if (reading.kind === 'place') {
    return { diff: addPlaceBehind(records, { id, ...reading.record }, { place: key, passage: newKey() }, placeOfRow(row), routeKey), key }
  }
  const spot = entrySpot(records, row)
  if (!spot) return { says: 'there is no place yet: type "place Harbour Depot" first' }
  return { diff: addItem(records, reading.kind, key, { id, ...reading.record } as never, spot), key }
}

function placeOfRow(row: SheetRow | undefined): string | null {
  return row?.type === 'place' ? row.place.key : (itemOf(row)?.row.place ?? null)
}

/** The place to which a new one joins itself that is entered at a row. */
export function entryPlaceBefore(records: Records, row: SheetRow | undefined, routeKey: string | null): string | null {
  return placeBefore(records, placeOfRow(row), routeKey)?.key ?? null
}

