import { gateKinds } from '../plan/gate.ts'
import { sourceKinds } from '../plan/source.ts'
import { isAmountAlone, tallyNamed, type TallyName } from './gives.ts'

/** What a column of a pasted table holds. `tally …`: amounts of that tally. */
export type ColumnRole = (typeof plainRoles)[number] | `tally ${string}`

const plainRoles = ['name', 'place', 'kind', 'role', 'count', 'amount', 'of tally', 'gives', 'asks', 'costs', 'minutes', 'text', 'line', 'ignore'] as const

/** How a role is called, and the headings by which it is known. */
export const columnRoles: Record<(typeof plainRoles)[number], { word: string; headings: readonly string[] }> = {
  name: { word: 'name', headings: ['name', 'item', 'title', 'what', 'source', 'gate', 'encounter'] },
  place: { word: 'place', headings: ['place', 'where', 'area', 'location', 'at', 'zone', 'region', 'room', 'map'] },
  kind: { word: 'kind', headings: ['kind', 'type'] },
  role: { word: 'main or side', headings: ['role', 'main or side', 'main/side', 'optional'] },
  count: { word: 'count', headings: ['count', 'units', 'number', 'times', 'quantity', 'qty', 'how many', '#'] },
  amount: { word: 'amount a unit', headings: ['amount', 'amount a unit', 'each', 'per unit', 'value'] },
  'of tally': { word: 'tally of the amount', headings: ['tally', 'of', 'tally of the amount', 'in'] },
  gives: { word: 'gives (count, amounts)', headings: ['gives', 'yields', 'reward', 'rewards'] },
  asks: { word: 'asks for', headings: ['asks', 'asks for', 'requires', 'requirement', 'condition', 'needs'] },
  costs: { word: 'costs', headings: ['cost', 'costs', 'price'] },
  minutes: { word: 'minutes', headings: ['minutes', 'min', 'time', 'duration'] },
  text: { word: 'text for the player', headings: ['text', 'locked text', 'text for the player', 'message'] },
  line: { word: 'a whole line, as typed', headings: ['line'] },
  ignore: { word: 'left out', headings: ['notes', 'note', 'comment', 'id'] },
}

export function roleWord(role: ColumnRole): string {
  return role.startsWith('tally ') ? `gives ${role.slice(6)}` : columnRoles[role as (typeof plainRoles)[number]].word
}

/** Every role that a column can be given. */
export function allRoles(tallies: readonly TallyName[]): ColumnRole[] {
  return [...plainRoles.filter((role) => role !== 'ignore'), ...tallies.map((tally): ColumnRole => `tally ${tally.id}`), 'ignore']
}

/** What a heading says that its column holds, or null. */
export function roleOfHeading(heading: string, tallies: readonly TallyName[]): ColumnRole | null {
  const text = heading.trim().toLowerCase()
  const tally = tallyNamed(text, tallies)
  if (tally) return `tally ${tally.id}`
  return plainRoles.find((role) => columnRoles[role].headings.includes(text)) ?? null
}

const kinds: ReadonlySet<string> = new Set([...sourceKinds, ...gateKinds, ...gateKinds.map((kind) => kind.replace('_', ' '))])

export interface GuessContext {
  tallies: readonly TallyName[]
  isPlace(text: string): boolean
}

/** What the cells of each column look like, where no headings say it. */
export function guessRoles(rows: readonly (readonly string[])[], { tallies, isPlace }: GuessContext): ColumnRole[] {
  const width = Math.max(0, ...rows.map((row) => row.length))
  if (width === 1) return ['line']
  const roles: ColumnRole[] = []
  const isFree = (role: ColumnRole) => !roles.includes(role)
  const names = new Set(tallies.flatMap(({ id, name }) => [id, name.toLowerCase()]))
  for (let c = 0; c < width; c++) {
    const cells = rows.map((row) => (row[c] ?? '').trim().toLowerCase()).filter(Boolean)
    const most = (test: (cell: string) => boolean) => cells.length > 0 && cells.filter(test).length > cells.length / 2
    if (most((cell) => cell === 'main' || cell === 'side') && isFree('role')) roles.push('role')
    else if (most((cell) => kinds.has(cell)) && isFree('kind')) roles.push('kind')
    else if (most((cell) => names.has(cell)) && isFree('of tally')) roles.push('of tally')
    else if (most(isPlace) && isFree('place')) roles.push('place')
    else if (most((cell) => /[<>=]=?|\(/.test(cell)) && isFree('asks')) roles.push('asks')
    else if (most((cell) => /\d\s+[a-z]/.test(cell)) && isFree('gives')) roles.push('gives')
    else if (most(isAmountAlone)) roles.push(numbersRole(roles, tallies))
    else roles.push(isFree('name') ? 'name' : 'ignore')
  }
  return settled(countedOnce(roles, rows), tallies)
}

/** Columns of numbers: the first is the count and the next the amount, or the only one the amount. */
function numbersRole(before: readonly ColumnRole[], tallies: readonly TallyName[]): ColumnRole {
  if (!before.includes('count')) return 'count'
  if (!before.includes('amount') && tallies.length) return 'amount'
  return minutesRole(before)
}

function minutesRole(others: readonly ColumnRole[]): ColumnRole {
  return others.includes('minutes') ? 'ignore' : 'minutes'
}

/** Where what is given says how many there are (`4 × 20 renown`), numbers beside it are no counts. */
function countedOnce(roles: ColumnRole[], rows: readonly (readonly string[])[]): ColumnRole[] {
  const gives = roles.indexOf('gives')
  const isCounted = rows.some((row) => /^\d+\s*[x×]/i.test((row[gives] ?? '').trim()))
  return isCounted ? roles.map((role) => (role === 'count' ? minutesRole(roles) : role)) : roles
}

function settled(roles: ColumnRole[], tallies: readonly TallyName[]): ColumnRole[] {
  const has = (role: ColumnRole) => roles.includes(role)
  const first = tallies[0]
  // One column of numbers alone is what a unit gives.
  const amounts = has('amount') || has('gives') || has('asks') ? roles : roles.map((role): ColumnRole => (role === 'count' ? 'amount' : role))
  if (!amounts.includes('amount') || amounts.includes('of tally') || !first) return amounts
  return amounts.map((role): ColumnRole => (role === 'amount' ? `tally ${first.id}` : role))
}
