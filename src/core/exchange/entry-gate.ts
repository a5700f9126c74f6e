import { isToBar } from '../change/behind-gate.ts'
import { readText } from '../language/requirement.ts'
import type { RecordOf } from '../plan/kinds.ts'
import type { Cost } from '../plan/yield.ts'
import { plainNumbers } from '../view/numbers.ts'
import { leftOver, noTally } from './entry-faults.ts'
import { nothing, type EntryContext, type EntryReading } from './entry-reading.ts'
import { takeTail } from './entry-tail.ts'
import { costsOf, isAmount, isAmountAt, readAmounts } from './gives.ts'
import { requirementFault, type LineFault } from './line-fault.ts'

/** `door North hatch to Gull Stair level >= 8 for 5 stamps side`. */
export function readGateLine(kind: RecordOf['gate']['kind'], line: string, context: EntryContext): EntryReading {
  const body = line.trim().replace(/^\S+\s*/, '').replace(/\s+/g, ' ')
  const { rest, tail: { role = 'main', minutes = 0 } } = takeTail(body.split(' ').filter(Boolean), 'gate')
  const { asked, costs, problem } = cutCosts(rest, context, kind)
  if (problem) return nothing(problem)
  const { name, requires, fault } = cutName(asked, context)
  if (name === '') return nothing('a gate needs a name and what it asks for: door North hatch level >= 8')
  if (fault) return nothing(fault)
  const unasked = requires === '' || context.tallies.some(({ id }) => id === requires) ? notAsked(asked, context) : null
  if (unasked) return nothing(unasked)
  const { plainName, guards, to } = cutGuard(name, context)
  const record = {
    name: plainName, kind, role, guards, requires, costs, stays: 'open',
    due: role === 'main' ? 'stop' : 'route', yields: [], caps: [], lockedText: '', minutes,
  } satisfies Omit<RecordOf['gate'], 'id'>
  const says = [kind.replace('_', ' '), requires || 'asks for nothing', ...costs.map((c) => `${c.amount} ${c.tally}`), role, ...(to ? [`bars the way to ${to}`] : []), ...(!to && isToBar(record) ? ['bars no way yet: write "to" and a place, or add the place next'] : [])]
  return { kind: 'gate', record, says: says.join(' · ') }
}

/** In the name of a tally that the plan has not. */
const mostWords = 3

function cutCosts(words: string[], { tallies }: EntryContext, kind: RecordOf['gate']['kind']): { asked: string[]; costs: Cost[]; problem?: LineFault } {
  const at = words.lastIndexOf('for')
  // A name may have a "for" in it: what stands after it is what a cost ends in, or there is none. In a shop it is a price.
  const named = words.length - (at + 2)
  const isMeant = named === 1 || (kind === 'shop_item' && named > 0 && named <= mostWords)
  if (at > 0 && isMeant && isAmount(words[at + 1]!) && !isAmountAt(words, at + 1, tallies)) return { asked: [], costs: [], problem: noTally(words.slice(at + 2), tallies, 'paid') }
  if (at === -1 || !isAmountAt(words.map(bare), at + 1, tallies)) return { asked: words, costs: [] }
  const { amounts, next } = readAmounts(words.map(bare), at + 1, tallies)
  const costs = costsOf(amounts)
  return next < words.length ? { asked: [], costs, problem: leftOver(words.slice(next), tallies, 'paid') } : { asked: words.slice(0, at), costs }
}

const bare = (word: string) => plainNumbers(word.replace(/,$/, ''))

/** Where the name ends and the requirement begins: the first word from which on all reads as a requirement. */
function cutName(words: string[], { vocabulary }: EntryContext) {
  for (let at = 1; at < words.length; at++) {
    const requires = words.slice(at).join(' ')
    const { node, errors } = readText(requires, vocabulary)
    const isName = node?.type === 'number' || (node?.type === 'name' && at + 1 < words.length)
    if (node && errors.length === 0 && !isName) return { name: words.slice(0, at).join(' '), requires, fault: null }
  }
  const comparison = words.findIndex((word) => /[<>=!]|\(/.test(word))
  if (comparison < 1) return { name: words.join(' '), requires: '', fault: null }
  const at = words[comparison]!.includes('(') ? comparison : Math.max(1, comparison - 1)
  const requires = words.slice(at).join(' ')
  return { name: words.slice(0, at).join(' '), requires, fault: requirementFault(requires, vocabulary) }
}

/** What stands at the end of a name as if it were asked for: `5 stamps`, `level 8`. */
function notAsked(words: readonly string[], { tallies }: EntryContext): string | null {
  const at = words.findIndex((_, i) => i > 0 && isAmountAt(words, i, tallies))
  const { amounts: [amount], next } = readAmounts(words, Math.max(at, 0), tallies)
  if (amount && at > 0 && next === words.length) return `what is ${words.slice(at).join(' ')}? Write ${amount.tally} >= ${amount.min} where it is asked for, for ${amount.min} ${amount.tally} where it is paid`
  const [what = '', number = ''] = words.length > 2 ? words.slice(-2) : []
  const isNamed = ['level', 'cap', ...tallies.map(({ id }) => id)].includes(what)
  return isNamed && isAmount(number) ? `what is ${what} ${number}? Write ${what} >= ${number} where it is asked for` : null
}

/** `North hatch to Gull Stair`: the gate bars the passage there, or the place where there is none from here. */
function cutGuard(name: string, { places, waysOut }: EntryContext) {
  const match = /^(.+) to (.+)$/i.exec(name)
  const place = match ? places.find((p) => p.id === match[2] || p.name.toLowerCase() === match[2]!.toLowerCase()) : undefined
  if (!match || !place) return { plainName: name, guards: null, to: null }
  const way = waysOut.find((found) => found.to === place.id)
  return { plainName: match[1]!, guards: way ? { passage: way.passage } : { place: place.id }, to: place.name }
}

