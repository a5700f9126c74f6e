import { tsvFormatRows, tsvParseRows } from 'd3-dsv'
import { plainTally } from '../change/missing-tally.ts'
import { gateKinds } from '../plan/gate.ts'
import type { RecordOf } from '../plan/kinds.ts'
import type { Place } from '../plan/place.ts'
import { recordFault } from '../plan/record-fault.ts'
import { sourceKinds } from '../plan/source.ts'
import type { Tally } from '../plan/tally.ts'
import type { Cost, Yield } from '../plan/yield.ts'
import { countText, typedNumber } from '../view/numbers.ts'
import { readEntry, type EntryContext, type EntryReading } from './entry-line.ts'
import { missingAt, noTally } from './entry-faults.ts'
import { costsOf, countNeed, isAmountAt, isCount, readAmounts, tallyAt, tallyNamed, wordsOf } from './gives.ts'
import { faultOf, type LineFault } from './line-fault.ts'
import { Additions, placeOf, placesToCome } from './paste-additions.ts'
import { conditionText, givesText, readAsks, readSource as readSourceCell } from './row-text.ts'
import { guessRoles, roleOfHeading, type ColumnRole } from './table-columns.ts'

/** A pasted table: its cells, and what each column was taken for. */
export interface PastedTable {
  /** Cells of the first line, where it holds headings. */
  headings: string[] | null
  rows: string[][]
  /** Number of the first row's line in what was pasted, from 1. */
  firstLine: number
  roles: ColumnRole[]
  /** Tallies that are added for columns that hold amounts of them. */
  tallies: Tally[]
}

/** One pasted line: what it would add and where, or why it was not understood. */
export type PastedRow = { line: number; text: string } & (
  | { ok: true; kind: 'source'; record: Omit<RecordOf['source'], 'id'>; place: string | null; says: string }
  | { ok: true; kind: 'gate'; record: Omit<RecordOf['gate'], 'id'>; place: string | null; says: string }
  /** A line such as `place Gull Stair`: what stands below it comes there. */
  | { ok: true; kind: 'place'; place: string; says: string }
  /** A line such as `tally Seal oil currency`; null: the plan has it. */
  | { ok: true; kind: 'tally'; tally: string | null; says: string }
  | ({ ok: false } & LineFault)
)

/** Lines that become rows of the sheet. */
export type PastedItem = Extract<PastedRow, { kind: 'source' | 'gate' }>
export const isItem = (row: PastedRow): row is PastedItem => row.ok && (row.kind === 'source' || row.kind === 'gate')

/** What a table becomes: its lines, and what is added for them: tallies, and places one after the other. */
export interface Pasted {
  rows: PastedRow[]
  places: Place[]
  tallies: readonly Tally[]
}

/** Cuts pasted text into cells and finds out what each column holds. */
export function readTable(text: string, context: EntryContext): PastedTable {
  const all = tsvParseRows(text.replace(/\r\n?/g, '\n'))
  const lines = all.map((cells, i) => ({ cells: cells.map((cell) => cell.trim()), line: i + 1 })).filter(({ cells }) => cells.some(Boolean))
  const rows = lines.map(({ cells }) => cells)
  const headings = rows[0] && isHeading(rows[0], context) ? rows[0] : null
  const body = headings ? rows.slice(1) : rows
  const isPlace = (cell: string) => placeOf(cell, context) !== undefined
  const roles = headings ? rolesByHeadings(headings, body, context) : guessRoles(body, { tallies: context.tallies, isPlace })
  return { headings, rows: body, firstLine: (headings ? lines[1]?.line : lines[0]?.line) ?? 1, roles, tallies: [] }
}

/** What headings say. Where none of them is that of names, those stand in the first column of words whose heading says nothing. */
function rolesByHeadings(headings: readonly string[], rows: readonly (readonly string[])[], { tallies }: EntryContext): ColumnRole[] {
  const width = Math.max(headings.length, ...rows.map((cells) => cells.length))
  const roles = Array.from({ length: width }, (_, c) => roleOfHeading(headings[c] ?? '', tallies))
  const isOfWords = (c: number) => rows.filter((cells) => /\p{L}/u.test(cells[c] ?? '')).length > rows.length / 2
  const names = roles.includes('name') ? -1 : roles.findIndex((role, c) => role === null && isOfWords(c))
  return roles.map((role, c) => (c === names ? 'name' : (role ?? 'ignore')))
}

/** Headings are known words, one of them that of names, or as many as half of the cells; and no numbers. */
function isHeading(cells: readonly string[], { tallies }: EntryContext): boolean {
  const known = cells.map((cell) => roleOfHeading(cell, tallies)).filter((role) => role !== null)
  const isEnough = known.includes('name') || (known.length > 0 && known.length * 2 >= cells.filter(Boolean).length)
  return cells.length > 1 && isEnough && !cells.some((cell) => /^\d+(\.\d+)?$/.test(cell))
}

/** What may be added beside the rows, where they name what is not there yet. */
export interface LetIn {
  places?: boolean
  tallies?: boolean
}

