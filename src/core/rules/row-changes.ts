import type { Change } from '../change/diff.ts'
import type { ItemRow, Records } from '../plan/records.ts'
import type { PlanIndex } from './plan-index.ts'

/** What changes come to, row by row: sources and gates that are others than they were, new ones, and those that are there no more. */
export interface RowChanges {
  changed: ItemRow[]
  added: ItemRow[]
  removed: ItemRow[]
  /** Whether any of them is new, gone, somewhere else, or guards something else. */
  isShape: boolean
}

export function everyRow({ removed, changed, added }: RowChanges): ItemRow[] {
  return [...removed, ...changed, ...added]
}

/** Fields of a source or gate that bear on itself alone, and those that say where it stands and what it guards. */
const own = {
  source: ['name', 'kind', 'pattern', 'role', 'count', 'yields', 'takes', 'requires', 'respawns', 'minutes', 'caps'],
  gate: ['name', 'kind', 'role', 'requires', 'costs', 'due', 'yields', 'caps', 'lockedText', 'minutes'],
} as const satisfies Record<ItemRow['kind'], readonly string[]>
const shape: ReadonlySet<string> = new Set(['place', 'order', 'guards'])

/**
 * Changes as they touch single sources and gates; null where they touch more, or what others are called. `records`: the plan after
 * them; `index`: of the plan before.
 */
export function rowChangesOf(index: PlanIndex, records: Records, changes: readonly Change[]): RowChanges | null {
  const rows: RowChanges = { changed: [], added: [], removed: [], isShape: false }
  for (const change of changes) if (!add(rows, index, records, change)) return null
  rows.isShape ||= rows.added.length + rows.removed.length > 0
  const ids = new Set(rows.added.map(({ kind, row }) => `${kind} ${row.id}`))
  return ids.size === rows.added.length ? rows : null
}

/** Whether a change could be added to others. */
function add(rows: RowChanges, index: PlanIndex, records: Records, { kind, key, before, after }: Change): boolean {
  if (kind !== 'source' && kind !== 'gate') return false
  const [was, row] = [index.records[kind].get(key), records[kind].get(key)]
  // Where two have one id, the first of them is what is meant by it.
  if (was && index.rows[kind][index.indexOf(kind, was.id) ?? -1]?.key !== key) return false
  if (before === null || after === null) {
    const isNew = before === null
    if (isNew ? !row || index.indexOf(kind, row.id) !== undefined : !was) return false
    rows[isNew ? 'added' : 'removed'].push({ kind, row: isNew ? row : was } as ItemRow)
    return true
  }
  const fields = Object.keys({ ...before, ...after })
  const isOwn = (field: string) => (own[kind] as readonly string[]).includes(field)
  if (!row || !fields.every((field) => isOwn(field) || shape.has(field))) return false
  rows.isShape ||= fields.some((field) => shape.has(field))
  rows.changed.push({ kind, row } as ItemRow)
  return true
}
