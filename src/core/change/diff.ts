import { z } from 'zod'
import { copyToChange } from '../plan/changed-map.ts'
import { kindNames } from '../plan/kinds.ts'
import type { KindName } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { contentsByPlace, keepOrder, type Records } from '../plan/records.ts'
import { remembered } from '../plan/remembered.ts'
import type { MissingTally } from './missing-tally.ts'

const fields = z.record(z.string(), z.json())

/**
 * One record's change. `before` null: it is added; `after` null: it is removed; both: the fields that differ.
 * The plan's head is changed under kind `head` and key `head`. A field that is absent stands as null.
 */
export const Change = z.strictObject({
  kind: z.enum(['head', ...kindNames]),
  key: z.string().min(1).max(80),
  before: fields.nullable(),
  after: fields.nullable(),
})
export type Change = z.infer<typeof Change>

/** A named, invertible change of a plan: what an edit, an undo, a fix and a comparison are made of. */
export const Diff = z.strictObject({ name: z.string().max(500), changes: z.array(Change).max(400_000) })
export type Diff = z.infer<typeof Diff>

/** What came of an edit: a diff to commit, or why it cannot be made, and the tally with which it could. */
export type Edited = { diff: Diff } | { says: string; missing?: MissingTally }

type Fields = Record<string, unknown>

export const headKey = 'head'

/** A diff met something else than it was made on: which record, which field, what it expected and what stands there. */
export class ConflictError extends Error {
  override readonly name = 'ConflictError'
  constructor(readonly conflicts: Conflict[]) {
    super(`${conflicts.length} fields hold something else than this change was made on`)
  }
}

export interface Conflict {
  kind: Change['kind']
  key: string
  /** The field; null: the record itself is missing, or there already. */
  field: string | null
  expected: unknown
  found: unknown
}

/** The plan with a diff applied. Throws ConflictError, and changes nothing, where the plan is not what it was made on. */
export function apply(records: Records, diff: Diff): Records {
  const conflicts = conflictsOf(records, diff)
  if (conflicts.length) throw new ConflictError(conflicts)
  return applied(records, diff)
}

/** Where a plan is not what a diff was made on. Changes of other fields do not stand in each other's way. */
export function conflictsOf(records: Records, diff: Diff): Conflict[] {
  return [...fieldConflicts(records, diff), ...lostPlaces(records, diff), ...heldPlaces(records, diff)]
}

function fieldConflicts(records: Records, diff: Diff): Conflict[] {
  return diff.changes.flatMap((change): Conflict[] => {
    const { kind, key } = change
    const row = rowOf(records, kind, key)
    if (change.before === null) return row === undefined ? [] : [{ kind, key, field: null, expected: null, found: row }]
    if (row === undefined) return [{ kind, key, field: null, expected: change.before, found: null }]
    return Object.entries(change.before).flatMap(([field, expected]) => {
      const found = row[field] ?? null
      return equal(found, expected) ? [] : [{ kind, key, field, expected, found }]
    })
  })
}

/** Rows that the diff would put into a place which is there no more: they would be in none. */
function lostPlaces(records: Records, { changes }: Diff): Conflict[] {
  const places = changes.filter(({ kind }) => kind === 'place')
  const added = new Set(places.filter(({ before }) => before === null).map(({ key }) => key))
  const removed = new Set(places.filter(({ after }) => after === null).map(({ key }) => key))
  return changes.flatMap(({ kind, key, after }): Conflict[] => {
    if (kind !== 'source' && kind !== 'gate') return []
    const place = after?.place
    if (typeof place !== 'string' || added.has(place) || (records.place.has(place) && !removed.has(place))) return []
    return [{ kind, key, field: 'place', expected: place, found: null }]
  })
}

/** The field of a conflict about what a place holds. */
export const contentsField = 'contents'

/** Places that the diff removes, and that hold more than what it takes out of them. */
function heldPlaces(records: Records, { changes }: Diff): Conflict[] {
  const removed = changes.filter(({ kind, after }) => kind === 'place' && after === null)
  if (removed.length === 0) return []
  const leaving = new Set(changes.filter(({ after }) => after === null || 'place' in after).map(({ key }) => key))
  return removed.flatMap(({ key }): Conflict[] => {
    const held = (contentsByPlace(records).get(key) ?? []).filter(({ row }) => !leaving.has(row.key))
    return held.length ? [{ kind: 'place', key, field: contentsField, expected: [], found: held.map(({ row }) => labelOf(row)) }] : []
  })
}

function applied(records: Records, diff: Diff): Records {
  const next = { ...records } as { -readonly [K in keyof Records]: Records[K] }
  const copies = new Map<KindName, ReturnType<typeof copyToChange<string, Fields>>>()
  for (const change of diff.changes) {
    const { kind, key } = change
    if (kind === 'head') {
      next.head = rowAfter(next.head as unknown as Fields, change) as unknown as Records['head']
      continue
    }
    const rows = remembered(copies, kind, () => copyToChange(records[kind] as unknown as ReadonlyMap<string, Fields>, diff.changes.length))
    if (change.after === null) rows.delete(key)
    else rows.set(key, rowAfter(rows.get(key), change))
  }
  Object.assign(next, Object.fromEntries(copies))
  keepOrder(records, next, keysByKind(diff))
  return next
}

