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
  for (const { pattern, named } of patternsOf(kind).refs) {
    visit(row, pattern, (id, { path, steps }) => {
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
  for (const pattern of patternsOf(kind).texts) visit(row, pattern, (text, { path }) => tell(text, path))
}

export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  eachText(kind, row, (text, path) => texts.push({ text, path: path() }))
  return texts
}

/** Steps to texts in a record, of which each * stands for all entries of a list. */
interface Pattern {
  steps: readonly string[]
  /** While a text is told of: the numbers of the entries that it is within, and its whole path. */
  entries: number[]
  path: () => Path
}

interface Patterns {
  refs: { pattern: Pattern; named: KindName }[]
  texts: Pattern[]
}

/** The paths of kinds.ts cut into their steps, once for each kind. */
const cut = new Map<KindName, Patterns>()
function patternsOf(kind: KindName): Patterns {
  if (!cut.has(kind)) {
    const { refs, texts } = kindEntry(kind)
    cut.set(kind, { refs: Object.entries(refs).map(([path, named]) => ({ pattern: patternOf(path), named })), texts: texts.map(patternOf) })
  }
  return cut.get(kind)!
}

function patternOf(path: string): Pattern {
  const [steps, entries]: [string[], number[]] = [path.split('.'), []]
  return { steps, entries, path: () => {
    let entry = 0
    return steps.map((step) => (step === '*' ? entries[entry++]! : step))
  } }
}

/** Tells of every text that a pattern leads to. */
function visit(value: unknown, pattern: Pattern, tell: (value: string, pattern: Pattern) => void, at = 0): void {
  const step = pattern.steps[at]
  if (step === undefined) {
    if (typeof value === 'string') tell(value, pattern)
    return
  }
  if (value === null || typeof value !== 'object') return
  if (step !== '*') return visit((value as Record<string, unknown>)[step], pattern, tell, at + 1)
  const [list, { entries }] = [value as unknown[], pattern]
  for (let i = 0; i < list.length; i++) {
    entries.push(i)
    visit(list[i], pattern, tell, at + 1)
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
