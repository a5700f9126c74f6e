/** The small values that every kind of record is built of (docs/model.md, opening). */
import { z } from 'zod'
import { reservedWords } from '../language/words.ts'

export const slugPattern = /^[a-z][a-z0-9_]*$/
export const maxSlugLength = 64

export const slug = z
  .string()
  .max(maxSlugLength, `an id has at most ${maxSlugLength} characters`)
  .regex(slugPattern, 'an id starts with a small letter and goes on with small letters, digits and _')

/** A tally's id is used bare in requirements, so it may be none of the language's words. */
export const tallySlug = slug.refine((id) => !reservedWords.has(id), {
  error: (issue) => `"${String(issue.input)}" is a word of the requirement language and cannot be a tally's id`,
})

/** How many parts of 1 an amount is counted in: amounts have at most four decimals and add exactly. */
export const unitsPerOne = 10_000

const largestAmount = 100_000_000_000
const written = (n: number) => n.toLocaleString('en')

export const amount = z
  .number()
  .refine((n) => Math.abs(n) <= largestAmount, `an amount lies between −${written(largestAmount)} and ${written(largestAmount)}`)
  .refine((n) => isExactAmount(n), 'an amount has at most four decimals')

export function isExactAmount(n: number): boolean {
  return Number(n.toFixed(4)) === n
}

export const minutes = amount.refine((n) => n >= 0, 'minutes are 0 or more')
export const mostUnits = 1_000_000
export const count = z.int('a count is a whole number').min(1, 'a count is at least 1').max(mostUnits, `a count is at most ${written(mostUnits)}`)
const highestLevel = 999
export const level = z.int('a level is a whole number').min(0, 'a level is 0 or more').max(highestLevel, `a level is at most ${highestLevel}`)
export const longestName = 400
export const name = z.string().max(longestName, `a name has at most ${longestName} characters`)
export const requirement = z.string().max(2000, 'a requirement has at most 2,000 characters')
