import { slugFrom } from '../change/slug.ts'
import { nearest } from '../plan/nearest.ts'
import { isAmount, type TallyName } from './gives.ts'

export function noAmount(words: readonly string[], tallies: readonly TallyName[]): string {
  if (tallies.length === 0) return 'there is no tally yet: type "tally Renown experience" first'
  const number = words.findIndex((word, i) => i > 0 && /^[+-]?\d/.test(word))
  if (number > 0 && !isAmount(words[number]!)) return `"${words[number]}" is no amount: a point parts decimals (1.5), a comma thousands (1,500)`
  if (number > 0) return noTally(words[number + 1] ?? '', tallies)
  return `what does it give? Add an amount and a tally, such as 20 ${tallies[0]!.id}`
}

/** What stands after an amount, and how to make a tally of it where none is meant. */
export function noTally(word: string, tallies: readonly TallyName[]): string {
  const ids = tallies.map(({ id }) => id)
  const meant = nearest(word.toLowerCase(), ids)
  const added = slugFrom(word) && !meant.length ? `; to add it, type "tally ${word[0]!.toUpperCase()}${word.slice(1)}" and a kind such as currency` : ''
  return `"${word}" is no tally; ${meant.length ? `did you mean ${meant.join(' or ')}` : `there are: ${ids.join(', ')}`}${added}`
}

export function leftOver(words: readonly string[], tallies: readonly TallyName[]): string {
  if (isAmount(words[0] ?? '') && words.length > 1) return noTally(words[1]!, tallies)
  return `"${words.join(' ')}" is left over; after the amounts come takes, if, main, side, a kind, respawns or minutes (tallies: ${tallies.map((t) => t.id).join(', ')})`
}

