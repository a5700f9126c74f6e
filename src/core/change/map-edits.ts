import { labelOf } from '../plan/label-of.ts'
import { comesFrom } from '../plan/place.ts'
import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
import type { Diff } from './diff.ts'
import { addPlaceAfter } from './add-place.ts'
import { addItem, freeId, setFields, type Fresh } from './edits.ts'
import { freshRecord } from './fresh.ts'

/** A new place joined to another one, in no route; null: joined to none. */
export function addPlaceBeside(records: Records, keys: { place: string; passage: string }, beside: string | null): Diff {
  const place = freshRecord(records, 'place', freeId(records, 'place', 'new place')) as Fresh<'place'>
  return addPlaceAfter(records, place, keys, beside, null)
}

/** A new gate that bars a passage, met at its beginning. */
export function addGateOnPassage(records: Records, key: string, passageKey: string): Diff | null {
  const passage = records.passage.get(passageKey)
  const from = passage && inOrder(records, 'place').find(({ id }) => id === passage.from)
  return passage && from ? gateIn(records, key, from.key, { passage: passage.id }, `gate on ${passage.id}`) : null
}

/** A new gate that bars every way into a place, met in the first place from which one leads there; from nowhere: it stands anywhere. */
export function addGateOnPlace(records: Records, key: string, placeKey: string): Diff | null {
  const place = records.place.get(placeKey)
  if (!place) return null
  const into = inOrder(records, 'passage').flatMap((passage) => comesFrom(passage, place.id) ?? [])
  const stands = inOrder(records, 'place').find(({ id }) => id === into[0])
  return gateIn(records, key, stands?.key ?? null, { place: place.id }, `gate into ${labelOf(place)}`)
}

function gateIn(records: Records, key: string, place: string | null, guards: { passage: string } | { place: string }, name: string): Diff {
  const gate = { ...(freshRecord(records, 'gate', freeId(records, 'gate', name)) as Fresh<'gate'>), guards } as Fresh<'gate'>
  return { ...addItem(records, 'gate', key, gate, { place, after: contentsByPlace(records).get(place)?.at(-1)?.row.key ?? null }), name: `put a ${name}` }
}

/** A passage that leads both ways leads one way only, or the other way round. */
export function turnOneWay(records: Records, passageKey: string): Diff | null {
  const passage = records.passage.get(passageKey)
  return passage ? setFields(records, 'passage', passageKey, { twoWay: !passage.twoWay }, `${passage.id} leads ${passage.twoWay ? 'one way' : 'both ways'}`) : null
}
