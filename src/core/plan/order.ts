import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'

/** An order key between two others; null stands for the beginning or the end. */
export function orderBetween(before: string | null, after: string | null): string {
  // Two rows can share a key when two people insert at the same spot: the new one then goes after both.
  if (before !== null && after !== null && before >= after) return generateKeyBetween(before, null)
  return generateKeyBetween(before, after)
}

export function ordersBetween(before: string | null, after: string | null, howMany: number): string[] {
  if (before !== null && after !== null && before >= after) return generateNKeysBetween(before, null, howMany)
  return generateNKeysBetween(before, after, howMany)
}
