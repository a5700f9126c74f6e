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

/**
 * Tells of every id that a record names in its fields (not in its texts). Paths to them are made when they are asked for: few are.
 * `steps`: the same, with * for the numbers of entries.
 */
export function eachReference(kind: KindName, row: object, tell: (named: KindName, id: string, path: () => Path, steps: readonly string[]) => void): void {
  for (const { steps, named } of patternsOf(kind).refs) {
    visit(row, steps, (id, path) => {
      if (!(named === 'character' && id === allCharacters)) tell(named, id, path, steps)
    })
  }
}

/** All of them, with their paths. */
export function referencesOf(kind: KindName, row: object): Reference[] {
  const references: Reference[] = []
  eachReference(kind, row, (named, id, path) => references.push({ kind: named, id, path: path() }))
  return references
}

/** Tells of every requirement that a record holds, in the same way. */
export function eachText(kind: KindName, row: object, tell: (text: string, path: () => Path) => void): void {
  for (const steps of patternsOf(kind).texts) visit(row, steps, tell)
}

export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  eachText(kind, row, (text, path) => texts.push({ text, path: path() }))
  return texts
}

interface Patterns {
  refs: { steps: string[]; named: KindName }[]
  texts: string[][]
}

/** The paths of kinds.ts cut into their steps, once for each kind. */
const cut = new Map<KindName, Patterns>()
function patternsOf(kind: KindName): Patterns {
  if (!cut.has(kind)) {
    const { refs, texts } = kindEntry(kind)
    cut.set(kind, { refs: Object.entries(refs).map(([pattern, named]) => ({ steps: pattern.split('.'), named })), texts: texts.map((pattern) => pattern.split('.')) })
  }
  return cut.get(kind)!
}

/** Every text at a path, of which each * stands for all entries of a list. `entries`: those that it is within, while it is told of. */
function visit(value: unknown, steps: readonly string[], tell: (value: string, path: () => Path) => void, at = 0, entries: number[] = []): void {
  const step = steps[at]
  if (step === undefined) {
    if (typeof value !== 'string') return
    let entry = 0
    return tell(value, () => steps.map((one) => (one === '*' ? entries[entry++]! : one)))
  }
  if (value === null || typeof value !== 'object') return
  if (step !== '*') return visit((value as Record<string, unknown>)[step], steps, tell, at + 1, entries)
  const list = value as unknown[]
  for (let i = 0; i < list.length; i++) {
    entries.push(i)
    visit(list[i], steps, tell, at + 1, entries)
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
