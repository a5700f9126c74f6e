import { asksText, givesText } from '../exchange/row-text.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { wholeFrom } from '../plan/source.ts'
import type { SheetRow } from './sheet.ts'

/**
 * The rows in which all words of a text are found, in their name, id, what they give or ask for, role or kind, with the headings of
 * the places that they lie in. A place whose own name has them keeps all its rows.
 */
export function findRows(records: Records, rows: readonly SheetRow[], text: string): { rows: SheetRow[]; found: number } {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return { rows: [...rows], found: 0 }
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const matches = (row: SheetRow) => {
    const all = textOf(row, wholeOf).toLowerCase()
    return words.every((word) => all.includes(word))
  }
  const kept: SheetRow[] = []
  let found = 0
  let heading: SheetRow | null = null
  let isWhole = false
  for (const row of rows) {
    const isHead = row.type === 'place' || row.type === 'heading'
    const isFound = row.type !== 'heading' && matches(row)
    if (isFound) found++
    if (isHead) {
      heading = row
      isWhole = isFound
      if (isFound) kept.push(row)
      continue
    }
    if (!isFound && !isWhole) continue
    if (heading && !isWhole) kept.push(heading)
    heading = null
    kept.push(row)
  }
  return { rows: kept, found }
}

function textOf(row: SheetRow, wholeOf: ReturnType<typeof wholeFrom>): string {
  if (row.type === 'heading') return row.text
  if (row.type === 'place') return `${row.place.name} ${row.place.id} ${row.place.kind}${row.place.goal ? ' goal' : ''}`
  if (row.type === 'gate') return `${row.gate.name} ${row.gate.id} ${asksText(row.gate)} ${row.gate.role} ${row.gate.kind.replace('_', ' ')} ${row.gate.lockedText}`
  const whole = wholeOf(row.source)
  return `${whole.name} ${whole.id} ${givesText(whole)} ${whole.requires} ${whole.role} ${whole.kind} ${whole.pattern ?? ''}${whole.respawns ? ' respawns' : ''}`
}
