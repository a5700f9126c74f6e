import type { Tally } from '../plan/tally.ts'
import type { Cost, Yield } from '../plan/yield.ts'
import { isExactAmount, mostUnits } from '../plan/basics.ts'
import { plainNumbers } from '../view/numbers.ts'

/** Amounts as a designer types and reads them: `4 × 15 renown, 2-4 stamps`. */

export interface TallyName {
  id: string
  name: string
  kind: Tally['kind']
}

/** A tally in words: its id, which is what is typed. */
export function amountText({ tally, min, max }: Yield): string {
  return `${min === max ? min : `${min}-${max}`} ${tally}`
}

export function costText({ tally, amount }: Cost): string {
  return `${amount} ${tally}`
}

export interface AmountsRead {
  amounts: Yield[]
  /** Where the amounts end in the words; words after them are something else. */
  next: number
}

const number = String.raw`[+-]?\d+(?:\.\d+)?`
const between = '(?:-|–|to)'
const amountPattern = new RegExp(`^(${number})(?:${between}(${number}))?$`)
const numberPattern = new RegExp(`^${number}$`)
const betweenPattern = new RegExp(`^${between}$`)

/** The amount that begins at a word, as one: `20`, `2-4`, `2 to 4`; and the word after it. */
function amountAt(words: readonly string[], at: number): { text: string; next: number } {
  const [first = '', second = '', third = ''] = words.slice(at, at + 3)
  const isApart = numberPattern.test(first) && betweenPattern.test(second) && numberPattern.test(third)
  return isApart ? { text: `${first}-${third}`, next: at + 3 } : { text: first, next: at + 1 }
}

/** Reads `amount tally` pairs from words, beginning at `from`, as far as they go. */
export function readAmounts(words: readonly string[], from: number, tallies: readonly TallyName[]): AmountsRead {
  const amounts: Yield[] = []
  let at = from
  for (;;) {
    if (words[at] === 'and' || words[at] === '+') at++
    const { text, next } = amountAt(words, at)
    const match = amountPattern.exec(text)
    const tally = match ? tallyAt(words, next, tallies) : null
    if (!match || !tally) return { amounts, next: at }
    const min = Number(match[1])
    const max = match[2] === undefined ? min : Number(match[2])
    if (!isExactAmount(min) || !isExactAmount(max) || min > max) return { amounts, next: at }
    amounts.push({ tally: tally.id, min, max })
    at = next + tally.words
  }
}

/** Amounts that are paid: of a range the most. */
export function costsOf(amounts: readonly Yield[]): Cost[] {
  return amounts.map(({ tally, max }) => ({ tally, amount: max }))
}

/** Reads what a unit gives, and after `takes` what it uses up, as far as they go. */
export function readTrade(words: readonly string[], from: number, tallies: readonly TallyName[]): { yields: Yield[]; takes: Cost[]; next: number } {
  const gives = readAmounts(words, from, tallies)
  const takes = words[gives.next] === 'takes' ? readAmounts(words, gives.next + 1, tallies) : { amounts: [], next: gives.next }
  return { yields: gives.amounts, takes: costsOf(takes.amounts), next: takes.next }
}

/** Whether a word is an amount: `20`, `2-4`. */
export const isAmount = (word: string) => amountPattern.test(word)

/** Whether a text is an amount and nothing else, as a spreadsheet may show it: `1,200`, `4 to 7`. */
export function isAmountAlone(text: string): boolean {
  const words = wordsOf(text)
  const amount = amountAt(words, 0)
  return isAmount(amount.text) && amount.next >= words.length
}

/** Whether an amount begins at a word: a number with a tally's name after it. */
export function isAmountAt(words: readonly string[], at: number, tallies: readonly TallyName[]): boolean {
  const { text, next } = amountAt(words, at)
  return isAmount(text) && tallyAt(words, next, tallies) !== null
}

export const countNeed = 'a count is a whole number between 1 and 1,000,000'
export const isCount = (n: number) => Number.isInteger(n) && n >= 1 && n <= mostUnits

/** The count at the beginning of words (`12 hares`, `12 × 20 renown`), 1 where there is none; `next`: the word after it. */
export function readCount(words: readonly string[], tallies: readonly TallyName[]): { count: number; next: number } {
  // No number that stands before an amount is part of a name: it is a count, if a wrong one.
  const isNumber = /^[+-]?\d+(\.\d+)?(e\d+)?$/i.test(words[0] ?? '') && words.some((word, i) => i > 0 && (word === '×' || isAmountAt(words, i, tallies)))
  if ((!/^\d+$/.test(words[0] ?? '') && !isNumber) || isAmountAt(words, 0, tallies)) return { count: 1, next: 0 }
  return { count: Number(words[0]), next: words[1] === '×' ? 2 : 1 }
}

/** The tally that is called so: by its id or name, or `xp`, as everybody calls the experience that the plan names first. */
export function tallyNamed(text: string, tallies: readonly TallyName[]): TallyName | undefined {
  const small = text.toLowerCase()
  const found = tallies.find(({ id, name }) => id === small || name.toLowerCase() === small)
  return found ?? (small === 'xp' ? tallies.find(({ kind }) => kind === 'experience') : undefined)
}

/** The tally that is named at a word, by the longest name first. */
export function tallyAt(words: readonly string[], at: number, tallies: readonly TallyName[]): { id: string; words: number } | null {
  for (const length of [4, 3, 2, 1]) {
    const found = at + length > words.length ? undefined : tallyNamed(words.slice(at, at + length).join(' '), tallies)
    if (found) return { id: found.id, words: length }
  }
  return null
}

/** Text cut into words: commas and the middle dot part amounts, `3x` and `3 ×` are a count, and `20xp` is an amount. */
export function wordsOf(text: string): string[] {
  const parted = plainNumbers(text).replace(/[;·]|,(?!\d)|(?<!\d),/g, ' ')
  return parted.replace(/(\d)\s*[x×](?=\s)/g, '$1 ×').replace(/(?<!\S)(\d+)[x×](?=\d)/g, '$1 × ').replace(/(\d)xp(?!\S)/gi, '$1 xp').trim().split(/\s+/).filter(Boolean)
}
