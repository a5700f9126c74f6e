import { reservedWords } from '../language/words.ts'
import { mentions } from '../language/names.ts'
import { parseOrNull } from '../language/requirement.ts'
import { kindNames, type KindName, type RecordOf } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'
import { referencesOf, replacedAt, textsOf } from '../plan/references.ts'
import { roomAfter, type Room } from './room.ts'
import { slugFrom } from './slug.ts'
import { changeOf, headKey, rowOf, type Change, type Diff } from './diff.ts'

/** The designer's verbs. Each makes one diff, with the name under which it can be undone; none changes its arguments. */

function diff(name: string, changes: (Change | null)[]): Diff {
  return { name, changes: changes.filter((change): change is Change => change !== null) }
}

/** Sets fields of a record. `undefined` takes an optional field away. */
export function setFields<K extends KindName>(records: Records, kind: K, key: string, fields: Partial<RecordOf[K]>, name: string): Diff {
  const row = rowOf(records, kind, key)
  if (!row) return diff(name, [])
  return diff(name, [changeOf(kind, key, row, { ...row, ...withNulls(fields) })])
}

function withNulls(fields: object): Record<string, unknown> {
  return Object.fromEntries(Object.entries(fields).map(([field, value]) => [field, value ?? null]))
}

export function setHead(records: Records, fields: Partial<Records['head']>, name: string): Diff {
  return diff(name, [changeOf('head', headKey, records.head, { ...records.head, ...fields })])
}

/** A row without a key, an order or a place: what an editor or the entry line makes. */
export type Fresh<K extends KindName> = RecordOf[K]

/** Where in a place's contents something goes: after the item with this key, or null for the beginning. */
export interface Spot {
  place: string | null
  after: string | null
}

/** Only gates stand anywhere: a source always stands in a place. */
export function canStand(items: readonly ItemRow[], { place }: Spot): boolean {
  return place !== null || items.every(({ kind }) => kind === 'gate')
}

/** Adds a source or gate to a place's contents. */
export function addItem(records: Records, kind: 'source' | 'gate', key: string, fresh: Fresh<'source'> | Fresh<'gate'>, spot: Spot): Diff {
  const { orders: [order], changes } = roomAt(records, spot, 1)
  return diff(`add ${labelOf(fresh)}`, [changeOf(kind, key, null, { ...fresh, key, order: order!, place: spot.place }), ...changes])
}

/** Room at a spot for so many rows, of which some may stand in the place already. */
function roomAt(records: Records, { place, after }: Spot, howMany: number, moving: ReadonlySet<string> = new Set()): Room {
  const others = (contentsByPlace(records).get(place) ?? []).filter(({ row }) => !moving.has(row.key))
  return roomAfter(others, after === null ? -1 : others.findIndex(({ row }) => row.key === after), howMany)
}

/** Adds a record of a kind that has one plain list, after the record with this key or at the end. */
export function addRecord<K extends KindName>(records: Records, kind: K, key: string, fresh: Fresh<K>, after?: string): Diff {
  const rows = listOf(records, kind)
  const i = after === undefined ? rows.length - 1 : rows.findIndex(({ row }) => row.key === after)
  const { orders: [order], changes } = roomAfter(rows, i, 1)
  return diff(`add ${labelOf(fresh as { id: string })}`, [changeOf(kind, key, null, { ...fresh, key, order: order! }), ...changes])
}

const listOf = <K extends KindName>(records: Records, kind: K) => inOrder(records, kind).map((row) => ({ kind, row }))

/** Moves a source or gate to another spot, in its place or in another one. */
export function moveItem(records: Records, item: ItemRow, spot: Spot): Diff {
  return moveItems(records, [item], spot)
}

/** Moves several sources and gates together to a spot, in the order in which they are given. `spot.after` is none of them. */
export function moveItems(records: Records, items: readonly ItemRow[], spot: Spot): Diff {
  const { orders, changes } = roomAt(records, spot, items.length, new Set(items.map(({ row }) => row.key)))
  const name = items.length === 1 ? labelOf(items[0]!.row) : `${items.length} rows`
  return diff(`move ${name}`, [...items.map(({ kind, row }, i) => changeOf(kind, row.key, row, { ...row, order: orders[i]!, place: spot.place })), ...changes])
}

/** Moves a record of a plain list one step towards the beginning or the end. */
export function shiftRecord<K extends KindName>(records: Records, kind: K, key: string, by: 1 | -1): Diff {
  const rows = listOf(records, kind)
  const i = rows.findIndex(({ row }) => row.key === key)
  const moved = rows[i]
  if (!moved || !rows[i + by]) return diff('move', [])
  const { orders: [order], changes } = roomAfter(rows.filter((entry) => entry !== moved), by === 1 ? i : i - 2, 1)
  return diff(`move ${labelOf(moved.row)}`, [changeOf(kind, key, moved.row, { ...moved.row, order: order! }), ...changes])
}

