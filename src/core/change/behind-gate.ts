import { labelOf } from '../plan/label-of.ts'
import type { Place } from '../plan/place.ts'
import { byId, contentsByPlace, type Records, type Row } from '../plan/records.ts'
import { addPlaceAfter } from './add-place.ts'
import type { Diff } from './diff.ts'
import { setFields } from './edits.ts'
import { Steps } from './steps.ts'

/** A gate that bars no way yet. */
export interface FreeGate extends Pick<Row<'gate'>, 'key' | 'id' | 'name' | 'kind' | 'role'> {
  /** Whether nothing that is on the way comes behind it in its place. */
  isLast: boolean
}

/** The gates of a place that bar no way, in their order. */
export function freeGatesIn(records: Records, place: string | null): FreeGate[] {
  const items = place === null ? [] : (contentsByPlace(records).get(place) ?? [])
  const lastMain = items.findLastIndex(({ row }) => row.role === 'main')
  return items.flatMap(({ kind, row }, i) => {
    if (kind !== 'gate' || row.guards) return []
    const { key, id, name, kind: gateKind, role } = row
    return [{ key, id, name, kind: gateKind, role, isLast: i >= lastMain }]
  })
}

/** Which gate is to bar the way to a place, and what it is called then. */
export interface Barring {
  gate: FreeGate
  name: string
  bars: 'passage' | 'place'
}

const namesAWay = / to ./i

/** Whether a gate is meant to bar a way, though it says none. */
export function isToBar({ kind, role }: Pick<FreeGate, 'kind' | 'role'>): boolean {
  return (kind === 'door' || kind === 'area') && role === 'main'
}

/**
 * The gate, of those in the place before, that is meant for a new place of this name: `Stair gate to Gull Stair`; a stage or area that
 * is called like it; or a main door with which the place before ends.
 */
export function gateBefore(gates: readonly FreeGate[], name: string): Barring | null {
  const wanted = name.toLowerCase()
  const ending = ` to ${wanted}`
  const named = gates.find((gate) => gate.name.length > ending.length && gate.name.toLowerCase().endsWith(ending))
  if (named) return { gate: named, name: named.name.slice(0, -ending.length), bars: 'passage' }
  const alike = gates.find((gate) => (gate.kind === 'stage' || gate.kind === 'area') && gate.name.toLowerCase() === wanted)
  if (alike) return { gate: alike, name: alike.name, bars: 'place' }
  const last = gates.find((gate) => gate.isLast && isToBar(gate) && !namesAWay.test(gate.name))
  return last ? { gate: last, name: last.name, bars: 'passage' } : null
}

/** A new place after another one, as `addPlaceAfter` adds it, behind the gate that is meant for it. */
export function addPlaceBehind(records: Records, place: Place, keys: { place: string; passage: string }, after: string | null, routeKey: string | null): Diff {
  const steps = new Steps(records)
  steps.add(addPlaceAfter(records, place, keys, after, routeKey))
  const barred = barWay(steps.records, keys.passage)
  if (!barred) return steps.as(`add ${labelOf(place)}`)
  steps.add(barred.diff)
  return steps.as(`add ${labelOf(place)} behind ${barred.by}`)
}

/** A new passage is barred by the gate in the place from which it leads that is meant for the place behind it; null: there is none. */
export function barWay(records: Records, passageKey: string): { diff: Diff; by: string } | null {
  const passage = records.passage.get(passageKey)
  const [from, to] = [passage?.from, passage?.to].map((id) => (id === undefined ? undefined : byId(records, 'place', id)))
  const barring = from && to ? gateBefore(freeGatesIn(records, from.key), to.name) : null
  if (!passage || !barring) return null
  const { gate, name, bars } = barring
  const guards = bars === 'place' ? { place: passage.to } : { passage: passage.id }
  return { diff: setFields(records, 'gate', gate.key, { name, guards }, 'bars the way'), by: labelOf({ id: gate.id, name }) }
}
