import { slugFrom } from '../change/slug.ts'
import type { Vocabulary } from '../language/names.ts'
import { readText } from '../language/requirement.ts'
import { labelOf } from '../plan/label-of.ts'
import { nearest } from '../plan/nearest.ts'
import { gateKinds } from '../plan/gate.ts'
import type { RecordOf } from '../plan/kinds.ts'
import { placeKinds } from '../plan/place.ts'
import { sourceKinds } from '../plan/source.ts'
import { tallyKinds } from '../plan/tally.ts'
import type { Cost } from '../plan/yield.ts'
import { amountText, countNeed, isAmount, isAmountAt, isCount, readAmounts, readCount, wordsOf, type TallyName } from './gives.ts'
import { plainNumbers } from '../view/numbers.ts'

/** What the entry line needs to know of the plan. */
export interface EntryContext {
  tallies: readonly TallyName[]
  vocabulary: Vocabulary
  /** Ids and names of places, and the passages out of the present one. */
  places: readonly { id: string; name: string }[]
  waysOut: readonly { passage: string; to: string }[]
  patterns: readonly { id: string; name: string }[]
}

/** How a line was read: what it would add, or what is missing in it. */
export type EntryReading =
  | { kind: 'source'; record: Omit<RecordOf['source'], 'id'>; says: string }
  | { kind: 'gate'; record: Omit<RecordOf['gate'], 'id'>; says: string }
  | { kind: 'place'; record: Omit<RecordOf['place'], 'id'>; says: string }
  | { kind: 'tally'; record: Omit<RecordOf['tally'], 'id'>; says: string }
  | { kind: 'nothing'; says: string; column?: number }

type SourceKind = RecordOf['source']['kind']

const gateWords: Record<string, RecordOf['gate']['kind']> = {
  ...Object.fromEntries(gateKinds.map((kind) => [kind, kind])),
  gate: 'door',
  item: 'shop_item',
  shop: 'shop_item',
}

/**
 * Reads a typed line (README.md): `12 drift hares 20 renown side`, `quest Sort the mail 40 renown`,
 * `door North hatch level >= 8 for 5 stamps`, `place Gull Stair area 7 min`, `tally Renown experience`.
 */
export function readEntry(line: string, context: EntryContext): EntryReading {
  const words = wordsOf(line)
  const first = words[0]?.toLowerCase()
  if (first === undefined) return nothing('')
  if (first === 'place') return readPlace(words.slice(1), context)
  if (first === 'tally') return readTally(words.slice(1))
  if (Object.hasOwn(gateWords, first)) return readGate(gateWords[first]!, line, context)
  const kind = leadingKind(words[0]!, context)
  return kind ? readSource(words.slice(1), context, kind) : readSource(words, context)
}

/** A line may begin with a source's kind as with a gate's; with a capital it is a name: Event tickets. */
function leadingKind(word: string, { patterns }: EntryContext): SourceKind | undefined {
  return patterns.some(({ id }) => id === word) ? undefined : sourceKinds.find((kind) => kind === word)
}

function nothing(says: string, column?: number): EntryReading {
  return { kind: 'nothing', says, ...(column === undefined ? {} : { column }) }
}

/** Words at the end of a line that say something of the whole: taken off one by one. */
interface Tail {
  role: 'main' | 'side'
  minutes: number
  kind: SourceKind | undefined
  respawns: boolean
}

function takeTail(words: string[]): { rest: string[]; tail: Tail } {
  const rest = [...words]
  const tail: Tail = { role: 'main', minutes: 0, kind: undefined, respawns: false }
  for (;;) {
    const last = rest.at(-1)?.toLowerCase() ?? ''
    const isMinutes = /^min(utes?)?$/.test(last) && /^\d+(\.\d+)?$/.test(rest.at(-2) ?? '')
    if (last === 'main' || last === 'side') tail.role = last
    else if (last === 'respawns' || last === 'respawning') tail.respawns = true
    else if ((sourceKinds as readonly string[]).includes(last) && rest.length > 2) tail.kind = last as SourceKind
    else if (isMinutes) tail.minutes = Number(rest.at(-2))
    else return { rest, tail }
    rest.splice(isMinutes ? -2 : -1)
  }
}

function readSource(words: string[], { tallies, patterns }: EntryContext, kind?: SourceKind): EntryReading {
  const { rest, tail: said } = takeTail(words)
  const tail = { ...said, kind: said.kind ?? kind }
  const { count, next } = readCount(rest, tallies)
  if (!isCount(count)) return nothing(countNeed)
  const pattern = patterns.find(({ id }) => id === rest[next])
  // With amounts of its own it is a source of its own: 12 drift hares 20 renown.
  const isMeantAsAmount = (word: string, i: number) => /^[+-]?\d/.test(word) && nearest(rest[i + 1] ?? '', tallies.map(({ id }) => id)).length > 0
  const hasAmounts = rest.some((word, i) => i > next && (isAmountAt(rest, i, tallies) || isMeantAsAmount(word, i)))
  return pattern && !hasAmounts ? readPatterned(rest.slice(next + 1).join(' '), count, tail, pattern) : readPlainSource(rest, next, count, tail, tallies)
}

