import type { Path } from './issue.ts'
import { kindEntry, type KindName } from './kinds.ts'

/** A place in a record where another record is named by its id. */
export interface Reference {
  kind: KindName
  id: string
  path: Path
}

/** The word that stands for every character in a new cap. */
export const allCharacters = 'all'

/** Where in the records of a kind a text stands: an id of a record of the kind `named`, or a requirement (null). */
export interface TextField {
  named: KindName | null
  /** From field to field, with * for all entries of a list. */
  steps: readonly string[]
  /** The whole path, while a text of it is told of: it is made when it is asked for, for few are. */
  path: () => Path
}

/** Is told of a text, and of where it stands. */
export type Told = (text: string, field: TextField) => void

/** Tells of every id that a record names in its fields (not in its texts). */
export function eachReference(kind: KindName, row: object, tell: Told): void {
  for (const field of fieldsOf(kind).refs) visit(row, field, tell)
}

/** All of them, with their paths. */
export function referencesOf(kind: KindName, row: object): Reference[] {
  const references: Reference[] = []
  eachReference(kind, row, (id, { named, path }) => references.push({ kind: named!, id, path: path() }))
  return references
}

/** Tells of every requirement that a record holds, in the same way. */
export function eachText(kind: KindName, row: object, tell: Told): void {
  for (const field of fieldsOf(kind).texts) visit(row, field, tell)
}

export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  eachText(kind, row, (text, { path }) => texts.push({ text, path: path() }))
  return texts
}

interface WalkedField extends TextField {
  /** The numbers of the entries that are being looked at. */
  entries: number[]
}

/** The paths of kinds.ts cut into their steps, once for each kind. */
const cut = new Map<KindName, { refs: WalkedField[]; texts: WalkedField[] }>()
function fieldsOf(kind: KindName) {
  if (!cut.has(kind)) {
    const { refs, texts } = kindEntry(kind)
    cut.set(kind, { refs: Object.entries(refs).map(([path, named]) => fieldAt(path, named)), texts: texts.map((path) => fieldAt(path, null)) })
  }
  return cut.get(kind)!
}

function fieldAt(path: string, named: KindName | null): WalkedField {
  const [steps, entries]: [string[], number[]] = [path.split('.'), []]
  return { named, steps, entries, path: () => {
    let entry = 0
    return steps.map((step) => (step === '*' ? entries[entry++]! : step))
  } }
}

function visit(value: unknown, field: WalkedField, tell: Told, at = 0): void {
  const step = field.steps[at]
  if (step === undefined) {
    if (typeof value === 'string' && !(field.named === 'character' && value === allCharacters)) tell(value, field)
    return
  }
  if (value === null || typeof value !== 'object') return
  if (step !== '*') return visit((value as Record<string, unknown>)[step], field, tell, at + 1)
  const [list, { entries }] = [value as unknown[], field]
  for (let i = 0; i < list.length; i++) {
    entries.push(i)
    visit(list[i], field, tell, at + 1)
    entries.pop()
  }
}

/** The record with the value at a path replaced; nothing else is copied more deeply than it must be. */
export function replacedAt<T>(value: T, path: Path, by: unknown): T {
  const [step, ...rest] = path
  if (step === undefined) return by as T
  const copy: unknown = Array.isArray(value) ? [...(value as unknown[])] : { ...value }
  const at = copy as Record<string | number, unknown>
  at[step] = replacedAt(at[step], rest, by)
  return copy as T
}
