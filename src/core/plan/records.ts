import { plainMap } from './changed-map.ts'
import type { Head } from './head.ts'
import { kindNames, type KindName, type RecordOf } from './kinds.ts'
import { leastOf } from './least-of.ts'
import { remembered } from './remembered.ts'

/** What a record carries beside its own fields: a key that outlives a change of id, and its place in the order. */
export interface Keyed {
  key: string
  order: string
}
/** Sources and gates stand in the contents of the place with this key; a gate with null stands anywhere. */
export interface Placed extends Keyed {
  place: string | null
}

export type Row<K extends KindName = KindName> = K extends KindName ? RecordOf[K] & (K extends 'source' | 'gate' ? Placed : Keyed) : never

/** A plan as flat records by kind: the form in which it is edited, stored and compared. */
export type Records = { head: Head } & { [K in KindName]: ReadonlyMap<string, Row<K>> }

/** The same in a form that goes from one thread to another. */
export type PlainRecords = { head: Head } & { [K in KindName]: Map<string, Row<K>> }

export function plainRecords(records: Records): PlainRecords {
  const maps = kindNames.map((kind) => [kind, plainMap(records[kind] as ReadonlyMap<string, unknown>)])
  return { head: records.head, ...Object.fromEntries(maps) } as PlainRecords
}

export type ItemRow =
  | { kind: 'source'; row: Row<'source'> }
  | { kind: 'gate'; row: Row<'gate'> }

export function emptyRecords(head: Head): Records {
  const maps = Object.fromEntries(kindNames.map((kind) => [kind, new Map()]))
  return { head, ...maps } as unknown as Records
}

function byOrder(a: Keyed, b: Keyed): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1
  return a.key < b.key ? -1 : a.key > b.key ? 1 : 0
}

/** Records are never changed, only replaced: what was put in order once stays so. */
const orders = new WeakMap<ReadonlyMap<string, Keyed>, readonly Keyed[]>()
const contentsKnown = new WeakMap<Records, Contents>()

/** All records of a kind in plan order. */
export function inOrder<K extends KindName>(records: Pick<Records, K>, kind: K): readonly Row<K>[] {
  const map = records[kind] as unknown as ReadonlyMap<string, Row<K>>
  return remembered(orders, map, () => [...map.values()].sort(byOrder)) as readonly Row<K>[]
}

/** By key of the place its sources and gates in the order in which a player comes to them; under null, the gates of anywhere. */
export type Contents = ReadonlyMap<string | null, readonly ItemRow[]>

export function contentsByPlace(records: Records): Contents {
  return remembered(contentsKnown, records, () => sortedContents(records))
}

function sortedContents(records: Records): Contents {
  const contents = new Map<string | null, ItemRow[]>([[null, []]])
  for (const key of records.place.keys()) contents.set(key, [])
  for (const row of records.source.values()) contents.get(row.place)?.push({ kind: 'source', row })
  for (const row of records.gate.values()) contents.get(row.place)?.push({ kind: 'gate', row })
  for (const items of contents.values()) items.sort((a, b) => byOrder(a.row, b.row))
  return contents
}

/** Takes over to changed records what of their order still stands, so that not all is put in order again. `changed`: by kind the keys. */
export function keepOrder(before: Records, after: Records, changed: ReadonlyMap<KindName, ReadonlySet<string>>): void {
  for (const [kind, keys] of changed) keepOrderOf(before[kind], after[kind], keys)
  const contents = contentsKnown.get(before)
  const isSamePlaces = before.place === after.place || [...(changed.get('place') ?? [])].every((key) => before.place.has(key) && after.place.has(key))
  if (contents && isSamePlaces) contentsKnown.set(after, contentsAfter(contents, before, after, changed))
}

function keepOrderOf(before: ReadonlyMap<string, Keyed>, after: ReadonlyMap<string, Keyed>, keys: ReadonlySet<string>): void {
  const known = orders.get(before)
  if (!known || ![...keys].every((key) => before.get(key)?.order === after.get(key)?.order)) return
  const rows = [...known]
  for (const key of keys) {
    const was = before.get(key)
    if (was) rows[leastOf(0, known.length, (i) => byOrder(known[i]!, was) >= 0)] = after.get(key)!
  }
  orders.set(after, rows)
}

function contentsAfter(contents: Contents, before: Records, after: Records, changed: ReadonlyMap<KindName, ReadonlySet<string>>): Contents {
  const next = new Map(contents)
  for (const kind of ['source', 'gate'] as const) {
    for (const key of changed.get(kind) ?? []) {
      const [was, row] = [before[kind].get(key), after[kind].get(key)]
      const isOther = (item: ItemRow) => item.kind !== kind || item.row.key !== key
      if (was) next.set(was.place, (next.get(was.place) ?? []).filter(isOther))
      if (row && next.has(row.place)) next.set(row.place, [...next.get(row.place)!, { kind, row } as ItemRow].sort((a, b) => byOrder(a.row, b.row)))
    }
  }
  return next
}

const keysKnown = new WeakMap<object, ReadonlyMap<string, string>>()

/** By id the key of the first record of a kind that has it. */
export function keysOf(records: Records, kind: KindName): ReadonlyMap<string, string> {
  return remembered(keysKnown, records[kind], () => new Map([...inOrder(records, kind)].reverse().map(({ id, key }) => [id, key])))
}

/** The first record of a kind with this id, or undefined. */
export function byId<K extends KindName>(records: Records, kind: K, id: string): Row<K> | undefined {
  return inOrder(records, kind).find((row) => row.id === id)
}
