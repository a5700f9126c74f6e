import { asksText, givesText } from '../exchange/row-text.ts'
import { inOrder, type Records, type Row } from '../plan/records.ts'
import { finished } from '../check/finished.ts'
import { wholeFrom, type WholeSource } from '../plan/source.ts'
import type { SheetRow } from './sheet.ts'
import { whereBefore } from './where-before.ts'

/** Rows that were found among others: with the headings of their places, and by which index each stood among all. */
export interface Found {
  rows: SheetRow[]
  indices: number[]
  /** The ids of the rows that have what is looked for; headings may be shown beside them. */
  found: string[]
  /** The first of them among those that are shown; −1: there is none. */
  first: number
}

const none: ReadonlySet<string> = new Set()

/**
 * The rows in which all words of a text are found, in their name, id, what they give or ask for, role or kind, with the headings of
 * the places that they lie in. A place whose own name has them keeps all its rows. `stay`: ids of rows that count as found in any case.
 */
export function findRows(records: Records, rows: readonly SheetRow[], text: string, stay = none): Found {
  return finished(findRowsInSteps(records, rows, text, stay))
}

/** The same in steps, so that others can have their turn in between. */
export function* findRowsInSteps(records: Records, rows: readonly SheetRow[], text: string, stay = none): Generator<void, Found> {
  const words = wordsOf(text)
  if (words.length === 0) return { rows: [...rows], indices: [...rows.keys()], found: [], first: -1 }
  const matches = matcher(lookedIn(records, rows, words.join(' ')), words)
  const indices: number[] = []
  const found: string[] = []
  let first = -1
  /** Of the rows that come, if none of them is shown yet. */
  let heading = -1
  let isWhole = false
  for (let i = 0; i < rows.length; i++) {
    if (i % step === step - 1) yield
    const row = rows[i]!
    const isFound = matches(i) || stay.has(row.id)
    if (row.type === 'place' || row.type === 'heading') {
      heading = i
      isWhole = isFound
    }
    if (!isFound && !isWhole) continue
    if (heading >= 0 && heading < i) indices.push(heading)
    heading = -1
    if (isFound && found.push(row.id) === 1) first = indices.length
    indices.push(i)
  }
  return { rows: indices.map((i) => rows[i]!), indices, found, first }
}

/** Rows looked in between two turns of others. */
const step = 200

function wordsOf(text: string): string[] {
  return text.toLowerCase().split(/\s+/).filter(Boolean)
}

/** What is looked in, row by row. */
interface Looked {
  rows: readonly SheetRow[]
  pattern: Records['pattern']
  /** In small letters, each made when it is looked in first. */
  texts: (string | undefined)[]
  textOf: (row: SheetRow) => string
  /** What was looked for last, and by row whether it was found there; undefined: it was not looked in yet. */
  wanted: string
  found: (boolean | undefined)[]
}

/** Rows of a large plan are looked in again with each letter typed, and after an edit most of them stand as they stood. */
let last: Looked | null = null

function lookedIn(records: Records, rows: readonly SheetRow[], wanted: string): Looked {
  const before = last?.pattern === records.pattern ? last : null
  const where = before && whereBefore(before.rows, rows)
  const kept = <T>(of: (T | undefined)[] | undefined) => {
    if (!where || !of) return new Array<T | undefined>(rows.length)
    return before.rows === rows ? of : Array.from(rows, (_, i) => of[where(i)])
  }
  const isSought = before?.wanted === wanted
  last = { rows, pattern: records.pattern, texts: kept(before?.texts), textOf: before?.textOf ?? textFrom(records), wanted, found: kept(isSought ? before.found : undefined) }
  return last
}

function textAt({ rows, texts, textOf }: Looked, i: number): string {
  return (texts[i] ??= textOf(rows[i]!))
}

function matcher(looked: Looked, words: readonly string[]): (i: number) => boolean {
  const { found } = looked
  return (i) => (found[i] ??= words.every((word) => textAt(looked, i).includes(word)))
}

function textFrom(records: Records): (row: SheetRow) => string {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  return (row) => {
    switch (row.type) {
      case 'heading':
        // No words are found in it.
        return ''
      case 'place':
        return placeText(row.place)
      case 'gate':
        return gateText(row.gate)
      case 'source':
        return sourceText(wholeOf(row.source))
    }
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
  const looked = lookedIn(records, rows, last?.wanted ?? '')
  for (let i = 0; i < rows.length; i++) {
    textAt(looked, i)
    if (i % step === step - 1) yield
  }
}
