import { labelOf } from '../plan/label-of.ts'
import { leadsTo } from '../plan/place.ts'
import { byId, inOrder, type Records, type Row } from '../plan/records.ts'
import type { Diff } from './diff.ts'
import { addRecord, freeId, setFields } from './edits.ts'
import { Steps } from './steps.ts'

/**
 * Moves a stop of a route one step up or down; passages that are missing between neighbours then are made, so that the route can
 * still be gone. null: there is no stop to change with.
 */
export function moveStop(records: Records, route: Row<'route'>, stop: number, by: 1 | -1, newKey: () => string): Diff | null {
  const stops = [...route.stops]
  const [moved, other] = [stops[stop], stops[stop + by]]
  if (moved === undefined || other === undefined || moved === other) return null
  stops[stop] = other
  stops[stop + by] = moved
  const place = byId(records, 'place', moved)
  const steps = new Steps(records)
  steps.add(setFields(records, 'route', route.key, { stops }, 'order'))
  const first = Math.min(stop, stop + by)
  for (const at of [first - 1, first, first + 1]) {
    const [from, to] = [stops[at], stops[at + 1]]
    if (from === undefined || to === undefined || from === to || isJoined(steps.records, from, to)) continue
    steps.add(addRecord(steps.records, 'passage', newKey(), { id: freeId(steps.records, 'passage', `${from}_to_${to}`), from, to, twoWay: true }))
  }
  return steps.as(`move ${place ? labelOf(place) : moved} ${by === 1 ? 'later' : 'earlier'} on ${labelOf(route)}`)
}

function isJoined(records: Records, from: string, to: string): boolean {
  return inOrder(records, 'passage').some((way) => leadsTo(way, from) === to)
}
