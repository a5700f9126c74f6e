import { labelOf } from '../../plan/label-of.ts'
import type { Finding } from '../result.ts'
import { seenOf } from './seen.ts'
import { along } from './along.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** side-needed: a main gate that opens for who does the side content, and not for who leaves it. */
export const sideNeeded: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate, i): Finding[] => {
    if (!gate.main) return []
    const seen = seenOf(routes, i)
    const verdicts = (side: (share: number) => boolean) => seen.filter(({ profile }) => {
      const p = game.profiles.find((found) => found.id === profile)!
      return p.main === 1 && side(p.side)
    }).map(({ route, gate: g }) => ({ route, verdict: g.verdict }))
    const without = verdicts((share) => share === 0)
    const route = without.find(({ route, verdict }) => (verdict === 'short' || verdict === 'sealed') && verdicts((share) => share === 1).some((other) => other.route === route && other.verdict === 'clear'))?.route
    return route ? [finding('side-needed', 'risk', 'gate', gate.id, `${labelOf(gate)} is a main gate, and opens${along(game, [route])} only for players who do side content.`, { route })] : []
  })
