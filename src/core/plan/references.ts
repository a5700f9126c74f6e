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
  return Object.entries(kindEntry(kind).refs).flatMap(([pattern, named]) =>
    found(row, pattern.split('.'), []).flatMap(({ value, path }) =>
      typeof value === 'string' && !(named === 'character' && value === allCharacters) ? [{ kind: named, id: value, path }] : [],
    ),
  )
}

function found(value: unknown, pattern: string[], path: Path): { value: unknown; path: Path }[] {
  const [step, ...rest] = pattern
  if (step === undefined) return [{ value, path }]
  if (value === null || typeof value !== 'object') return []
  if (step !== '*') return found((value as Record<string, unknown>)[step], rest, [...path, step])
  return (value as unknown[]).flatMap((entry, i) => found(entry, rest, [...path, i]))
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
