import { labelOf } from '../../plan/label-of.ts'
import { valueAt } from '../../rules/gain.ts'
import { numberText } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { lostBy, positionOnLeaving } from '../route/trace.ts'
import { along } from './along.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** xp-lost: XP that came at a level limit, or was cleared at a level-up. */
export const xpLost: FindingRule = ({ game, played }) =>
  game.characters.flatMap((character, c): Finding[] => {
    const sums = played.map(({ route, profile, trace }) => ({ route, profile, lost: lostBy(trace, c), trace }))
    const most = sums.sort((a, b) => b.lost - a.lost)[0]
    if (!most || most.lost <= 0 || !character.curve) return []
    const level = Math.floor(positionOnLeaving(most.trace, most.trace.places.length - 1, c).position)
    const next = Math.min(level, character.curve.maxLevel - 1)
    const value = character.curve.values[Math.max(0, next - character.curve.firstLevel)]! / character.curve.grain / 10_000
    const before = character.curve.counts === 'total' && next > character.curve.firstLevel ? valueAt(character.curve, next - 1) / character.curve.grain / 10_000 : 0
    const levels = Math.round((most.lost / (value - before)) * 10) / 10
    return [finding('xp-lost', 'risk', 'character', character.id, `${labelOf(character)} loses ${numberText(Math.round(most.lost * 100) / 100)} XP${along(game, [most.route]) || ' on the way'} (${most.profile}), ${numberText(levels)} levels' worth at the end.`, most)]
  })
