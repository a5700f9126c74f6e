import { contentsByPlace, inOrder, type Records } from '../plan/records.ts'
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

/** By the key of each place what its sources give in all, each unit of the first pass taken once, tallies in plan order. */
export function placeSums(records: Records): Map<string, PlaceSum[]> {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const order = inOrder(records, 'tally').map(({ id }) => id)
  const sums = new Map<string, PlaceSum[]>()
  for (const [place, items] of contentsByPlace(records)) {
    if (place === null) continue
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
    sums.set(place, order.flatMap((id) => byTally.get(id) ?? []))
  }
  return sums
}

/** `418 renown (+60 side), 11 stamps` */
export function placeSumText(sums: readonly PlaceSum[]): string {
  return sums.filter(({ main, side }) => main !== 0 || side !== 0).map(({ tally, main, side, varies }) => {
    const about = varies ? '≈ ' : ''
    if (main === 0) return `${about}${numberText(side)} ${tally} side`
    return `${about}${numberText(main)} ${tally}${side === 0 ? '' : ` (+${numberText(side)} side)`}`
  }).join(', ')
}
