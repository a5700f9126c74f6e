import { asksText, givesText } from '../../../core/exchange/row-text.ts'
import type { Records } from '../../../core/plan/records.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { wholeOf } from './sheet-actions.ts'

const lineHeight = 15
const padding = 9
/** The share of the text side that the cells have, and the widths of a letter, in pixels. */
const asksShare = 0.573
const nameShare = 0.427
const fixedColumns = 118
const letters = { mono: 7, plain: 5.9, bold: 6.9 }

/** What a row gives or asks for, with the pattern that says it. */
export function askedText(records: Records, row: SheetRow): string {
  if (row.type === 'gate') return asksText(row.gate)
  if (row.type !== 'source') return ''
  const { pattern, requires } = row.source
  return `${givesText(wholeOf(records, row.source))}${pattern ? ` (${pattern})` : ''}${requires ? ` if ${requires}` : ''}`
}

/** The height of a row: as many lines as its longest cell needs, so that nothing in it is cut off. */
export function rowHeight(records: Records, row: SheetRow, textWidth: number): number {
  if (row.type === 'heading' || row.type === 'place') return lineHeight + padding
  const room = textWidth - fixedColumns
  const isGate = row.type === 'gate'
  const asks = linesOf(askedText(records, row), (room * asksShare - 10) / (isGate ? letters.mono : letters.plain))
  const name = linesOf((isGate ? row.gate : row.source).name, (room * nameShare - 10) / (isGate ? letters.bold : letters.plain))
  return Math.max(asks, name) * lineHeight + padding
}

/** Lines that a text takes when it is broken between words. */
function linesOf(text: string, lettersALine: number): number {
  let lines = 1
  let used = 0
  for (const word of text.split(' ')) {
    if (used > 0 && used + 1 + word.length > lettersALine) {
      lines++
      used = 0
    }
    used += word.length + (used > 0 ? 1 : 0)
  }
  return lines
}