/** The item one step up or down from another, crossing into the neighbouring place; null at the ends. */
export function neighbourSpot(records: Records, item: ItemRow, by: 1 | -1, places: readonly string[]): Spot | null {
  const contents = contentsByPlace(records)
  const { place, key } = item.row
  const items = contents.get(place) ?? []
  const i = items.findIndex(({ row }) => row.key === key)
  if (by === 1 && i + 1 < items.length) return { place, after: items[i + 1]!.row.key }
  if (by === -1 && i > 0) return { place, after: items[i - 2]?.row.key ?? null }
  const at = place === null ? -1 : places.indexOf(place)
  const next = places[at + by]
  if (at === -1 || next === undefined) return null
  return { place: next, after: by === 1 ? null : (contents.get(next)?.at(-1)?.row.key ?? null) }
}

/** Removes records; a place goes with its contents, and the routes' stops in it. */
export function removeRecords(records: Records, items: readonly { kind: KindName; key: string }[]): Diff {
  const places = new Set(items.filter((item) => item.kind === 'place').map((item) => item.key))
  const inside = [...records.source.values(), ...records.gate.values()].filter((row) => row.place !== null && places.has(row.place))
  const insideItems = inside.map((row) => ({ kind: (records.source.has(row.key) ? 'source' : 'gate') as KindName, key: row.key }))
  const all = new Map([...items, ...insideItems].map((item) => [item.key, item]))
  const removed = [...all.values()].map(({ kind, key }) => changeOf(kind, key, rowOf(records, kind, key) ?? null, null))
  const first = items[0] && (rowOf(records, items[0].kind, items[0].key) as { id: string } | undefined)
  const name = items.length === 1 && first ? `delete ${labelOf(first)}` : `delete ${items.length} rows`
  return diff(name, [...removed, ...stopsWithout(records, places), ...passagesWithout(records, places)])
}

function stopsWithout(records: Records, places: ReadonlySet<string>): (Change | null)[] {
  const ids = new Set([...places].map((key) => records.place.get(key)?.id))
  return inOrder(records, 'route').map((route) => {
    const stops = route.stops.filter((id) => !ids.has(id))
    return changeOf('route', route.key, route, { ...route, stops })
  })
}

function passagesWithout(records: Records, places: ReadonlySet<string>): (Change | null)[] {
  const ids = new Set([...places].map((key) => records.place.get(key)?.id))
  const touching = inOrder(records, 'passage').filter(({ from, to }) => ids.has(from) || ids.has(to))
  return touching.map((row) => changeOf('passage', row.key, row, null))
}

/** An id that no record of the kind has yet, made from a name or from another id: with the next free number, where there is one like it. */
export function freeId(records: Records, kind: KindName, from: string): string {
  const base = slugFrom(from) || kind
  const stem = base.replace(/_\d+$/, '').slice(0, 58)
  let isTaken = kind === 'tally' && reservedWords.has(base)
  const numbers = new Set<number>()
  for (const { id } of (records[kind] as ReadonlyMap<string, { id: string }>).values()) {
    isTaken ||= id === base
    if (id.startsWith(stem) && id[stem.length] === '_') addNumber(numbers, id.slice(stem.length + 1))
  }
  if (!isTaken) return base
  let n = 2
  while (numbers.has(n)) n++
  return `${stem}_${n}`
}

/** Numbers as they are written; one with zeros before it is another text. */
function addNumber(numbers: Set<number>, text: string): void {
  if (String(Number(text)) === text) numbers.add(Number(text))
}

/** Renames an id, in the record, in every reference and in every requirement text, as one step (docs/model.md). */
export function renameId(records: Records, kind: KindName, key: string, id: string): Diff {
  const row = rowOf(records, kind, key) as { id: string } | undefined
  if (!row || row.id === id) return diff('rename', [])
  const changes: (Change | null)[] = []
  for (const other of kindNames) {
    for (const target of inOrder(records, other)) {
      const renamed = renamedIn(other, target, kind, row.id, id)
      changes.push(changeOf(other, target.key, target, target.key === key ? { ...renamed, id } : renamed))
    }
  }
  if (kind === 'place' && records.head.start === row.id) changes.push(changeOf('head', headKey, records.head, { ...records.head, start: id }))
  return diff(`rename ${row.id} to ${id}`, changes)
}

/** A record with another id wherever it names a record of a kind: in its references and in its requirements. */
export function renamedIn<T extends Row>(other: KindName, target: T, kind: KindName, from: string, to: string): T {
  let next = target
  for (const reference of referencesOf(other, target)) {
    if (reference.kind === kind && reference.id === from) next = replacedAt(next, reference.path, to)
  }
  for (const { text, path } of textsOf(other, next)) {
    if (text.includes(from)) next = replacedAt(next, path, renameInText(text, kind, from, to))
  }
  return next
}

/** A requirement with a name replaced where it names a record of the kind; all else stays as it was written. */
function renameInText(text: string, kind: KindName, from: string, to: string): string {
  const node = parseOrNull(text)
  if (!node) return text
  const places = mentions(node).filter((mention) => mention.kind === kind && mention.id === from)
  return places.reduceRight((before, { from: start, to: end }) => before.slice(0, start) + to + before.slice(end), text)
}
