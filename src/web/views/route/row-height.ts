import type { Records } from '../../../core/plan/records.ts'
import type { PlaceSum } from '../../../core/view/place-sums.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { whereBefore } from '../../../core/view/where-before.ts'
import { fonts } from '../../fonts.ts'
import { askedText, nameOf, placeLine } from './row-words.ts'
import { forgetWidths, linesOf } from './text-width.ts'

const lineHeight = 15
const padding = 9
/** Beside the two columns of text: the mark, the role, the verdict and the room at the left, in pixels. */
const fixedColumns = 118
const behindAsks = 88
/** The columns of the name and of what is given or asked for, as shares of what is left. */
const [nameShare, asksShare] = [1 / 2.34, 1.34 / 2.34]
/** With a little for what is rounded. */
const cellPadding = 8.5

/** All that heights are made from, beside the row itself. */
export interface HeightContext {
  records: Records
  /** By place what its sources give in all: where that is another, its row is, or patterns are. */
  sums: ReadonlyMap<string, readonly PlaceSum[]>
  textWidth: number
  /** Counts up when the fonts are others. */
  fonts: number
}

export interface Heights {
  rows: readonly SheetRow[]
  of: HeightContext
  heights: Float64Array
}

/** The height of every row, in pixels; those of rows that stand as they stood are taken over, also where they have moved along. */
export function rowHeights(rows: readonly SheetRow[], of: HeightContext, before?: Heights): Heights {
  const { records, textWidth, fonts } = of
  const isAlike = before && before.of.textWidth === textWidth && before.of.fonts === fonts && before.of.records.pattern === records.pattern && before.of.records.tally === records.tally
  if (before && before.of.fonts !== fonts) forgetWidths()
  const kept = isAlike ? before : null
  const where = kept && whereBefore(kept.rows, rows)
  const heights = new Float64Array(rows.length)
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i]!
    const at = where ? where(i) : -1
    heights[i] = at >= 0 ? kept!.heights[at]! : rowHeight(records, row, sumsIn(of.sums, row), textWidth)
  }
  return { rows, of, heights }
}

const noSums: readonly PlaceSum[] = []

export function sumsIn(sums: HeightContext['sums'], row: SheetRow | undefined): readonly PlaceSum[] {
  return row?.type === 'place' ? (sums.get(row.place.key) ?? noSums) : noSums
}

/** Heights of those rows that are shown, by which of all they are; null: all are. */
export function heightsAt({ heights }: Heights, indices: readonly number[] | null): Float64Array {
  return indices ? Float64Array.from(indices, (i) => heights[i]!) : heights
}

/** The height of a row: as many lines as its longest cell needs, so that nothing in it is cut off. */
function rowHeight(records: Records, row: SheetRow, sums: readonly PlaceSum[], textWidth: number): number {
  if (row.type === 'heading') return lineHeight + padding
  const room = textWidth - fixedColumns
  const lines = (text: string, width: number, font: string) => linesOf(text, width - cellPadding, font)
  const { name, says } = nameOf(row)
  const nameLines = (font: string) => lines(name + says, room * nameShare, font)
  if (row.type === 'place') return Math.max(nameLines(fonts.place), lines(placeLine(row, sums), room * asksShare + behindAsks, fonts.small)) * lineHeight + padding
  const isGate = row.type === 'gate'
  const asks = lines(askedText(records, row), room * asksShare, isGate ? fonts.mono : fonts.small)
  return Math.max(asks, nameLines(isGate ? fonts.bold : fonts.plain)) * lineHeight + padding
}
