import type { SheetRow } from '../../../core/view/sheet.ts'

/** One of the lines that rows are shown in: `gate 3`. */
export type Slot = `${SheetRow['type']} ${number}`

/**
 * A line for each row, by the rows' ids. Rows that were shown stay in their lines, and those that come into view are written into lines
 * of their kind that others have left: less work than to throw one away and to make another.
 */
export function lineSlots(rows: readonly Pick<SheetRow, 'id' | 'type'>[], before: ReadonlyMap<string, Slot> = new Map()): Map<string, Slot> {
  const staying = new Set(rows.map((row) => row.id))
  const left = [...before].filter(([id]) => !staying.has(id)).map(([, slot]) => slot)
  const taken = new Set<Slot>(before.values())

  function slotFor(kind: SheetRow['type']): Slot {
    const at = left.findIndex((slot) => slot.startsWith(kind))
    return at >= 0 ? left.splice(at, 1)[0]! : fresh(kind)
  }
  function fresh(kind: SheetRow['type']): Slot {
    let n = 0
    while (taken.has(`${kind} ${n}`)) n++
    taken.add(`${kind} ${n}`)
    return `${kind} ${n}`
  }
  return new Map(rows.map((row) => [row.id, before.get(row.id) ?? slotFor(row.type)]))
}
