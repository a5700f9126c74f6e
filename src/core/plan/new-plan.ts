import { slugFrom } from '../change/slug.ts'
import { Head } from './head.ts'
import { ordersBetween } from './order.ts'
import { emptyRecords, type Records } from './records.ts'
import { usualProfiles } from './route.ts'

/** An empty plan with the three usual profiles and a route without stops; its start is still to be placed. */
export function newPlan(name: string): Records {
  const records = emptyRecords(Head.parse({ id: slugFrom(name) || 'plan', name, start: 'start' }))
  const orders = ordersBetween(null, null, usualProfiles.length)
  const profiles = usualProfiles.map((profile, i) => ({ ...profile, key: `profile_${i}`, order: orders[i]! }))
  const route = { id: 'main_line', name: 'Main line', stops: [], key: 'route_0', order: orders[0]! }
  return { ...records, profile: new Map(profiles.map((row) => [row.key, row])), route: new Map([[route.key, route]]) }
}
