import { labelOf } from '../../plan/label-of.ts'
import type { Finding } from '../result.ts'
import { positionOnLeaving } from '../route/trace.ts'
import { along } from './along.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** level-lag: with one level for each gain, XP that is past what the next level takes. */
export const levelLag: FindingRule = ({ game, played }) =>
  game.characters.flatMap((character, c): Finding[] => {
    if (character.curve?.levelsPerGain !== 'one') return []
    const isLate = ({ position, limit }: { position: number; limit: number }) => position % 1 > 0.9985 && position < limit
    const late = played.find(({ trace }) => trace.places.some((_, stop) => isLate(positionOnLeaving(trace, stop, c))))
    return late ? [finding('level-lag', 'risk', 'character', character.id, `${labelOf(character)} gets one level for each gain, and a gain worth several leaves the level behind the XP${along(game, [late.route])} (${late.profile}).`, late)] : []
  })