/** `6 drift Drifts on the pans side`: what it gives comes from the pattern. */
function readPatterned(name: string, count: number, tail: Tail, pattern: { id: string; name: string }): EntryReading {
  const own = { ...(tail.kind && { kind: tail.kind }), ...(tail.respawns && { respawns: true }), ...(tail.minutes && { minutes: tail.minutes }) }
  const record = { name: name || labelOf(pattern), pattern: pattern.id, role: tail.role, count, requires: '', caps: [], ...own } satisfies Omit<RecordOf['source'], 'id'>
  return { kind: 'source', record, says: [tail.kind ?? 'source', `${count} × pattern ${pattern.id}`, tail.role].join(' · ') }
}

function readPlainSource(rest: string[], start: number, count: number, tail: Tail, tallies: readonly TallyName[]): EntryReading {
  let at = start
  while (at < rest.length && !isAmountAt(rest, at, tallies) && rest[at] !== 'takes') at++
  const name = rest.slice(start, at).join(' ')
  const { amounts, next } = readAmounts(rest, at, tallies)
  const takes = rest[next] === 'takes' ? readAmounts(rest, next + 1, tallies) : { amounts: [], next }
  if (name === '') return nothing('a source needs a name before its amounts: 12 drift hares 20 renown')
  if (takes.next < rest.length) return nothing(leftOver(rest.slice(takes.next), tallies))
  if (amounts.length + takes.amounts.length === 0) return nothing(noAmount(rest, tallies))
  const costs = takes.amounts.map(({ tally, max }): Cost => ({ tally, amount: max }))
  const record = {
    name, kind: tail.kind ?? 'event', role: tail.role, count, yields: amounts, takes: costs,
    requires: '', respawns: tail.respawns, minutes: tail.minutes, caps: [],
  } satisfies Omit<RecordOf['source'], 'id'>
  const gives = amounts.map(amountText).join(', ')
  const parts = [tail.kind ?? 'source', count > 1 ? `${count} × ${gives}` : gives, ...(costs.length ? [`takes ${costs.map((c) => `${c.amount} ${c.tally}`).join(', ')}`] : []), tail.role, ...(tail.respawns ? ['respawns'] : []), ...(tail.minutes ? [`${tail.minutes} min`] : [])]
  return { kind: 'source', record, says: parts.join(' · ') }
}

function noAmount(words: readonly string[], tallies: readonly TallyName[]): string {
  if (tallies.length === 0) return 'there is no tally yet: type "tally Renown experience" first'
  const number = words.findIndex((word, i) => i > 0 && /^[+-]?\d/.test(word))
  if (number > 0 && !isAmount(words[number]!)) return `"${words[number]}" is no amount: a point parts decimals (1.5), a comma thousands (1,500)`
  if (number > 0) return noTally(words[number + 1] ?? '', tallies)
  return `what does it give? Add an amount and a tally, such as 20 ${tallies[0]!.id}`
}

/** What stands after an amount, and how to make a tally of it where none is meant. */
function noTally(word: string, tallies: readonly TallyName[]): string {
  const ids = tallies.map(({ id }) => id)
  const meant = nearest(word.toLowerCase(), ids)
  const added = slugFrom(word) && !meant.length ? `; to add it, type "tally ${word[0]!.toUpperCase()}${word.slice(1)}" and a kind such as currency` : ''
  return `"${word}" is no tally; ${meant.length ? `did you mean ${meant.join(' or ')}` : `there are: ${ids.join(', ')}`}${added}`
}

function leftOver(words: readonly string[], tallies: readonly TallyName[]): string {
  if (isAmount(words[0] ?? '') && words.length > 1) return noTally(words[1]!, tallies)
  return `"${words.join(' ')}" is left over; after the amounts come takes, main, side, a kind, respawns or minutes (tallies: ${tallies.map((t) => t.id).join(', ')})`
}

function readGate(kind: RecordOf['gate']['kind'], line: string, context: EntryContext): EntryReading {
  const body = line.trim().replace(/^\S+\s*/, '').replace(/\s+/g, ' ')
  const { rest, tail } = takeTail(body.split(' ').filter(Boolean))
  const { asked, costs, problem } = cutCosts(rest, context)
  if (problem) return nothing(problem)
  const { name, requires, error } = cutName(asked, context)
  if (name === '') return nothing('a gate needs a name and what it asks for: door North hatch level >= 8')
  if (error) return nothing(error.message, line.indexOf(requires) + error.column)
  const amount = name.split(' ').at(-1)!
  if (isAmount(amount) && context.tallies.some(({ id }) => id === requires)) return nothing(`what is ${amount} ${requires}? Write ${requires} >= ${amount} where it is asked for, for ${amount} ${requires} where it is paid`)
  const { plainName, guards, to } = cutGuard(name, context)
  const record = {
    name: plainName, kind, role: tail.role, guards, requires, costs, stays: 'open',
    due: tail.role === 'main' ? 'stop' : 'route', yields: [], caps: [], lockedText: '', minutes: tail.minutes,
  } satisfies Omit<RecordOf['gate'], 'id'>
  const says = [kind.replace('_', ' '), requires || 'asks for nothing', ...costs.map((c) => `${c.amount} ${c.tally}`), tail.role, ...(to ? [`bars the way to ${to}`] : [])]
  return { kind: 'gate', record, says: says.join(' · ') }
}

