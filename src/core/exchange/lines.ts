import { freeSlug } from '../change/slug.ts'
import type { Form, Reward, Stat } from '../plan/character.ts'
import type { CapChange, Cost, Yield } from '../plan/yield.ts'
import { allCharacters } from '../plan/references.ts'
import type { NamedAs } from '../change/missing-tally.ts'
import { missingAt } from './entry-faults.ts'
import { amountText, costsOf, costText, readAmounts, wordsOf, type TallyName } from './gives.ts'
import type { LineFault } from './line-fault.ts'
import { typedNumber } from '../view/numbers.ts'

/** Small lists of a record as lines of text: quick to type, to read and to paste. Each reads back what it prints. */
export type LinesRead<T> = { ok: true; value: T } | ({ ok: false; line: number } & LineFault)

export interface LinesContext {
  tallies: readonly TallyName[]
  characters: readonly { id: string }[]
}

export interface LineFormat<T> {
  print(list: readonly T[]): string
  read(text: string, context: LinesContext): LinesRead<T[]>
  /** An example, for an empty field. */
  example: string
}

/** One entry a line; `one` says what is wrong with a line, or gives its entry. */
function byLine<T>(one: (line: string, context: LinesContext, before: readonly T[]) => T | string): LineFormat<T>['read'] {
  return (text, context) => {
    const value: T[] = []
    for (const [i, line] of text.split('\n').entries()) {
      if (line.trim() === '') continue
      const entry = one(line.trim(), context, value)
      if (typeof entry === 'string') return { ok: false, says: `line ${i + 1}: ${entry}`, line: i + 1 }
      value.push(entry)
    }
    return { ok: true, value }
  }
}

function amountsOf(text: string, { tallies }: LinesContext, as: NamedAs = 'given'): Yield[] | LineFault {
  const words = wordsOf(text.replace(/\n/g, ' '))
  const { amounts, next } = readAmounts(words, 0, tallies)
  if (next === words.length) return amounts
  return { says: `"${words.slice(next).join(' ')}" is no amount of a tally (tallies: ${tallies.map((t) => t.id).join(', ')})`, ...missingAt(words, next, tallies, as) }
}

export const yieldLines: LineFormat<Yield> = {
  example: '20 renown, 2-4 stamps',
  print: (list) => list.map(amountText).join(', '),
  read(text, context) {
    const amounts = amountsOf(text, context)
    return 'says' in amounts ? { ok: false, line: 1, ...amounts } : { ok: true, value: amounts }
  },
}

export const costLines: LineFormat<Cost> = {
  example: '5 stamps',
  print: (list) => list.map(costText).join(', '),
  read(text, context) {
    const amounts = amountsOf(text, context, 'paid')
    if ('says' in amounts) return { ok: false, line: 1, ...amounts }
    if (amounts.some((a) => a.min !== a.max || a.min < 0)) return { ok: false, says: 'a cost is one amount, 0 or more', line: 1 }
    return { ok: true, value: costsOf(amounts) }
  },
}

export const capLines: LineFormat<CapChange> = {
  example: 'courier 18',
  print: (list) => list.map(({ character, level }) => `${character} ${level}`).join('\n'),
  read: byLine((line, { characters }) => {
    const match = /^(\S+)\s+(\d+)$/.exec(line)
    if (!match) return 'write a character (or all) and a level, such as courier 18'
    const known = match[1] === allCharacters || characters.some((c) => c.id === match[1])
    if (!known) return `"${match[1]}" is no character: ${[...characters.map((c) => c.id), allCharacters].join(', ')}`
    return { character: match[1]!, level: Number(match[2]) }
  }),
}

const slugOf = (name: string, before: readonly { id: string }[]) => freeSlug(name, new Set(before.map((entry) => entry.id)))

export const formLines: LineFormat<Form> = {
  example: 'Pup 1-4',
  print: (list) => list.map(({ name, from, to }) => `${name} ${from}-${to}`).join('\n'),
  read: byLine((line, _, before) => {
    const match = /^(.+?)\s+(\d+)\s*(?:-|–|to)\s*(\d+)$/.exec(line)
    return match ? { id: slugOf(match[1]!, before), name: match[1]!, from: Number(match[2]), to: Number(match[3]) } : 'write a name and the levels, such as Pup 1-4'
  }),
}

export const statLines: LineFormat<Stat> = {
  example: 'Stamina 40 +6',
  print: (list) => list.map(({ name, start, growth, by, rounding }) => `${name} ${start} ${growth === 'add' ? '+' : '×'}${by}${rounding === 'nearest' ? '' : ` ${rounding}`}`).join('\n'),
  read: byLine((line, _, before) => {
    const match = /^(.+?)\s+(-?\d+(?:\.\d+)?)\s+([+×x*])\s*(-?\d+(?:\.\d+)?)(?:\s+(nearest|nearest_even|down|up|none))?$/.exec(line)
    if (!match) return 'write a name, its start and its growth, such as Stamina 40 +6 or Load 12 ×1.06 down'
    const growth = match[3] === '+' ? 'add' as const : 'multiply' as const
    return { id: slugOf(match[1]!, before), name: match[1]!, start: Number(match[2]), growth, by: Number(match[4]), rounding: (match[5] ?? 'nearest') as Stat['rounding'] }
  }),
}

export const rewardLines: LineFormat<Reward> = {
  example: '5: 4 stamps',
  print: (list) => list.map(({ level, yields }) => `${level}: ${yieldLines.print(yields)}`).join('\n'),
  read: byLine((line, context) => {
    const match = /^(\d+|every)\s*:\s*(.+)$/.exec(line)
    if (!match) return 'write a level (or every) and what it gives, such as 5: 4 stamps'
    const yields = amountsOf(match[2]!, context)
    return 'says' in yields ? yields.says : { level: match[1] === 'every' ? 'every' as const : Number(match[1]), yields }
  }),
}

export const numberLines: LineFormat<number> = {
  example: '90\n120\n155',
  print: (list) => list.join('\n'),
  read: byLine((line) => {
    const n = typedNumber(line)
    return Number.isFinite(n) ? n : `"${line}" is no number`
  }),
}
