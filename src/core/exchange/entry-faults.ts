import { missingTally, type NamedAs } from '../change/missing-tally.ts'
import { nearest } from '../plan/nearest.ts'
import { isAmount, type TallyName } from './gives.ts'
import type { LineFault } from './line-fault.ts'

export function noAmount(words: readonly string[], tallies: readonly TallyName[]): LineFault {
  const number = words.findIndex((word, i) => i > 0 && /^[+-]?\d/.test(word))
  if (number > 0 && !isAmount(words[number]!)) return { says: `"${words[number]}" is no amount: a point parts decimals (1.5), a comma thousands (1,500)` }
  if (number > 0) return noTally(words.slice(number + 1), tallies, 'given')
  if (tallies.length === 0) return { says: 'there is no tally yet: type "tally Renown experience" first' }
  return { says: `what does it give? Add an amount and a tally, such as 20 ${tallies[0]!.id}` }
}

/** Words that end a tally's name. */
const behindName = new Set(['takes', 'and', '+', '×', 'x', 'if'])

/** What stands after an amount where no tally is meant: one of the plan, or one that is still missing. */
export function noTally(words: readonly string[], tallies: readonly TallyName[], as: NamedAs): LineFault {
  const ids = tallies.map(({ id }) => id)
  const known = ids.length ? `there are: ${ids.join(', ')}` : 'there is none yet: type "tally Renown experience" first'
  if (words.length === 0) return { says: `of which tally? ${known}` }
  const end = words.findIndex((word, i) => i > 0 && (isAmount(word) || behindName.has(word)))
  const name = (end < 0 ? words : words.slice(0, end)).join(' ')
  const near = (text: string) => nearest(text.toLowerCase().replace(/ /g, '_'), ids)
  const meant = near(name)
  if (meant.length) return { says: `"${name}" is no tally; did you mean ${meant.join(' or ')}` }
  const missing = missingTally(name, as, tallies.length === 0)
  const offered = missing && { missing }
  // Its first word may be a slip of the pen, with something else behind it; or the whole is a name like another's: seal oil, beside seals.
  const first = name === words[0] ? [] : near(words[0]!)
  if (first.length) return { says: `"${words[0]}" is no tally; did you mean ${first.join(' or ')}`, ...offered }
  return { says: `"${name}" is no tally; ${known}`, ...offered }
}

export function leftOver(words: readonly string[], tallies: readonly TallyName[], as: NamedAs): LineFault {
  if (isAmount(words[0] ?? '') && words.length > 1) return noTally(words.slice(1), tallies, as)
  return { says: `"${words.join(' ')}" is left over; after the amounts come takes, if, main, side, a kind, respawns or minutes (tallies: ${tallies.map((t) => t.id).join(', ')})` }
}

/** The tally that is missing behind an amount; nothing where no amount stands there, or another tally was meant. */
export function missingAt(words: readonly string[], at: number, tallies: readonly TallyName[], as: NamedAs): Pick<LineFault, 'missing'> {
  const missing = isAmount(words[at]!) && at + 1 < words.length ? noTally(words.slice(at + 1), tallies, as).missing : undefined
  return missing ? { missing } : {}
}