/** Reads every row of a table by what its columns hold. */
export function readRows(table: PastedTable, given: EntryContext, letIn: LetIn = {}): Pasted {
  const added = new Additions(given, table.tallies.filter(({ id }) => table.roles.includes(`tally ${id}`)))
  if (letIn.places) for (const name of placesToCome(table, given)) added.addPlace({ name, kind: 'area', goal: false, minutes: 0 })
  /** Where the lines belong, as a line above them says. */
  let here: string | null = null
  const rows = table.rows.map((cells, i): PastedRow => {
    const at = { line: table.firstLine + i, text: cells.join(' · ') }
    const read = letIn.tallies ? readWithMissing(cells, table.roles, added) : readRow(cells, table.roles, added.context)
    if (isFault(read)) return { ...at, ok: false, ...read }
    if (read.kind === 'tally') return { ...at, ok: true, kind: 'tally', ...addTally(read, added) }
    if (read.kind !== 'place') return { ...at, ok: true, ...read, place: read.place ?? here } as PastedRow
    const there = placeOf(read.record.name, added.context)
    here = there?.id ?? added.addPlace(read.record)
    return { ...at, ok: true, kind: 'place', place: here, says: there ? `${there.name}: what follows comes there` : read.says }
  })
  return { rows, places: added.places, tallies: added.tallies }
}

/** More tallies than this are not added for one row. */
const mostMissing = 10

/** Reads a row with the tallies that it names and the plan has not. One that is not understood with them, either, needs none of them. */
function readWithMissing(cells: readonly string[], roles: readonly ColumnRole[], added: Additions): Read | LineFault {
  const before = added.tallies.length
  let read = readRow(cells, roles, added.context)
  for (let n = 0; n < mostMissing && isFault(read) && read.missing; n++) {
    added.addTally(plainTally(read.missing.name, read.missing.kinds[0]!))
    read = readRow(cells, roles, added.context)
  }
  if (isFault(read)) added.leaveTallies(before)
  return read
}

function addTally({ record, says }: Extract<EntryReading, { kind: 'tally' }>, added: Additions): { tally: string | null; says: string } {
  const there = tallyNamed(record.name, added.context.tallies)
  return there ? { tally: null, says: `${there.name} is there already` } : { tally: added.addTally(record), says }
}

/** What was read, if a plan can hold it. */
function readRow(cells: readonly string[], roles: readonly ColumnRole[], context: EntryContext): Read | LineFault {
  const read = readCells(cells, roles, context)
  if (typeof read === 'string' || isFault(read)) return faultOf(read)
  const says = recordFault(read.kind, { id: 'pasted', ...read.record })
  return says === null ? read : { says }
}

const isFault = (read: Read | LineFault): read is LineFault => !('kind' in read)

type ReadItem = Omit<Extract<PastedRow, { kind: 'source' | 'gate' }>, 'line' | 'text' | 'ok'>
type Read = ReadItem | Extract<EntryReading, { kind: 'place' | 'tally' }>

function readCells(cells: readonly string[], roles: readonly ColumnRole[], context: EntryContext): Read | LineFault | string {
  const cell = (role: ColumnRole) => cells[roles.indexOf(role)]?.trim() ?? ''
  const line = cell('line')
  if (line) return readLine(line, context)
  const name = cell('name')
  if (!name) return 'there is no name in this line'
  const place = cell('place') ? placeOf(cell('place'), context)?.id : null
  if (place === undefined) return `there is no place "${cell('place')}": let it be added, or the column be left out`
  const kind = cell('kind').toLowerCase().replace(' ', '_')
  const isKnown = kind === '' || (sourceKinds as readonly string[]).includes(kind) || (gateKinds as readonly string[]).includes(kind)
  if (!isKnown) return `"${cell('kind')}" is no kind; there are: ${[...sourceKinds, ...gateKinds].join(', ').replace('_', ' ')}`
  const role = cell('role').toLowerCase()
  if (!['', 'main', 'side'].includes(role)) return `"${cell('role')}" is neither main nor side`
  const minutes = cell('minutes') === '' ? 0 : typedNumber(cell('minutes').replace(/\s*min(utes?)?$/i, ''))
  if (!Number.isFinite(minutes) || minutes < 0) return `"${cell('minutes')}" is no number of minutes`
  const common = { name, role: (role || 'main') as 'main' | 'side', minutes }
  const isGate = (gateKinds as readonly string[]).includes(kind) || (kind === '' && (cell('asks') !== '' || cell('costs') !== '') && !givesSomething(cells, roles))
  const read = isGate ? readGate(cell, common, kind, context) : readSource(cells, roles, cell, common, kind, context)
  return typeof read === 'string' || !('kind' in read) ? read : ({ ...read, place } as ReadItem)
}

function readLine(line: string, context: EntryContext): Read | LineFault {
  const { kind, ...reading } = readEntry(line, context)
  if (kind === 'nothing') return reading
  return { kind, ...reading, ...((kind === 'source' || kind === 'gate') && { place: null }) } as Read
}

