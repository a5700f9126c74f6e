import { labelOf } from '../../../core/plan/label-of.ts'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { statValues } from '../../../core/view/stat-table.ts'

/** A character's stats at a level; the character by its index in the plan. */
export function statsAt(records: Records, c: number, level: number): { name: string; value: number }[] {
  const row = inOrder(records, 'character')[c]
  const curve = row && inOrder(records, 'curve').find((one) => one.id === row.curve)
  return row && curve ? row.stats.map((stat) => ({ name: labelOf(stat), value: statValues(stat, curve)[level - curve.firstLevel] ?? 0 })) : []
}
