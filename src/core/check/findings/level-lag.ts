import { labelOf } from '../../plan/label-of.ts'
import { countText, numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { along } from './along.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** level-lag: with one level for each gain, XP that is past what the next level takes. */
export const levelLag: FindingRule = ({ game, played }) =>
  game.characters.flatMap((character, c): Finding[] => {
    const found = played.find(({ behind }) => behind.has(c))
    if (!found) return []
    const { amount, levels, cause } = found.behind.get(c)!
    const giver = cause.type === 'enter' ? null : cause.type === 'source' ? game.sources[cause.index]! : game.gates[cause.index]!
    const gain = `${numberText(amount)} XP${giver ? ` of ${labelOf(giver)}` : ''}`
    return [finding('level-lag', 'risk', 'character', character.id, `${labelOf(character)} gets one level for each gain, and after ${gain} it is ${countText(levels, 'level')} behind its XP${along(game, [found.route])} (${found.profile}).`, found)]
  })