type Cells = (role: ColumnRole) => string
interface Common {
  name: string
  role: 'main' | 'side'
  minutes: number
}

function givesSomething(cells: readonly string[], roles: readonly ColumnRole[]): boolean {
  return roles.some((role, c) => (role === 'gives' || role === 'amount' || role.startsWith('tally ')) && (cells[c] ?? '').trim() !== '')
}

function readGate(cell: Cells, common: Common, kind: string, { tallies, vocabulary }: EntryContext): Omit<ReadItem, 'place'> | LineFault | string {
  const asks = readAsks(cell('asks'), tallies, vocabulary)
  if (!asks.ok) return asks
  const costs = readCosts(cell('costs'), tallies)
  if ('says' in costs) return costs
  const record = {
    ...common, kind: (kind || 'door') as RecordOf['gate']['kind'], guards: null, requires: asks.fields.requires, costs: [...asks.fields.costs, ...costs],
    stays: 'open', due: common.role === 'main' ? 'stop' : 'route', yields: [], caps: [], lockedText: cell('text'),
  } satisfies Omit<RecordOf['gate'], 'id'>
  const paid = record.costs.map((cost) => `${cost.amount} ${cost.tally}`).join(', ')
  return { kind: 'gate', record, says: `${record.kind.replace('_', ' ')} · ${record.requires || 'asks for nothing'}${paid ? ` for ${paid}` : ''} · ${record.role}` }
}

function readCosts(text: string, tallies: EntryContext['tallies']): Cost[] | LineFault {
  const words = wordsOf(text)
  const { amounts, next } = readAmounts(words, 0, tallies)
  if (next < words.length) return { says: `"${words.slice(next).join(' ')}" is no amount of a tally: write 5 stamps`, ...missingAt(words, next, tallies, 'paid') }
  return costsOf(amounts)
}

function readSource(cells: readonly string[], roles: readonly ColumnRole[], cell: Cells, common: Common, kind: string, context: EntryContext): Omit<ReadItem, 'place'> | LineFault | string {
  const { tallies, vocabulary } = context
  const gives = readSourceCell(cell('gives'), tallies, vocabulary)
  if (!gives.ok) return gives
  const asks = readAsks(cell('asks'), tallies, vocabulary)
  if (!asks.ok) return asks
  const count = cell('count') === '' ? gives.fields.count : typedNumber(cell('count'))
  if (!Number.isInteger(count) || !isCount(count)) return cell('count') === '' ? countNeed : `"${cell('count')}" is no count: ${countNeed}`
  if (gives.fields.count > 1 && gives.fields.count !== count) return `how many are there, ${gives.fields.count} or ${count}? One count is enough`
  const { yields: given, takes: taken, respawns } = gives.fields
  if (gives.fields.requires && asks.fields.requires) return 'its condition stands twice: behind "if", and in the column of what it asks for'
  const yields: Yield[] = [...given]
  for (const [c, role] of roles.entries()) {
    const text = (cells[c] ?? '').trim()
    const isAmount = role === 'amount' || role.startsWith('tally ')
    if (!isAmount || text === '' || text === '0') continue
    const tally = role === 'amount' ? cell('of tally') : role.slice(6)
    if (!tallyAt(wordsOf(tally), 0, tallies)) return noTally(wordsOf(tally), tallies, 'given')
    const words = [...wordsOf(text), ...wordsOf(tally)]
    if (!isAmountAt(words, 0, tallies)) return `"${text}" is no amount: a number, or a range such as 4-7`
    yields.push(...readAmounts(words, 0, tallies).amounts)
  }
  if (yields.length + taken.length === 0 && !kind) return 'it gives nothing: an amount, or a kind of source, is missing'
  const record = {
    ...common, kind: (kind || 'event') as RecordOf['source']['kind'] & string, count, yields, takes: [...taken, ...asks.fields.costs],
    requires: gives.fields.requires || asks.fields.requires, respawns, caps: [],
  } satisfies Omit<RecordOf['source'], 'id'>
  return { kind: 'source', record, says: `source · ${givesText(record) || 'gives nothing'}${conditionText(record)} · ${record.role}` }
}

/** Tallies that rows name, and that are added only where they are let in: those which lines ask for in so many words are not among them. */
export function namedTallies({ rows, tallies }: Pasted): Tally[] {
  const asked = new Set(rows.map((row) => (row.ok && row.kind === 'tally' ? row.tally : null)))
  return tallies.filter(({ id }) => !asked.has(id))
}

/** How a table was read, in one line. */
export function pasteSummary(rows: readonly PastedRow[]): string {
  const bad = rows.filter((row) => !row.ok).length
  const good = countText(rows.length - bad, 'row')
  return bad ? `${good} understood, ${countText(bad, 'line')} not` : `${good} understood`
}

export function tableText(rows: readonly (readonly string[])[]): string {
  return tsvFormatRows(rows as string[][])
}
