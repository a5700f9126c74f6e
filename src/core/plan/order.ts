import { generateNKeysBetween } from 'fractional-indexing'

/** So many order keys in order, between two others; null stands for the beginning or the end. */
export function ordersBetween(before: string | null, after: string | null, howMany: number): string[] {
  return generateNKeysBetween(before, after, howMany)
}