function keysByKind({ changes }: Diff): Map<KindName, Set<string>> {
  const keys = new Map<KindName, Set<string>>()
  for (const { kind, key } of changes) if (kind !== 'head') keys.set(kind, (keys.get(kind) ?? new Set()).add(key))
  return keys
}

/** Fields that may be absent; a null for one of them takes it away. All others may hold null themselves. */
const absentable: ReadonlySet<string> = new Set(['pattern', 'kind', 'yields', 'takes', 'respawns', 'minutes'])

function merge(row: Fields, after: Fields): Fields {
  const next = { ...row, ...after }
  for (const [field, value] of Object.entries(after)) if (value === null && absentable.has(field)) delete next[field]
  return next
}

/** What a change that removes nothing makes of a record; of none, where it adds one. */
export function rowAfter(row: Fields | undefined, { before, after }: Change): Fields {
  return merge(before === null ? {} : (row ?? {}), after ?? {})
}

/** The record under a key, or undefined. */
export function rowOf(records: Records, kind: Change['kind'], key: string): Fields | undefined {
  if (kind === 'head') return records.head as unknown as Fields
  return (records[kind] as ReadonlyMap<string, unknown>).get(key) as Fields | undefined
}

/** The diff that takes another back. */
export function invert(diff: Diff, name = diff.name): Diff {
  const changes = diff.changes.map(({ kind, key, before, after }) => ({ kind, key, before: after, after: before }))
  return { name, changes: changes.reverse() }
}

/** Several diffs, one after another, as one. What was changed and changed back is left out. */
export function squash(diffs: readonly Diff[], name: string): Diff {
  const byRecord = new Map<string, Change>()
  for (const change of diffs.flatMap((diff) => diff.changes)) {
    const id = `${change.kind} ${change.key}`
    const earlier = byRecord.get(id)
    const both = earlier ? followed(earlier, change) : change
    byRecord.delete(id)
    if (both) byRecord.set(id, both)
  }
  return { name, changes: [...byRecord.values()] }
}

function followed(first: Change, then: Change): Change | null {
  const { kind, key } = first
  if (first.before === null && then.after === null) return null
  if (first.after === null) return trimmed({ kind, key, before: first.before, after: then.after })
  if (first.before === null) return { kind, key, before: null, after: { ...first.after, ...then.after } }
  if (then.after === null) return { kind, key, before: { ...then.before, ...first.before }, after: null }
  return trimmed({ kind, key, before: { ...then.before, ...first.before }, after: { ...first.after, ...then.after } })
}

/** Without fields that are the same before and after; null when nothing is left. */
function trimmed(change: Change): Change | null {
  const { before, after } = change
  if (before === null || after === null) return change
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((field) => !equal(before[field] ?? null, after[field] ?? null))
  if (names.length === 0) return null
  const only = (from: NonNullable<Change['before']>) => Object.fromEntries(names.map((field) => [field, from[field] ?? null]))
  return { ...change, before: only(before), after: only(after) }
}

export function isEmpty(diff: Diff): boolean {
  return diff.changes.length === 0
}

/** Whether two JSON values are the same, whatever the order of their keys. Thousands are compared after each edit: nothing is made on the way. */
export function equal(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return false
  return Array.isArray(a) ? Array.isArray(b) && equalLists(a, b) : !Array.isArray(b) && equalFields(a as Fields, b as Fields)
}

function equalLists(a: readonly unknown[], b: readonly unknown[]): boolean {
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (!equal(a[i], b[i])) return false
  return true
}

function equalFields(a: Fields, b: Fields): boolean {
  let more = 0
  for (const key in a) {
    const other = b[key]
    if (!equal(a[key], other) || (other === undefined && !Object.hasOwn(b, key))) return false
    more++
  }
  for (const _ in b) more--
  return more === 0
}

/** The change that turns one state of a record into another; null when they are the same. */
export function changeOf(kind: Change['kind'], key: string, before: object | null, after: object | null): Change | null {
  return trimmed({ kind, key, before: before as Change['before'], after: after as Change['after'] })
}

/** Everything in which two plans differ. */
export function diffOf(before: Records, after: Records, name: string): Diff {
  const changes = [changeOf('head', headKey, before.head, after.head)]
  for (const kind of kindNames) {
    const [a, b] = [before[kind], after[kind]] as ReadonlyMap<string, object>[] as [ReadonlyMap<string, object>, ReadonlyMap<string, object>]
    for (const [key, row] of a) if (row !== b.get(key)) changes.push(changeOf(kind, key, row, b.get(key) ?? null))
    for (const [key, row] of b) if (!a.has(key)) changes.push(changeOf(kind, key, null, row))
  }
  return { name, changes: changes.filter((change): change is Change => change !== null) }
}