function cutCosts(words: string[], { tallies }: EntryContext): { asked: string[]; costs: Cost[]; problem?: string } {
  const at = words.lastIndexOf('for')
  // A name may have a "for" in it: what stands after it is what a cost ends in, or there is none.
  if (at > 0 && at + 3 === words.length && isAmount(words[at + 1]!) && !isAmountAt(words, at + 1, tallies)) return { asked: [], costs: [], problem: noTally(words[at + 2]!, tallies) }
  if (at === -1 || !isAmountAt(words.map(bare), at + 1, tallies)) return { asked: words, costs: [] }
  const { amounts, next } = readAmounts(words.map(bare), at + 1, tallies)
  const costs = amounts.map(({ tally, max }) => ({ tally, amount: max }))
  return next < words.length ? { asked: [], costs, problem: leftOver(words.slice(next), tallies) } : { asked: words.slice(0, at), costs }
}

const bare = (word: string) => plainNumbers(word.replace(/,$/, ''))

/** Where the name ends and the requirement begins: the first word from which on all reads as a requirement. */
function cutName(words: string[], { vocabulary }: EntryContext) {
  for (let at = 1; at < words.length; at++) {
    const requires = words.slice(at).join(' ')
    const { node, errors } = readText(requires, vocabulary)
    const isName = node?.type === 'number' || (node?.type === 'name' && at + 1 < words.length)
    if (node && errors.length === 0 && !isName) return { name: words.slice(0, at).join(' '), requires, error: null }
  }
  const comparison = words.findIndex((word) => /[<>=!]|\(/.test(word))
  if (comparison < 1) return { name: words.join(' '), requires: '', error: null }
  const at = words[comparison]!.includes('(') ? comparison : Math.max(1, comparison - 1)
  const requires = words.slice(at).join(' ')
  return { name: words.slice(0, at).join(' '), requires, error: readText(requires, vocabulary).errors[0] ?? null }
}

/** `North hatch to Gull Stair`: the gate bars the passage there, or the place where there is none from here. */
function cutGuard(name: string, { places, waysOut }: EntryContext) {
  const match = /^(.+) to (.+)$/i.exec(name)
  const place = match ? places.find((p) => p.id === match[2] || p.name.toLowerCase() === match[2]!.toLowerCase()) : undefined
  if (!match || !place) return { plainName: name, guards: null, to: null }
  const way = waysOut.find((found) => found.to === place.id)
  return { plainName: match[1]!, guards: way ? { passage: way.passage } : { place: place.id }, to: place.name }
}

function readPlace(words: string[], { places }: EntryContext): EntryReading {
  const { rest, tail } = takeTail(words)
  const goal = rest.at(-1)?.toLowerCase() === 'goal'
  if (goal) rest.pop()
  const last = rest.at(-1)?.toLowerCase() ?? ''
  const kind = rest.length > 1 && (placeKinds as readonly string[]).includes(last) ? (rest.pop()!.toLowerCase() as RecordOf['place']['kind']) : 'area'
  const name = rest.join(' ')
  if (slugFrom(name) === '') return nothing('a place needs a name: place Gull Stair')
  const isAgain = places.some((place) => place.name.toLowerCase() === name.toLowerCase())
  const says = ['place', kind, `${tail.minutes} min`, ...(isAgain ? ['one more of this name'] : []), ...(goal ? ['goal'] : []), 'joined to the place before it and to the route']
  return { kind: 'place', record: { name, kind, goal, minutes: tail.minutes }, says: says.join(' · ') }
}

function readTally(words: string[]): EntryReading {
  const last = words.at(-1)?.toLowerCase() ?? ''
  const isKind = (tallyKinds as readonly string[]).includes(last)
  const name = (isKind ? words.slice(0, -1) : words).join(' ')
  if (slugFrom(name) === '') return nothing(`a tally needs a name and a kind (${tallyKinds.join(', ')}): tally Stamps currency`)
  const kind = isKind ? (last as RecordOf['tally']['kind']) : 'collectible'
  const record = { name, kind, start: 0, min: 0, max: kind === 'flag' ? 1 : null, resets: 'never' as const, saved: true }
  return { kind: 'tally', record, says: `tally · ${kind} · ${slugFrom(name)}` }
}
