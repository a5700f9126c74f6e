import { labelOf } from '../../plan/label-of.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** zero-yield: a source that gives nothing. */
export const zeroYield: FindingRule = ({ game }) =>
  game.sources.filter((source) => source.caps.length === 0 && source.yields.every((y) => y.min === 0 && y.max === 0)).map((source) => finding('zero-yield', 'note', 'source', source.id, `${labelOf(source)} gives nothing.`))
