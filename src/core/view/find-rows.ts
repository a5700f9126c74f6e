import { asksText, givesText } from '../exchange/row-text.ts'
import { inOrder, type Records, type Row } from '../plan/records.ts'
import { finished } from '../check/finished.ts'
import { remembered } from '../plan/remembered.ts'
import { wholeFrom, type WholeSource } from '../plan/source.ts'
import type { SheetRow } from './sheet.ts'

/** Rows that were found among others: with the headings of their places, and by which index each stood among all. */
export interface Found {
  rows: SheetRow[]
  indices: number[]
  /** How many rows have what is looked for; headings may be shown beside them. */
  found: number
  /** The first of them among those that are shown; −1: there is none. */
  first: number
}

/**
 * The rows in which all words of a text are found, in their name, id, what they give or ask for, role or kind, with the headings of
 * the places that they lie in. A place whose own name has them keeps all its rows.
 */
export function findRows(records: Records, rows: readonly SheetRow[], text: string): Found {
  return finished(findRowsInSteps(records, rows, text))
}

/** The same in steps, so that others can have their turn in between. */
export function* findRowsInSteps(records: Records, rows: readonly SheetRow[], text: string): Generator<void, Found> {
  const words = wordsOf(text)
  if (words.length === 0) return { rows: [...rows], indices: [...rows.keys()], found: 0, first: -1 }
  const matches = matcher(records, words)
  const indices: number[] = []
  let found = 0
  let first = -1
  /** Of the rows that come, if none of them is shown yet. */
  let heading = -1
  let isWhole = false
  for (let i = 0; i < rows.length; i++) {
    if (i % step === step - 1) yield
    const row = rows[i]!
    const isFound = matches(row)
    if (row.type === 'place' || row.type === 'heading') {
      heading = i
      isWhole = isFound
    }
    if (!isFound && !isWhole) continue
    if (heading >= 0 && heading < i) indices.push(heading)
    heading = -1
    if (isFound && found++ === 0) first = indices.length
    indices.push(i)
  }
  return { rows: indices.map((i) => rows[i]!), indices, found, first }
}

/** Rows looked in between two turns of others. */
const step = 200

function wordsOf(text: string): string[] {
  return text.toLowerCase().split(/\s+/).filter(Boolean)
}

/** What was looked for last, and by record whether it was found there: after an edit the others are not looked in again. */
let last: { wanted: string; found: WeakMap<object, boolean> } = { wanted: '', found: new WeakMap() }

function matcher(records: Records, words: readonly string[]): (row: SheetRow) => boolean {
  const wanted = words.join(' ')
  if (last.wanted !== wanted) last = { wanted, found: new WeakMap() }
  const { found } = last
  const textOf = textsOf(records)
  return (row) => {
    const of = textOf(row)
    return of !== null && remembered(found, of.record, () => words.every((word) => of.text().includes(word)))
  }
}

/** What is looked for in each record, in small letters: made once, for a large plan is searched again with each letter typed. */
const texts = new WeakMap<object, string>()

/** What a row is of, and its text; null: it is not looked in. */
function textsOf(records: Records): (row: SheetRow) => { record: object; text: () => string } | null {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const known = <T extends object>(record: T, textOf: (record: T) => string) => ({ record, text: () => remembered(texts, record, () => textOf(record)) })
  return (row) => {
    if (row.type === 'heading') return null
    if (row.type === 'place') return known(row.place, placeText)
    return row.type === 'gate' ? known(row.gate, gateText) : known(wholeOf(row.source), sourceText)
  }
}

function placeText({ name, id, kind, goal }: Row<'place'>): string {
  return `${name} ${id} ${kind}${goal ? ' goal' : ''}`.toLowerCase()
}

function gateText(gate: Row<'gate'>): string {
  const { name, id, role, kind, lockedText } = gate
  return `${name} ${id} ${asksText(gate)} ${role} ${kind.replace('_', ' ')} ${lockedText}`.toLowerCase()
}

function sourceText(whole: WholeSource): string {
  const { name, id, requires, role, kind, pattern } = whole
  return `${name} ${id} ${givesText(whole)} ${requires} ${role} ${kind} ${pattern ?? ''}`.toLowerCase()
}

/** Makes the texts of rows ready to be searched, in steps. */
export function* readyToFind(records: Records, rows: readonly SheetRow[]): Generator<void, void> {
  const textOf = textsOf(records)
  for (let i = 0; i < rows.length; i++) {
    textOf(rows[i]!)?.text()
    if (i % step === step - 1) yield
  }
}
