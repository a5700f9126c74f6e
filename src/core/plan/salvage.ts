import type { z } from 'zod'
import type { Raw } from './kinds.ts'
import { replacedAt } from './references.ts'

const mostRounds = 12

type Schema<T> = { safeParse(value: unknown): { success: true; data: T } | { success: false; error: { issues: z.core.$ZodIssue[] } } }

/**
 * A value whose shape is wrong in places, with stand-ins there, so that what else is wrong with it can be told in the same breath.
 * Null where it cannot be mended so. What is at fault in the stand-ins themselves means nothing.
 */
export function salvage<T>(schema: Schema<T>, raw: Raw): T | null {
  let value: unknown = raw
  for (let round = 0; round < mostRounds; round++) {
    const parsed = schema.safeParse(value)
    if (parsed.success) return parsed.data
    value = parsed.error.issues.reduce(mended, value)
  }
  return null
}

function mended(value: unknown, issue: z.core.$ZodIssue): unknown {
  const path = issue.path as (string | number)[]
  if (issue.code === 'unrecognized_keys') return issue.keys.reduce((rest, key) => without(rest, [...path, key]), value)
  const standIn = standInFor(issue, at(value, path))
  return standIn === undefined ? without(value, path) : replacedAt(value, path, standIn)
}

function standInFor(issue: z.core.$ZodIssue, found: unknown): unknown {
  switch (issue.code) {
    case 'invalid_type':
      return { string: 'stand_in', number: 1, int: 1, boolean: false, array: [], object: {} }[issue.expected as string]
    case 'invalid_value':
      return issue.values[0]
    case 'too_big':
      return typeof found === 'number' ? issue.maximum : 'stand_in'
    case 'too_small':
      return typeof found === 'number' ? issue.minimum : undefined
    case 'invalid_format':
      return 'stand_in'
    default:
      return typeof found === 'number' ? Math.round(found) : typeof found === 'string' ? 'stand_in' : undefined
  }
}

function at(value: unknown, path: readonly (string | number)[]): unknown {
  return path.reduce<unknown>((part, step) => (part as Record<string | number, unknown> | undefined)?.[step], value)
}

function without(value: unknown, path: readonly (string | number)[]): unknown {
  const parent = path.slice(0, -1)
  const holder = at(value, parent)
  const key = path.at(-1)
  if (key === undefined || typeof holder !== 'object' || holder === null) return value
  const rest = Array.isArray(holder) ? holder.filter((_, i) => i !== key) : Object.fromEntries(Object.entries(holder).filter(([name]) => name !== key))
  return replacedAt(value, [...parent], rest)
}
