/**
 * How often a property is tried. As a rule with the same made-up values each time, so that a change is judged by what it changes;
 * `npm run explore` tries new ones, many times as often.
 */
import fc from 'fast-check'

const times = Number(process.env['TUNDRIFT_EXPLORE'] ?? 0)
/** Any number does: it says which values are made up. */
const seed = 4_711

fc.configureGlobal(times === 0 ? { seed } : { numRuns: 100 * times })

/** `few`: as often as takes a second or so. */
export function runs(few: number): number {
  return few * Math.max(1, times)
}
