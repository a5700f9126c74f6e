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
  for (const { steps, named } of patternsOf(kind)) {
    for (const { value, path } of found(row, steps, [])) {
      if (typeof value === 'string' && !(named === 'character' && value === allCharacters)) references.push({ kind: named, id: value, path })
    }
  }
  return references
}

/** Every requirement that a record holds, with the path to it. */
export function textsOf(kind: KindName, row: object): { text: string; path: Path }[] {
  const texts: { text: string; path: Path }[] = []
  for (const steps of textPatternsOf(kind)) {
    for (const { value, path } of found(row, steps, [])) if (typeof value === 'string') texts.push({ text: value, path })
  }
  return texts
}

const cutTexts = new Map<KindName, string[][]>()
function textPatternsOf(kind: KindName): string[][] {
  if (!cutTexts.has(kind)) cutTexts.set(kind, kindEntry(kind).texts.map((pattern) => pattern.split('.')))
  return cutTexts.get(kind)!
}

/** The paths of kinds.ts cut into their steps, once for each kind. */
const cut = new Map<KindName, { steps: string[]; named: KindName }[]>()
function patternsOf(kind: KindName): { steps: string[]; named: KindName }[] {
  if (!cut.has(kind)) cut.set(kind, Object.entries(kindEntry(kind).refs).map(([pattern, named]) => ({ steps: pattern.split('.'), named })))
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
