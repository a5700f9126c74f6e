import { Head } from './head.ts'
import { pathText } from './issue.ts'
import { kindEntry, type KindName } from './kinds.ts'

/** A field of a record that has not its kind's shape, and what would fit. */
export interface RecordFault {
  path: string
  message: string
}

/** All that keeps a record, or the plan's head, from its shape. */
export function recordFaults(kind: KindName | 'head', record: object): RecordFault[] {
  const parsed = (kind === 'head' ? Head : kindEntry(kind).schema).safeParse(record)
  return parsed.success ? [] : parsed.error.issues.map(({ path, message }) => ({ path: pathText(path as (string | number)[]), message }))
}

/** The first of it, in words; null: there is nothing. */
export function recordFault(kind: KindName | 'head', record: object): string | null {
  return recordFaults(kind, record)[0]?.message ?? null
}
