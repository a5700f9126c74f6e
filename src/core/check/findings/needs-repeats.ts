import { labelOf } from '../../plan/label-of.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const kinds = [['places', 'place'], ['sources', 'source'], ['gates', 'gate']] as const

/** needs-repeats: what reach gets to only with repeats. */
export const needsRepeats: FindingRule = ({ game, reach }) =>
  kinds.flatMap(([list, kind]) => game[list].filter((item) => reach[list][item.id]?.wave === null && reach[list][item.id]?.waveWithRepeats !== null).map((item) =>
    finding('needs-repeats', 'risk', kind, item.id, `${labelOf(item)} is had only by repeating sources that respawn.`)))
