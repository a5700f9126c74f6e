import { crowdText, type Crowd } from './bounds.ts'
import type { IssueCode, PlanIssue } from './issue.ts'

type Params = PlanIssue['params']

const sentences = {
  'not-json': (p) => `this is not JSON: ${p.message}`,
  'not-a-plan': (p) => `this is not a Tundrift plan: "format" is ${p.found}, where "tundrift-plan" is expected`,
  'newer-version': (p) => `this plan has version ${p.version}; this Tundrift reads up to version ${p.known}: use a newer Tundrift`,
  shape: (p) => `${p.message}`,
  'too-many': (p) => crowdText(p as unknown as Crowd),
  'unknown-reference': (p) => `there is no ${p.kind} "${p.id}"`,
  'duplicate-id': (p) => `the id "${p.id}" is used by another ${p.kind} already`,
  'curve-value': (p) => `at level ${p.level}: ${p.value} (${p.need})`,
  'curve-limits': (p) => `${p.message}`,
  'curve-formula': (p) => `the formula fails at level ${p.level}: ${p.message}`,
  requirement: (p) => `${p.message}`,
  'live-gate-pays': () => 'a live gate is tested at every passing, so it can have no costs, yields or caps',
  'live-ring': (p) => `live gates whose requirements name each other in a ring: ${p.ring}`,
  'stops-not-joined': (p) => `no passage leads from ${p.from} to ${p.to}`,
  'experience-kind': (p) => `"${p.id}" is a ${p.kind} tally; a character listens to one of kind experience`,
  'negative-experience': (p) => `a yield of "${p.id}" is negative; experience is never taken away by a yield`,
  'clamp-order': (p) => `min ${p.min} is above max ${p.max}`,
  'start-outside': (p) => `the start ${p.start} lies outside ${p.min} to ${p.max}`,
  'start-level': (p) => `start level ${p.level} lies outside the curve's levels ${p.first} to ${p.last}`,
  'level-outside': (p) => `level ${p.level} lies outside the curve's levels ${p.first} to ${p.last}`,
  'passage-to-itself': (p) => `a passage joins two places; this one leads from ${p.id} to itself`,
  'no-stops': () => 'a route needs at least one stop',
  'form-order': (p) => `a form from level ${p.from} to level ${p.to} covers none`,
  'guards-nowhere': (p) => `it guards ${p.id}, into which no passage leads`,
} satisfies Record<IssueCode, (params: Params) => string>

/** The sentence for a fault, with what would fit where that is known. */
export function issueText(issue: PlanIssue): string {
  const where = issue.column === undefined ? '' : ` (column ${issue.column})`
  const fits = issue.fits?.length ? `; ${didYouMean(issue.fits)}` : ''
  return sentences[issue.code](issue.params) + where + fits
}

export function didYouMean(fits: readonly string[]): string {
  return `did you mean ${fits.map((fit) => `"${fit}"`).join(' or ')}?`
}
