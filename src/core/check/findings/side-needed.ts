import type { Finding } from '../result.ts'
import { called, finding, type FindingRule } from './finding-rule.ts'

/** side-needed: a main gate that opens for who does the side content, and not for who leaves it. */
export const sideNeeded: FindingRule = ({ game, routes }) =>
  game.gates.filter((gate) => gate.main).flatMap((gate): Finding[] => {
    const verdicts = (side: (share: number) => boolean) => routes.flatMap(({ route, profiles }) => profiles.filter(({ profile }) => {
      const p = game.profiles.find((found) => found.id === profile)!
      return p.main === 1 && side(p.side)
    }).flatMap(({ gates }) => gates.filter((g) => g.gate === gate.id).map((g) => ({ route, verdict: g.verdict }))))
    const without = verdicts((share) => share === 0)
    const route = without.find(({ route, verdict }) => (verdict === 'short' || verdict === 'sealed') && verdicts((share) => share === 1).some((other) => other.route === route && other.verdict === 'clear'))?.route
    return route ? [finding('side-needed', 'risk', 'gate', gate.id, `${called(gate)} is a main gate, and opens only for players who do side content.`, { route })] : []
  })
