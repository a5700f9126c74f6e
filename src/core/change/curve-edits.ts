import type { Curve } from '../plan/curve.ts'
import { labelOf } from '../plan/label-of.ts'
import type { Records, Row } from '../plan/records.ts'
import { curveSteps } from '../view/curve-table.ts'
import type { Diff } from './diff.ts'
import { setFields } from './edits.ts'

/** A curve's values as a table, whatever its rule is. */
export function tableOf(curve: Curve): number[] {
  return curveSteps(curve).map(({ step, total }) => (curve.counts === 'total' ? total : step))
}

/** Sets what a level takes (for `total`: the XP at which it gives way to the next); the curve becomes a table. */
export function setCurveValue(records: Records, curve: Row<'curve'>, level: number, value: number): Diff {
  const values = tableOf(curve)
  values[level - curve.firstLevel] = value
  return setFields(records, 'curve', curve.key, { rule: { kind: 'table', values } }, `${labelOf(curve)}: ${level} → ${level + 1} takes ${value}`)
}

/** Numbers from a pasted column: digits with an optional fraction, a comma between thousands; null where one is none. */
export function readColumn(text: string): { values: number[]; says: string | null } {
  const cells = text.split(/\r?\n/).map((line) => line.split('\t').at(-1)!.trim()).filter(Boolean)
  const values: number[] = []
  for (const [i, cell] of cells.entries()) {
    const number = Number(cell.replace(/(?<=\d),(?=\d{3}\b)/g, '').replace(/\s/g, ''))
    if (Number.isFinite(number) && cell !== '') values.push(number)
    // A heading may stand above the numbers.
    else if (i > 0) return { values: [], says: `line ${i + 1}: "${cell}" is no number` }
  }
  return { values, says: values.length ? null : 'there is no number in it' }
}

/** A curve whose values are a pasted column, the first of them for the step from a level on; it ends where the column does. */
export function withColumn(curve: Curve, values: readonly number[], from: number): Curve {
  const before = tableOf(curve).slice(0, Math.max(0, from - curve.firstLevel))
  const firstLevel = Math.min(curve.firstLevel, from)
  return { ...curve, firstLevel, maxLevel: from + values.length, rule: { kind: 'table', values: [...before, ...values] } }
}

export function pasteColumn(records: Records, curve: Row<'curve'>, values: readonly number[], from: number): Diff {
  const { rule, firstLevel, maxLevel } = withColumn(curve, values, from)
  return setFields(records, 'curve', curve.key, { rule, firstLevel, maxLevel }, `paste ${values.length} values into ${labelOf(curve)}`)
}
