import { asksText, givesText } from '../exchange/row-text.ts'
import { inOrder, type Records, type Row } from '../plan/records.ts'
import { remembered } from '../plan/remembered.ts'
import { wholeFrom, type WholeSource } from '../plan/source.ts'
import type { SheetRow } from './sheet.ts'

/** Rows that were found among others: with the headings of their places, and by which index each stood among all. */
export interface Found {
  rows: SheetRow[]
  indices: number[]
  /** How many rows have what is looked for; headings may be shown beside them. */
  found: number
}

/**
 * The rows in which all words of a text are found, in their name, id, what they give or ask for, role or kind, with the headings of
 * the places that they lie in. A place whose own name has them keeps all its rows.
 */
export function findRows(records: Records, rows: readonly SheetRow[], text: string): Found {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return { rows: [...rows], indices: [...rows.keys()], found: 0 }
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const matches = (row: SheetRow) => {
    const all = textOf(row, wholeOf)
    return words.every((word) => all.includes(word))
  }
  const indices: number[] = []
  let found = 0
  let heading = -1
  let isWhole = false
  for (const [i, row] of rows.entries()) {
    const isHead = row.type === 'place' || row.type === 'heading'
    const isFound = row.type !== 'heading' && matches(row)
    if (isFound) found++
    if (isHead) {
      heading = i
      isWhole = isFound
      if (isFound) indices.push(i)
      continue
    }
    if (!isFound && !isWhole) continue
    if (heading >= 0 && !isWhole) indices.push(heading)
    heading = -1
    indices.push(i)
  }
  return { rows: indices.map((i) => rows[i]!), indices, found }
}

/** What is looked for in each record, in small letters: made once, for a large plan is searched again with each letter typed. */
const texts = new WeakMap<object, string>()

function textOf(row: SheetRow, wholeOf: ReturnType<typeof wholeFrom>): string {
  if (row.type === 'heading') return row.text.toLowerCase()
  if (row.type === 'place') return remembered(texts, row.place, () => placeText(row.place))
  if (row.type === 'gate') return remembered(texts, row.gate, () => gateText(row.gate))
  const whole = wholeOf(row.source)
  return remembered(texts, whole, () => sourceText(whole))
}

function placeText({ name, id, kind, goal }: Row<'place'>): string {
  return `${name} ${id} ${kind}${goal ? ' goal' : ''}`.toLowerCase()
}

function gateText(gate: Row<'gate'>): string {
  const { name, id, role, kind, lockedText } = gate
  return `${name} ${id} ${asksText(gate)} ${role} ${kind.replace('_', ' ')} ${lockedText}`.toLowerCase()
}

function sourceText(whole: WholeSource): string {
  const { name, id, requires, role, kind, pattern, respawns } = whole
  return `${name} ${id} ${givesText(whole)} ${requires} ${role} ${kind} ${pattern ?? ''}${respawns ? ' respawns' : ''}`.toLowerCase()
}

/** Makes the texts of rows from one index up to another ready to be searched. */
export function prepareToFind(records: Records, rows: readonly SheetRow[], from: number, to: number): void {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  for (const row of rows.slice(from, to)) textOf(row, wholeOf)
}
