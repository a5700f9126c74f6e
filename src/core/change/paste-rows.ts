import { isItem, type Pasted, type PastedRow } from '../exchange/paste.ts'
import { byId, contentsByPlace, type Records } from '../plan/records.ts'
import { countText } from '../view/numbers.ts'
import { addPlaceAfter } from './add-place.ts'
import { barWay } from './behind-gate.ts'
import { changeOf, type Change, type Diff } from './diff.ts'
import { addRecord, type Spot } from './edits.ts'
import { roomAfter } from './room.ts'
import { freeSlug } from './slug.ts'
import { Steps } from './steps.ts'

/**
 * Adds what was pasted as one step: tallies; places as the next stops of the route, each behind the gate that is meant for it; rows that name no
 * place after the spot, the others at the end of theirs.
 */
export function pasteRows(records: Records, { rows, places, tallies }: Pasted, spot: Spot, routeKey: string | null, newKey: () => string): { diff: Diff; keys: string[] } {
  const steps = new Steps(records)
  for (const tally of tallies) steps.add(addRecord(steps.records, 'tally', newKey(), tally))
  const added: { place: string; passage: string }[] = []
  for (const place of places) {
    const keys = { place: newKey(), passage: newKey() }
    steps.add(addPlaceAfter(steps.records, place, keys, added.at(-1)?.place ?? null, routeKey))
    added.push(keys)
  }
  const { diff, keys } = rowsAdded(steps.records, rows, spot, newKey)
  steps.add(diff)
  for (const { passage } of added) {
    const barred = barWay(steps.records, passage)
    if (barred) steps.add(barred.diff)
  }
  return { diff: steps.as(`paste ${pastedText({ row: keys.length, place: places.length, tally: tallies.length })}`), keys: [...keys, ...added.map(({ place }) => place)] }
}

/** What is added, in words; empty: nothing. */
export function pastedText({ row, place, tally }: Record<'row' | 'place' | 'tally', number>): string {
  const parts = [countText(row, 'row'), countText(place, 'place'), countText(tally, 'tally', 'tallies')].filter((_, i) => [row, place, tally][i]! > 0)
  return [parts.slice(0, -1).join(', '), parts.at(-1) ?? ''].filter(Boolean).join(' and ')
}

function rowsAdded(records: Records, rows: readonly PastedRow[], spot: Spot, newKey: () => string): { diff: Diff; keys: string[] } {
  const items = rows.filter(isItem)
  const contents = contentsByPlace(records)
  const ids = { source: new Set([...records.source.values()].map(({ id }) => id)), gate: new Set([...records.gate.values()].map(({ id }) => id)) }
  const placeKey = (id: string | null) => (id === null ? spot.place : (byId(records, 'place', id)?.key ?? spot.place))
  const places = [...new Set(items.map((row) => placeKey(row.place)))]
  const changes: Change[] = []
  const keys: string[] = []
  for (const place of places) {
    const own = items.filter((row) => placeKey(row.place) === place)
    const before = contents.get(place) ?? []
    const last = place === spot.place ? before.findIndex(({ row }) => row.key === spot.after) : before.length - 1
    const { orders, changes: others } = roomAfter(before, last, own.length)
    changes.push(...others)
    own.forEach((row, i) => {
      const key = newKey()
      const id = freeSlug(row.record.name, ids[row.kind], 'row')
      ids[row.kind].add(id)
      keys.push(key)
      changes.push(changeOf(row.kind, key, null, { ...row.record, id, key, order: orders[i]!, place })!)
    })
  }
  return { diff: { name: 'rows', changes }, keys }
}
