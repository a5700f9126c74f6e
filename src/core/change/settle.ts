import { labelOf } from '../plan/label-of.ts'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
import { changeOf, contentsField, rowOf, type Change, type Conflict, type Diff } from './diff.ts'

/** What a diff changes that was changed elsewhere, in words: what it is, what becomes of it by the diff, and what stands there now. */
export interface ConflictWords {
  what: string
  mine: string
  theirs: string
}

export function conflictWords(records: Records, { changes }: Diff, { kind, key, field, found }: Conflict): ConflictWords {
  const change = changes.find((c) => c.kind === kind && c.key === key)
  const row = (rowOf(records, kind, key) ?? change?.after ?? change?.before) as { id?: string; name?: string } | null | undefined
  const called = row?.id === undefined ? kind : labelOf(row as { id: string; name?: string })
  if (field === null) return { what: `${called} · the whole record`, mine: change?.after ? 'kept' : 'deleted', theirs: found === null ? 'deleted' : 'kept' }
  if (field === contentsField) return { what: `${called} · what it holds`, mine: 'deleted', theirs: `added there: ${(found as string[]).join(', ')}` }
  if (isPlaceLost(kind, field, found)) {
    const home = homeOf(records)
    return { what: `${called} · its place`, mine: home ? `kept, in ${labelOf(home)}` : 'left out: there is no place', theirs: 'deleted' }
  }
  return { what: `${called} · ${field}`, mine: change?.after ? shown(change.after[field]) : 'deleted', theirs: shown(found) }
}

function shown(value: unknown): string {
  return typeof value === 'string' ? value : JSON.stringify(value ?? null)
}

const isPlaceLost = (kind: Conflict['kind'], field: string | null, found: unknown) => (kind === 'source' || kind === 'gate') && field === 'place' && found === null

/** Where goes what lost its place: where the plan begins. */
function homeOf(records: Records) {
  const places = inOrder(records, 'place')
  return places.find(({ id }) => id === records.head.start) ?? places[0]
}

/** A diff again, put over what stands in its way; of records that are there no more, or are there already, nothing is changed. */
export function putOver(records: Records, diff: Diff, conflicts: readonly Conflict[]): Diff {
  const named = new Set(diff.changes.map(({ key }) => key))
  const changes = diff.changes.flatMap((change): readonly Change[] => {
    const own = conflicts.filter(({ kind, key }) => kind === change.kind && key === change.key)
    if (own.length === 0) return [change]
    if (own.some(({ field }) => field === null)) return []
    return change.after === null ? removedNow(records, change, named) : changedNow(records, change, own)
  })
  return { ...diff, changes }
}

/** What is deleted is deleted as it stands now, a place with the rows that it holds beside those that are changed anyway. */
function removedNow(records: Records, { kind, key }: Change, named: ReadonlySet<string>): Change[] {
  const held = kind === 'place' ? (contentsByPlace(records).get(key) ?? []).filter(({ row }) => !named.has(row.key)) : []
  return [...held.map((item) => changeOf(item.kind, item.row.key, item.row, null)!), changeOf(kind, key, rowOf(records, kind, key)!, null)!]
}

function changedNow(records: Records, change: Change, conflicts: readonly Conflict[]): Change[] {
  const isLost = ({ kind, field, found }: Conflict) => isPlaceLost(kind, field, found)
  const home = homeOf(records)
  const isHomeless = conflicts.some(isLost)
  if (isHomeless && !home) return []
  const after = isHomeless ? { ...change.after, place: home!.key } : change.after
  const standing = conflicts.filter((conflict) => !isLost(conflict)).map(({ field, found }) => [field!, found as never])
  return [{ ...change, after, before: change.before && { ...change.before, ...Object.fromEntries(standing) } }]
}
