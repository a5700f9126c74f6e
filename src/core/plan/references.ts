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

/** Every id that a record names in its fields (not in its texts), with the path to it. */
export function referencesOf(kind: KindName, row: object): Reference[] {
  const references: Reference[] = []
  for (const { steps, named } of patternsOf(kind).refs) {
    visit(row, steps, (value, path) => {
      if (typeof value === 'string' && !(named === 'character' && value === allCharacters)) references.push({ kind: named, id: value, path: path() })
    })
  }
  return references
}

/** Every requirement that a record holds, with the path to it. */
export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  for (const steps of patternsOf(kind).texts) {
    visit(row, steps, (value, path) => {
      if (typeof value === 'string') texts.push({ text: value, path: path() })
    })
  }
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

/** Every value at a path, of which each * stands for all entries of a list. Most records have nothing there: paths are made when asked for. */
function visit(value: unknown, steps: readonly string[], tell: (value: unknown, path: () => Path) => void, at = 0, entries: readonly number[] = []): void {
  const step = steps[at]
  if (step === undefined) {
    let entry = 0
    return tell(value, () => steps.map((one) => (one === '*' ? entries[entry++]! : one)))
  }
  if (value === null || typeof value !== 'object') return
  if (step !== '*') return visit((value as Record<string, unknown>)[step], steps, tell, at + 1, entries)
  ;(value as unknown[]).forEach((each, i) => visit(each, steps, tell, at + 1, [...entries, i]))
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
