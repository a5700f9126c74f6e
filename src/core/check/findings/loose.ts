import { labelOf } from '../../plan/label-of.ts'
import type { Finding } from '../result.ts'
import { seenOf } from './seen.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** loose: every kind of player passes it with more than a third of its threshold to spare. */
export const loose: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate, i): Finding[] => {
    const seen = seenOf(routes, i).map((one) => one.gate).filter((g) => g.verdict !== 'off_route')
    const rooms = seen.flatMap((g) => g.comparisons.map((c) => (c.holds === 1 && c.slack !== null && c.need ? c.slack / Math.abs(c.need) : 0)))
    if (!seen.length || !rooms.length || seen.some((g) => g.verdict !== 'clear') || rooms.some((room) => room <= 1 / 3)) return []
    return [finding('loose', 'note', 'gate', gate.id, `${labelOf(gate)} asks for ${gate.requires.text || 'its cost'}, and everyone has at least ${Math.floor(Math.min(...rooms) * 100)} % more: no player will feel it.`)]
  })
