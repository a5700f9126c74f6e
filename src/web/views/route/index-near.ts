import type { SheetRow } from '../../../core/view/sheet.ts'

/** Where the row with an id stands, looked for outwards from a row near which it should be; −1: nowhere. Large plans have tens of thousands of rows. */
export function indexNear(rows: readonly Pick<SheetRow, 'id'>[], id: string | null, near: number): number {
  const from = Math.min(Math.max(near, 0), rows.length - 1)
  for (let up = from, down = from + 1; up >= 0 || down < rows.length; up--, down++) {
    if (up >= 0 && rows[up]!.id === id) return up
    if (down < rows.length && rows[down]!.id === id) return down
  }
  return -1
}
