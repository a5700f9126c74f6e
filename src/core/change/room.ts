import type { KindName } from '../plan/kinds.ts'
import { ordersBetween } from '../plan/order.ts'
import type { Row } from '../plan/records.ts'
import { changeOf, type Change } from './diff.ts'

/** Order keys for new rows, and the changes of others that make room for them. */
export interface Room {
  orders: string[]
  changes: Change[]
}

interface Entry {
  kind: KindName
  row: Pick<Row, 'key' | 'order'>
}

/**
 * Room right behind the row at an index of a list in order (−1: at its beginning). Two people who insert at the same spot give their
 * rows the same order key: those behind the index that share its key get keys of their own, after what is new.
 */
export function roomAfter(list: readonly Entry[], index: number, howMany: number): Room {
  const before = list[index]?.row.order ?? null
  let end = index + 1
  while (before !== null && end < list.length && list[end]!.row.order <= before) end++
  const orders = ordersBetween(before, list[end]?.row.order ?? null, howMany + end - index - 1)
  const changes = list.slice(index + 1, end).map(({ kind, row }, i) => changeOf(kind, row.key, row, { ...row, order: orders[howMany + i]! })!)
  return { orders: orders.slice(0, howMany), changes }
}
