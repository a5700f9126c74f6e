import { labelOf } from '../../plan/label-of.ts'
import { inOrder } from '../../plan/records.ts'
import { curveValues } from '../../rules/curve-values.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** curve-error: values missing, not finite, not positive or not rising. */
export const curveError: FindingRule = ({ records }) =>
  inOrder(records, 'curve').flatMap((curve) => curveValues(curve).faults.slice(0, 1).map((fault) => finding('curve-error', 'fault', 'curve', curve.id, `${labelOf(curve)} is wrong at level ${fault.level}: ${fault.message}.`)))
