import { missingTally, type MissingTally } from '../change/missing-tally.ts'
import type { LanguageError } from '../language/language-error.ts'
import type { Vocabulary } from '../language/names.ts'
import { readText } from '../language/requirement.ts'
import type { Span } from '../language/tokens.ts'

/** What is wrong with what was typed, and the tally that would mend it, where one would. */
export interface LineFault {
  says: string
  missing?: MissingTally
}

export function faultOf(fault: string | LineFault): LineFault {
  return typeof fault === 'string' ? { says: fault } : fault
}

/** What is wrong in a requirement, and the names that would fit. */
export function faultText({ message, fits }: LanguageError): string {
  return fits.length ? `${message}; did you mean ${fits.join(' or ')}?` : message
}

/** The first fault of a requirement, with its column; null: there is none. */
export function requirementFault(requires: string, vocabulary: Vocabulary): (LineFault & { column: number }) | null {
  const error = readText(requires, vocabulary).errors[0]
  if (!error) return null
  const missing = isNoTally(error) ? missingTally(error.params['name'] as string, isNumber(requires, error.span) ? 'asked' : 'truth') : undefined
  // In a requirement a name is an id, to the letter.
  return { says: faultText(error), column: error.column, ...(missing?.id === error.params['name'] && { missing }) }
}

const isNoTally = ({ code, params, fits }: LanguageError) => code === 'unknown-name' && params['kind'] === 'tally' && fits.length === 0

/** Whether what stands somewhere in a requirement is compared or reckoned with. */
function isNumber(requires: string, { from, to }: Span): boolean {
  return /^\s*[<>=!+*/%^-]/.test(requires.slice(to)) || /[<>=+*/%^-]\s*$/.test(requires.slice(0, from))
}
