import { didYouMean } from '../plan/issue-text.ts'
import { nearest } from '../plan/nearest.ts'
import type { Records } from '../plan/records.ts'
import type { CheckOptions } from './result.ts'

/** What a check can be asked for alone, each by its id. */
const askedAlone = ['route', 'profile', 'gate'] as const satisfies readonly (keyof CheckOptions)[]
export type AskedAlone = { [kind in (typeof askedAlone)[number]]?: string | undefined }

/** More ids than these are not listed: the nearest are named. */
const mostListed = 12

/** What is asked for and not in the plan, each with the ids that would fit. */
export function missingOf(records: Records, asked: AskedAlone): { kind: keyof AskedAlone; says: string }[] {
  return askedAlone.flatMap((kind) => {
    const wanted = asked[kind]
    const ids = [...records[kind].values()].map(({ id }) => id)
    return wanted === undefined || ids.includes(wanted) ? [] : [{ kind, says: `there is no ${kind} "${wanted}"; ${fitting(wanted, ids)}` }]
  })
}

function fitting(wanted: string, ids: readonly string[]): string {
  if (ids.length <= mostListed) return `there are: ${ids.join(', ')}`
  const near = nearest(wanted, ids)
  return near.length ? didYouMean(near) : `there are ${ids.length} others`
}
