import { labelOf } from '../plan/label-of.ts'
import type { Place } from '../plan/place.ts'
import { byId, inOrder, type Records, type Row } from '../plan/records.ts'
import type { Diff } from './diff.ts'
import { addRecord, freeId, setFields, setHead } from './edits.ts'
import { Steps } from './steps.ts'

/**
 * A new place after another one (null: after the last stop of the route): it joins itself to that place by a passage and to the
 * route as the next stop, and is the start when the plan has none. One undoable step.
 */
export function addPlaceAfter(records: Records, place: Place, keys: { place: string; passage: string }, after: string | null, routeKey: string | null): Diff {
  const route = routeKey === null ? undefined : records.route.get(routeKey)
  const before = placeBefore(records, after, routeKey)
  const steps = new Steps(records)
  steps.add(addRecord(steps.records, 'place', keys.place, place, before?.key))
  if (before) steps.add(addRecord(steps.records, 'passage', keys.passage, { id: freeId(steps.records, 'passage', `${before.id}_to_${place.id}`), from: before.id, to: place.id, twoWay: true }))
  if (route) {
    const at = before ? route.stops.lastIndexOf(before.id) + 1 : route.stops.length
    const follows = route.stops[at]
    steps.add(setFields(steps.records, 'route', route.key, { stops: [...route.stops.slice(0, at), place.id, ...route.stops.slice(at)] }, 'stop'))
    if (before && follows !== undefined) steps.add(joinOn(steps.records, place.id, follows, `${keys.passage}_on`))
  }
  if (!inOrder(records, 'place').some((other) => other.id === records.head.start)) steps.add(setHead(steps.records, { start: place.id }, 'start'))
  return steps.as(`add ${labelOf(place)}`)
}

/** The place to which a new one joins itself; undefined: it is the first. */
export function placeBefore(records: Records, after: string | null, routeKey: string | null): Row<'place'> | undefined {
  if (after !== null) return records.place.get(after)
  const lastStop = routeKey === null ? undefined : records.route.get(routeKey)?.stops.at(-1)
  return lastStop === undefined ? undefined : byId(records, 'place', lastStop)
}

/** The way on from a place that was put between two stops. */
function joinOn(records: Records, from: string, to: string, key: string): Diff {
  return addRecord(records, 'passage', key, { id: freeId(records, 'passage', `${from}_to_${to}`), from, to, twoWay: true })
}
