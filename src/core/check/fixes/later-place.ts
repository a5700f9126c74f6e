import { moveItem } from '../../change/edits.ts'
import { labelOf } from '../../plan/label-of.ts'
import { contentsByPlace } from '../../plan/records.ts'
import { countText } from '../../view/numbers.ts'
import type { Proposal } from './fix.ts'
import type { Trial } from './trial.ts'

/** Places tried, from the one where half the players have what it asks for. */
const mostTried = 12

/** (c) The place: the first later stop of the route at which the gate is clear as it stands. */
export function* placeFix(trial: Trial, met: number, ready: number | null): Generator<Proposal> {
  const row = trial.records.gate.get(trial.keys.gate)!
  const [route] = trial.parts()
  if (row.place === null || ready === null) return
  const contents = contentsByPlace(trial.records)
  const from = Math.max(met + 1, ready)
  for (let stop = from; stop < Math.min(route.stops.length, from + mostTried); stop++) {
    const place = trial.game.places[route.stops[stop]!]!
    if (place.key === row.place) continue
    const diff = { ...moveItem(trial.records, { kind: 'gate', row }, { place: place.key, after: contents.get(place.key)?.at(-1)?.row.key ?? null }), name: `move ${labelOf(row)} to ${labelOf(place)}` }
    if (!trial.mends(diff)) continue
    yield { kind: 'place', says: `move it to ${labelOf(place)}, ${countText(stop - met, 'stop')} later`, diff }
    return
  }
}
