import { labelOf } from '../plan/label-of.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { usualProfiles } from '../plan/route.ts'
import type { Diff } from './diff.ts'
import { addRecord, freeId, setFields } from './edits.ts'
import { Steps } from './steps.ts'

/**
 * A route through all places in their order, from the start on, by the shortest ways that there are; what no way leads to is left out.
 * It is the one with this key, or a new one. One undoable step.
 */
export function routeOfAllPlaces(records: Records, routeKey: string | null, newKey: () => string): Diff {
  const stops = wayThroughAll(records)
  const route = routeKey === null ? undefined : records.route.get(routeKey)
  if (route) return setFields(records, 'route', route.key, { stops }, `let ${labelOf(route)} go through all places`)
  return addRecord(records, 'route', newKey(), { id: freeId(records, 'route', 'main line'), name: 'Main line', stops })
}

function wayThroughAll(records: Records): string[] {
  const places = inOrder(records, 'place').map(({ id }) => id)
  const ways = waysOut(records)
  const stops = places.includes(records.head.start) ? [records.head.start] : places.slice(0, 1)
  for (const place of places) if (!stops.includes(place)) stops.push(...(shortestWay(ways, stops.at(-1)!, place) ?? []))
  return stops
}

/** By place: where one passage leads from it. */
function waysOut(records: Records): Map<string, string[]> {
  const ways = new Map<string, string[]>(inOrder(records, 'place').map(({ id }) => [id, []]))
  for (const { from, to, twoWay } of inOrder(records, 'passage')) {
    ways.get(from)?.push(to)
    if (twoWay) ways.get(to)?.push(from)
  }
  return ways
}

/** The places that one comes through from one to another, with that one at the end; null: there is no way. */
function shortestWay(ways: ReadonlyMap<string, readonly string[]>, from: string, to: string): string[] | null {
  const before = new Map<string, string | null>([[from, null]])
  // A map is walked while it grows: what is added is come to in its turn.
  for (const place of before.keys()) {
    if (place === to) break
    for (const next of ways.get(place) ?? []) if (!before.has(next)) before.set(next, place)
  }
  if (!before.has(to)) return null
  const way: string[] = []
  for (let at = to; at !== from; at = before.get(at)!) way.unshift(at)
  return way
}

/** The three kinds of player that a new plan has. One undoable step. */
export function usualPlayers(records: Records, newKey: () => string): Diff {
  const steps = new Steps(records)
  for (const profile of usualProfiles) steps.add(addRecord(steps.records, 'profile', newKey(), { ...profile, id: freeId(steps.records, 'profile', profile.id) }))
  return steps.as('add the usual kinds of player')
}
