import { gateBefore } from '../change/behind-gate.ts'
import { plainTally } from '../change/missing-tally.ts'
import { slugFrom } from '../change/slug.ts'
import { gateKinds } from '../plan/gate.ts'
import type { RecordOf } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { tallyKinds, type Tally } from '../plan/tally.ts'
import { readGateLine } from './entry-gate.ts'
import { nothing, type EntryContext, type EntryReading } from './entry-reading.ts'
import { readSourceLine } from './entry-source.ts'
import { takeTail } from './entry-tail.ts'
import { wordsOf } from './gives.ts'

export type { EntryContext, EntryReading }

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
  return Object.hasOwn(gateWords, first) ? readGateLine(gateWords[first]!, line, context) : readSourceLine(line, context)
}

function readPlace(words: string[], { places, freeGates }: EntryContext): EntryReading {
  const { rest, tail: { minutes = 0, placeKind = 'area', goal = false } } = takeTail(words, 'place')
  const name = rest.join(' ')
  if (slugFrom(name) === '') return nothing('a place needs a name: place Gull Stair')
  const isAgain = places.some((place) => place.name.toLowerCase() === name.toLowerCase())
  const barring = gateBefore(freeGates, name)
  const joined = barring ? `behind ${labelOf({ id: barring.gate.id, name: barring.name })}, joined to the place before it and to the route` : 'joined to the place before it and to the route'
  const says = ['place', placeKind, `${minutes} min`, ...(isAgain ? ['one more of this name'] : []), ...(goal ? ['goal'] : []), joined]
  return { kind: 'place', record: { name, kind: placeKind, goal, minutes }, says: says.join(' · ') }
}

function readTally(words: string[]): EntryReading {
  const last = words.at(-1)?.toLowerCase() ?? ''
  const isKind = (tallyKinds as readonly string[]).includes(last)
  const name = (isKind ? words.slice(0, -1) : words).join(' ')
  const numbers = new RegExp(`\\s(${tallyKinds.join('|')})((\\s[\\d.-]+)+)$`, 'i').exec(name)
  if (numbers) return nothing(`what is${numbers[2]} behind "${numbers[1]}"? Where a tally starts and ends is set in its fields, in the dock`)
  if (slugFrom(name) === '') return nothing(`a tally needs a name and a kind (${tallyKinds.join(', ')}): tally Stamps currency`)
  const kind = isKind ? (last as Tally['kind']) : 'collectible'
  return { kind: 'tally', record: plainTally(name, kind), says: `tally · ${kind} · ${slugFrom(name)}` }
}
