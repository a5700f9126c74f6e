import type { PastedRow } from '../exchange/paste.ts'
import { byId, contentsByPlace, type Records } from '../plan/records.ts'
import { countText } from '../view/numbers.ts'
import { changeOf, type Change, type Diff } from './diff.ts'
import type { Spot } from './edits.ts'
import { roomAfter } from './room.ts'
import { slugFrom } from './slug.ts'

/** Adds pasted rows as one step: those that name no place after the spot, the others at the end of theirs. */
export function pasteRows(records: Records, rows: readonly PastedRow[], spot: Spot, newKey: () => string): { diff: Diff; keys: string[] } {
  const good = rows.filter((row) => row.ok)
  const contents = contentsByPlace(records)
  const ids = { source: new Set([...records.source.values()].map(({ id }) => id)), gate: new Set([...records.gate.values()].map(({ id }) => id)) }
  const placeKey = (id: string | null) => (id === null ? spot.place : (byId(records, 'place', id)?.key ?? spot.place))
  const places = [...new Set(good.map((row) => placeKey(row.place)))]
  const changes: Change[] = []
  const keys: string[] = []
  for (const place of places) {
    const own = good.filter((row) => placeKey(row.place) === place)
    const items = contents.get(place) ?? []
    const last = place === spot.place ? items.findIndex(({ row }) => row.key === spot.after) : items.length - 1
    const { orders, changes: others } = roomAfter(items, last, own.length)
    changes.push(...others)
    own.forEach((row, i) => {
      const key = newKey()
      const id = takeId(ids[row.kind], row.record.name)
      keys.push(key)
      changes.push(changeOf(row.kind, key, null, { ...row.record, id, key, order: orders[i]!, place })!)
    })
  }
  return { diff: { name: `paste ${countText(good.length, 'row')}`, changes }, keys }
}

function takeId(taken: Set<string>, name: string): string {
  const base = slugFrom(name) || 'row'
  const stem = base.slice(0, 58)
  let id = base
  for (let n = 2; taken.has(id); n++) id = `${stem}_${n}`
  taken.add(id)
  return id
}
