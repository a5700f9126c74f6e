import { labelOf } from '../../plan/label-of.ts'
import { inOrder } from '../../plan/records.ts'
import { curveValues } from '../../rules/curve-values.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** curve-dip: a level that takes less than the one before it. */
export const curveDip: FindingRule = ({ records }) =>
  inOrder(records, 'curve').flatMap((curve): Finding[] => {
    const values = curveValues(curve).values.map((value) => value.toNumber())
    const steps = curve.counts === 'total' ? values.map((value, i) => value - (values[i - 1] ?? 0)) : values
    const dip = steps.findIndex((step, i) => i > 0 && step < steps[i - 1]!)
    if (dip < 0) return []
    const level = curve.firstLevel + dip
    return [finding('curve-dip', 'note', 'curve', curve.id, `${labelOf(curve)}: ${level} → ${level + 1} takes ${numberText(steps[dip]!)}, less than the ${numberText(steps[dip - 1]!)} of the level before.`)]
  })
