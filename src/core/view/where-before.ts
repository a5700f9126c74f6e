import type { SheetRow } from './sheet.ts'

/**
 * Where a row stood among others before, if it is the same row: those before the first change stand where they stood, and those after the
 * last one as far from the end. −1: it is another, or has moved.
 */
export function whereBefore(before: readonly SheetRow[], rows: readonly SheetRow[]): (i: number) => number {
  const shift = before.length - rows.length
  return (i) => (before[i] === rows[i] ? i : before[i + shift] === rows[i] ? i + shift : -1)
}
