import { crowds, crowdText } from '../plan/bounds.ts'
import type { KindName } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { recordFaults, type RecordFault } from '../plan/record-fault.ts'
import type { Records } from '../plan/records.ts'
import { rowAfter, rowOf, type Change, type Diff } from './diff.ts'

/** What a diff would leave behind without the shape that the plan file asks for. */
export function shapeFaults(records: Records, { changes }: Diff): RecordFault[] {
  return changes.flatMap((change) => faultsOf(records, change))
}

/** The first thing that a diff would leave behind without its shape, as a sentence; null: there is none. */
export function shapeFault(records: Records, { changes }: Diff): string | null {
  for (const change of changes) {
    const [fault] = faultsOf(records, change)
    if (!fault) continue
    const named = rowAfter(rowOf(records, change.kind, change.key), change) as { id: string; name?: string }
    return `${labelOf(named).slice(0, 40)}: ${fault.message}`
  }
  return crowdFault({ changes }, (kind) => records[kind].size)
}

/** Of which kinds a diff leaves more than it finds, and by how many. */
export function growth({ changes }: Pick<Diff, 'changes'>): Map<KindName, number> {
  const by = new Map<KindName, number>()
  for (const { kind, before, after } of changes) {
    if (kind !== 'head') by.set(kind, (by.get(kind) ?? 0) + Number(before === null) - Number(after === null))
  }
  return new Map([...by].filter(([, more]) => more > 0))
}

/** The first kind of which a diff would leave more than a plan may hold, as a sentence. `found`: how many there are of those that grow. */
export function crowdFault(diff: Pick<Diff, 'changes'>, found: (kind: KindName) => number): string | null {
  const more = growth(diff)
  const [crowd] = crowds((kind) => (more.has(kind) ? found(kind) + more.get(kind)! : 0))
  return crowd ? crowdText(crowd) : null
}

function faultsOf(records: Records, change: Change): RecordFault[] {
  if (change.after === null) return []
  const after = rowAfter(rowOf(records, change.kind, change.key), change)
  if (change.kind === 'head') return faultsIn('head', after, 'plan')
  const { key, order, place, ...fields } = after
  const stands = { source: typeof place === 'string', gate: place === null || typeof place === 'string' }[change.kind as string] ?? true
  const isWhole = key === change.key && typeof order === 'string' && order !== '' && stands
  const loose = isWhole ? [] : [{ path: `${change.kind} ${change.key}`, message: 'a record needs its key, its order and, for a source or gate, its place' }]
  return [...loose, ...faultsIn(change.kind, fields, `${change.kind} ${String(fields.id)}`)]
}

/** `where`: names the record before the path in it. */
function faultsIn(kind: Change['kind'], record: object, where: string): RecordFault[] {
  return recordFaults(kind, record).map(({ path, message }) => ({ path: `${where}: ${path}`, message }))
}
