import type { Head } from './head.ts'
import { kindNames, type KindName, type RecordOf } from './kinds.ts'

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

/** All records of a kind in plan order. */
export function inOrder<K extends KindName>(records: Records, kind: K): Row<K>[] {
  const map = records[kind] as unknown as ReadonlyMap<string, Row<K>>
  return [...map.values()].sort(byOrder)
}

/** Every place's sources and gates in the order in which a player comes to them; under null, the gates of anywhere. */
export function contentsByPlace(records: Records): Map<string | null, ItemRow[]> {
  const contents = new Map<string | null, ItemRow[]>([[null, []]])
  for (const key of records.place.keys()) contents.set(key, [])
  for (const row of records.source.values()) contents.get(row.place)?.push({ kind: 'source', row })
  for (const row of records.gate.values()) contents.get(row.place)?.push({ kind: 'gate', row })
  for (const items of contents.values()) items.sort((a, b) => byOrder(a.row, b.row))
  return contents
}

/** The first record of a kind with this id, or undefined. */
export function byId<K extends KindName>(records: Records, kind: K, id: string): Row<K> | undefined {
  return inOrder(records, kind).find((row) => row.id === id)
}
