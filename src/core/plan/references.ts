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
    for (const { value, path } of found(row, steps, [])) {
      if (typeof value === 'string' && !(named === 'character' && value === allCharacters)) references.push({ kind: named, id: value, path })
    }
  }
  return references
}

/** Every requirement that a record holds, with the path to it. */
export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  for (const steps of patternsOf(kind).texts) {
    for (const { value, path } of found(row, steps, [])) if (typeof value === 'string') texts.push({ text: value, path })
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

function found(value: unknown, steps: readonly string[], path: Path, at = 0): { value: unknown; path: Path }[] {
  const step = steps[at]
  if (step === undefined) return [{ value, path }]
  if (value === null || typeof value !== 'object') return []
  if (step !== '*') return found((value as Record<string, unknown>)[step], steps, [...path, step], at + 1)
  return (value as unknown[]).flatMap((entry, i) => found(entry, steps, [...path, i], at + 1))
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
