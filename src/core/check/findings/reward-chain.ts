import { labelOf } from '../../plan/label-of.ts'
import { valueAt } from '../../rules/gain.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** reward-chain: a reward for a level that causes level-ups in turn. */
export const rewardChain: FindingRule = ({ game }) =>
  game.characters.flatMap((character): Finding[] => {
    const { curve } = character
    if (!curve) return []
    const given = (level: number) => character.rewards.filter((r) => r.level === 'every' || r.level === level).flatMap((r) => r.yields).filter((y) => y.tally === character.tally).reduce((sum, y) => sum + y.max, 0) * curve.grain
    const room = (level: number) => valueAt(curve, level) - (curve.counts === 'total' && level > curve.firstLevel ? valueAt(curve, level - 1) : 0)
    const chains = (level: number) => level < curve.maxLevel && given(level) >= room(level)
    const first = Array.from({ length: curve.maxLevel - curve.firstLevel }, (_, i) => curve.firstLevel + 1 + i).find(chains)
    if (first === undefined) return []
    let end = first
    while (chains(end)) end++
    const says = `The reward of ${labelOf(character)} for level ${first} is worth a level itself, and carries on to level ${end}${end === curve.maxLevel ? ', the top' : ''}.`
    return [finding('reward-chain', end === curve.maxLevel ? 'fault' : 'risk', 'character', character.id, says)]
  })
