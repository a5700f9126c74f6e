import { longestName } from '../plan/basics.ts'
import type { KindName } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { leadsTo } from '../plan/place.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'
import { addPlaceAfter } from './add-place.ts'
import { changeOf, type Diff } from './diff.ts'
import { freeId, renamedIn, setFields } from './edits.ts'
import { roomAfter } from './room.ts'
import { Steps } from './steps.ts'

/** What was doubled: the step, and the keys of the copies in their order. */
export interface Doubled {
  diff: Diff
  keys: string[]
}

/** Doubles sources and gates: in each place the copies stand together below the last of them, in the same order, under free ids. */
export function doubleItems(records: Records, items: readonly ItemRow[], newKey: () => string): Doubled {
  const steps = new Steps(records)
  const meant = new Set(items.map(({ row }) => row.key))
  const keys: string[] = []
  for (const [place, contents] of contentsByPlace(records)) {
    const own = contents.filter(({ row }) => meant.has(row.key))
    if (own.length === 0) continue
    const { orders, changes } = roomAfter(contents, contents.indexOf(own.at(-1)!), own.length)
    steps.add({ name: 'room', changes })
    own.forEach((item, i) => keys.push(copyItem(steps, item, newKey(), place, orders[i]!)))
  }
  return { diff: steps.as(items.length === 1 ? `double ${labelOf(items[0]!.row)}` : `double ${items.length} rows`), keys }
}

/**
 * A place again, with all that it holds, as the next place on the route. Where its contents name the place, or each other, the copies
 * name the copies; a gate that bars the way from it to another place bars the way there from the copy, where there is one.
 */
export function doublePlace(records: Records, place: Row<'place'>, newKey: () => string, routeKey: string | null): Doubled {
  const steps = new Steps(records)
  const [key, { key: _key, order: _order, ...fields }] = [newKey(), place]
  const id = freeId(records, 'place', place.id)
  const number = ` ${/\d+$/.exec(id)![0]}`
  const name = labelOf(place).replace(/ \d+$/, '').slice(0, longestName - number.length) + number
  steps.add(addPlaceAfter(records, { ...fields, id, name }, { place: key, passage: newKey() }, place.key, routeKey))
  const contents = contentsByPlace(records).get(place.key) ?? []
  const copies = contents.map((item) => ({ kind: item.kind, from: item.row.id, key: copyItem(steps, item, newKey(), key, item.row.order) }))
  const renamed = [{ kind: 'place' as KindName, from: place.id, to: id }, ...copies.map((copy) => ({ ...copy, to: idOf(steps.records, copy) })), ...passagesOn(steps.records, place.id, id)]
  for (const copy of copies) {
    const row: Row<'source' | 'gate'> = steps.records[copy.kind].get(copy.key)!
    const meant = renamed.reduce((next, { kind, from, to }) => renamedIn(copy.kind, next, kind, from, to), row)
    steps.add({ name: 'meant', changes: [changeOf(copy.kind, copy.key, row, meant)].filter((change) => change !== null) })
    if ('guards' in meant && isOfTheFirst(steps.records, meant, place.id, id)) steps.add(setFields(steps.records, 'gate', copy.key, { guards: null }, 'no way'))
  }
  return { diff: steps.as(`double ${labelOf(place)}`), keys: [key] }
}

function copyItem(steps: Steps, { kind, row }: ItemRow, key: string, place: string | null, order: string): string {
  steps.add({ name: 'copy', changes: [changeOf(kind, key, null, { ...row, id: freeId(steps.records, kind, row.id), key, order, place })!] })
  return key
}

const idOf = (records: Records, { kind, key }: { kind: 'source' | 'gate'; key: string }): string => records[kind].get(key)!.id

/** Each passage from a place to another, with the one that goes there from its copy. */
function passagesOn(records: Records, place: string, copy: string): { kind: KindName; from: string; to: string }[] {
  const ways = inOrder(records, 'passage')
  return ways.flatMap((way) => {
    const to = leadsTo(way, place)
    const same = to === null || to === copy ? undefined : ways.find((other) => leadsTo(other, copy) === to)
    return same ? [{ kind: 'passage' as KindName, from: way.id, to: same.id }] : []
  })
}

/** Whether a copied gate still bars a way out of the place that was copied, and none of the copy's. */
function isOfTheFirst(records: Records, { guards }: Pick<Row<'gate'>, 'guards'>, place: string, copy: string): boolean {
  const way = guards?.passage === undefined ? undefined : inOrder(records, 'passage').find(({ id }) => id === guards.passage)
  return way !== undefined && (way.from === place || way.to === place) && way.from !== copy && way.to !== copy
}
