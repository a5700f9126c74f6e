import { contentsByPlace, inOrder, type ItemRow, type Records } from '../plan/records.ts'
import { wholeFrom } from '../plan/source.ts'
import { numberText } from './numbers.ts'

/** What the sources of a place give in all, for each tally; what is side content apart. */
export interface PlaceSum {
  tally: string
  main: number
  side: number
  /** Whether chance is in it: then it is the mean. */
  varies: boolean
}

/** Sums of contents that stand as they stood, with the patterns and tallies that they were made with. */
const known = new WeakMap<readonly ItemRow[], { of: readonly unknown[]; sums: readonly PlaceSum[] }>()

/** By the key of each place what its sources give in all, each unit of the first pass taken once, tallies in plan order. */
export function placeSums(records: Records): Map<string, readonly PlaceSum[]> {
  const of = [records.pattern, records.tally]
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const order = inOrder(records, 'tally').map(({ id }) => id)
  const sums = new Map<string, readonly PlaceSum[]>()
  for (const [place, items] of contentsByPlace(records)) {
    if (place === null) continue
    const before = known.get(items)
    const isSame = before && before.of.every((map, i) => map === of[i])
    if (!isSame) known.set(items, { of, sums: sumsOf(items, order, wholeOf) })
    sums.set(place, known.get(items)!.sums)
  }
  return sums
}

function sumsOf(items: readonly ItemRow[], order: readonly string[], wholeOf: ReturnType<typeof wholeFrom>): PlaceSum[] {
  const byTally = new Map<string, PlaceSum>()
  for (const item of items) {
    if (item.kind !== 'source') continue
    const source = wholeOf(item.row)
    for (const { tally, min, max } of source.yields) {
      const sum = byTally.get(tally) ?? { tally, main: 0, side: 0, varies: false }
      sum[source.role] = Math.round((sum[source.role] + (source.count * (min + max)) / 2) * 10_000) / 10_000
      sum.varies ||= min !== max
      byTally.set(tally, sum)
    }
  }
  return order.flatMap((id) => byTally.get(id) ?? [])
}

/** `418 renown (+60 side), 11 stamps` */
export function placeSumText(sums: readonly PlaceSum[]): string {
  return sums.filter(({ main, side }) => main !== 0 || side !== 0).map(({ tally, main, side, varies }) => {
    const about = varies ? '≈ ' : ''
    if (main === 0) return `${about}${numberText(side)} ${tally} side`
    return `${about}${numberText(main)} ${tally}${side === 0 ? '' : ` (+${numberText(side)} side)`}`
  }).join(', ')
}
