import { gateKinds } from '../plan/gate.ts'
import { sourceKinds } from '../plan/source.ts'
import { placeKinds } from '../plan/place.ts'
import { tallyKinds } from '../plan/tally.ts'
import { complete } from '../language/complete.ts'
import type { EntryContext } from './entry-line.ts'

export interface EntryOption {
  /** What is put in place of the word. */
  text: string
  /** What it is. */
  detail: string
}

export interface EntryCompletion {
  /** Where the word begins that is completed. */
  from: number
  options: EntryOption[]
}

const most = 8

/** What the word before the caret of an entry line may become: tallies, patterns, places, kinds, and the words of a requirement. */
export function completeEntry(line: string, caret: number, context: EntryContext): EntryCompletion {
  const before = line.slice(0, caret)
  const word = /[\p{L}_][\p{L}\d_]*$/u.exec(before)?.[0] ?? ''
  const from = caret - word.length
  const nothing = { from, options: [] }
  if (word === '' || (caret < line.length && /[\p{L}\d_]/u.test(line[caret]!))) return nothing
  const lead = before.slice(0, from)
  const first = before.trim().split(/\s+/)[0]?.toLowerCase() ?? ''
  const starts = ({ text, detail }: EntryOption) => (text.toLowerCase().startsWith(word.toLowerCase()) || detail.toLowerCase().startsWith(word.toLowerCase())) && text !== word
  const options = optionsAt(lead, first, word, context).filter(starts)
  return { from, options: [...new Map(options.map((option) => [option.text, option])).values()].slice(0, most) }
}

function optionsAt(lead: string, first: string, word: string, context: EntryContext): EntryOption[] {
  const words = (texts: readonly string[], detail: string) => texts.map((text): EntryOption => ({ text, detail }))
  const tallies = context.tallies.map(({ id, name }): EntryOption => ({ text: id, detail: name }))
  if (lead.trim() === '') return [...words(['door', 'place', 'tally', ...gateKinds.filter((kind) => kind !== 'door'), ...sourceKinds], 'adds one'), ...patterns(context)]
  if (first === 'place') return words([...placeKinds, 'goal'], 'of the place')
  if (first === 'tally') return words(tallyKinds, 'kind of tally')
  const isGate = (gateKinds as readonly string[]).includes(first) || first === 'gate'
  const asked = () => complete(lead + word, lead.length + word.length, context.vocabulary).options.map((option): EntryOption => ({ text: option.insert.trim(), detail: option.detail }))
  if (!isGate && /\sif\s/.test(lead)) return [...asked(), ...words(['side', 'main'], 'of the source')]
  if (!isGate) return [...(/\d\s*$/.test(lead) ? tallies : []), ...(/^\s*\d+\s*(×|x)?\s*$/.test(lead) ? patterns(context) : []), ...words(['side', 'main', 'takes', 'if', 'respawns', ...sourceKinds], 'of the source')]
  const toPlace = / to\s+$/i.test(lead) ? context.places.map(({ id, name }): EntryOption => ({ text: name, detail: id })) : []
  if (/ for\s+[\d.]+\s+$/.test(lead)) return tallies
  return [...toPlace, ...asked(), ...words(['side', 'main', 'to', 'for', 'and', 'or', 'not'], 'of the gate')]
}

function patterns({ patterns: all }: EntryContext): EntryOption[] {
  return all.map(({ id, name }): EntryOption => ({ text: id, detail: `pattern: ${name}` }))
}
