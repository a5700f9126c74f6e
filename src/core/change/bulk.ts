import { mostUnits } from '../plan/basics.ts'
import { labelOf } from '../plan/label-of.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'
import { wholeFrom, type WholeSource } from '../plan/source.ts'
import { ordersBetween } from '../plan/order.ts'
import type { Cost, Yield } from '../plan/yield.ts'
import { countText } from '../view/numbers.ts'
import { changeOf, type Change, type Diff } from './diff.ts'
import { withThresholds } from './threshold.ts'

/** Changes of several rows at once, each one step: their numbers scaled, raised or set; their role; their place. */

export const bulkOperations = { scale: { sign: '×', verb: 'scale' }, add: { sign: '+', verb: 'raise' }, set: { sign: '=', verb: 'set' } } as const
export type BulkOperation = keyof typeof bulkOperations

interface BulkField {
  word: string
  /** Which fields of a record become what; null: the record has no such numbers. */
  of(item: ItemRow, context: Context, to: (n: number) => number): object | null
}

interface Context {
  whole(source: Row<'source'>): WholeSource
  leader: string | null
}

/** The numbers of rows that can be changed together. */
export const bulkFields = {
  amounts: {
    word: 'amounts given',
    of({ kind, row }, { whole }, to) {
      const yields = kind === 'source' ? whole(row).yields : row.yields
      return yields.length ? { yields: yields.map((y) => rangeOf(y, to)) } : null
    },
  },
  count: { word: 'counts', of: ({ kind, row }, _, to) => (kind === 'source' ? { count: Math.min(mostUnits, Math.max(1, Math.round(to(row.count)))) } : null) },
  thresholds: {
    word: 'thresholds',
    of({ kind, row }, { leader }, to) {
      if (kind !== 'gate') return null
      const { requires } = withThresholds(row, leader, (peg) => peg.span !== null, (peg) => (peg.lane.startsWith('level ') ? Math.round(to(peg.at)) : to(peg.at)))
      return requires === row.requires ? null : { requires }
    },
  },
  costs: {
    word: 'costs',
    of({ kind, row }, { whole }, to) {
      const costs = kind === 'source' ? whole(row).takes : row.costs
      const changed = costs.map((cost): Cost => ({ ...cost, amount: Math.max(0, to(cost.amount)) })).filter((cost) => cost.amount > 0)
      return costs.length ? (kind === 'source' ? { takes: changed } : { costs: changed }) : null
    },
  },
  minutes: { word: 'minutes', of: ({ kind, row }, { whole }, to) => ({ minutes: Math.max(0, to(kind === 'source' ? whole(row).minutes : row.minutes)) }) },
} satisfies Record<string, BulkField>
export type BulkFieldName = keyof typeof bulkFields

/** An amount after scaling stays whole where it was. */
const operate: Record<BulkOperation, (n: number, by: number) => number> = {
  scale: (n, by) => (Number.isInteger(n) ? Math.round(n * by) : tidy(n * by)),
  add: (n, by) => tidy(n + by),
  set: (_, by) => tidy(by),
}

/** Scales, raises or sets the same numbers of all rows that have them. */
export function changeNumbers(records: Records, items: readonly ItemRow[], field: BulkFieldName, operation: BulkOperation, by: number): Diff {
  const context: Context = { whole: wholeFrom(inOrder(records, 'pattern')), leader: inOrder(records, 'character')[0]?.id ?? null }
  const { word, of } = bulkFields[field] as BulkField
  const { sign, verb } = bulkOperations[operation]
  return changedTogether(items, (item) => of(item, context, (n) => operate[operation](n, by)), (n) => `${verb} ${word} of ${countText(n, 'row')} (${sign} ${by})`)
}

export function setRoles(items: readonly ItemRow[], role: 'main' | 'side'): Diff {
  return changedTogether(items, () => ({ role }), (n) => `${countText(n, 'row')} to ${role}`)
}

/** Moves rows to the end of a place, in the order that they are given in. */
export function moveAll(records: Records, items: readonly ItemRow[], place: Row<'place'>): Diff {
  const moving = new Set(items.map(({ row }) => row.key))
  const last = contentsByPlace(records).get(place.key)?.filter(({ row }) => !moving.has(row.key)).at(-1)
  const orders = ordersBetween(last?.row.order ?? null, null, items.length)
  const changes = items.map(({ kind, row }, i) => changeOf(kind, row.key, row, { ...row, place: place.key, order: orders[i]! }))
  return { name: `move ${countText(items.length, 'row')} to ${labelOf(place)}`, changes: present(changes) }
}

function changedTogether(items: readonly ItemRow[], fields: (item: ItemRow) => object | null, name: (rows: number) => string): Diff {
  const changes = present(items.map((item) => {
    const changed = fields(item)
    return changed && changeOf(item.kind, item.row.key, item.row, { ...item.row, ...changed })
  }))
  return { name: name(changes.length), changes }
}

function present(changes: readonly (Change | null)[]): Change[] {
  return changes.filter((change): change is Change => change !== null)
}

/** A range stays one of whole numbers, its lower end first. */
function rangeOf(y: Yield, to: (n: number) => number): Yield {
  const [a, b] = [to(y.min), to(y.max)]
  return a === b ? { ...y, min: a, max: b } : { ...y, min: Math.round(Math.min(a, b)), max: Math.round(Math.max(a, b)) }
}

function tidy(n: number): number {
  return Math.round(n * 10_000) / 10_000
}
