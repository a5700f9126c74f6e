import { labelOf } from '../../plan/label-of.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const kinds = [['places', 'place'], ['sources', 'source'], ['gates', 'gate']] as const

/** unreachable: what reach never gets to, even with repeats. */
export const unreachable: FindingRule = ({ game, reach }) => {
  const whyOf = new Map(reach.closed.map(({ gate, why }) => [gate, why.join('; ')]))
  return kinds.flatMap(([list, kind]) => game[list].filter((item) => reach[list][item.id]?.waveWithRepeats === null).map((item) => {
    const why = kind === 'gate' ? whyOf.get(item.id) : undefined
    return finding('unreachable', 'fault', kind, item.id, `${labelOf(item)} is never ${kind === 'gate' ? 'opened' : kind === 'place' ? 'reached' : 'taken'}, in whatever order one plays${why ? `: ${why}` : ''}.`)
  }))
}
