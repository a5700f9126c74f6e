import type { KindName } from './kinds.ts'

export type Path = (string | number)[]

/** Where a fault of the document lies: a record and a field in it, or for the plan's head no record. */
export interface ItemRef {
  kind: KindName | 'head'
  key: string
  id: string
}

/** Codes of what can be wrong with a plan; the words are made in issue-text.ts. */
export type IssueCode =
  | 'not-json' | 'not-a-plan' | 'newer-version' | 'shape' | 'too-many'
  | 'unknown-reference' | 'duplicate-id' | 'curve-value' | 'curve-limits' | 'curve-formula' | 'requirement'
  | 'live-gate-pays' | 'live-ring' | 'stops-not-joined' | 'experience-kind' | 'negative-experience'
  | 'clamp-order' | 'start-outside' | 'start-level' | 'level-outside' | 'passage-to-itself' | 'no-stops' | 'form-order'
  | 'guards-nowhere'

/** One fault of the document. `fatal` ones keep the file from being read; the others are held, shown and mended. */
export interface PlanIssue {
  code: IssueCode
  fatal: boolean
  item: ItemRef | null
  /** The field within the item, or the whole path in the file where there is no item. */
  path: Path
  /** Column in a requirement or formula, from 1. */
  column?: number
  params: Record<string, string | number>
  /** Names that are nearly the one given. */
  fits?: string[]
}

export function pathText(path: Path): string {
  return path.map((part, i) => (typeof part === 'number' ? `[${part}]` : i === 0 ? part : `.${part}`)).join('')
}
