import { labelOf } from '../../plan/label-of.ts'
import type { Finding } from '../result.ts'
import { seenOf } from './seen.ts'
import { along } from './along.ts'
import { askedText } from './gate-verdicts.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** side-needed: a main gate that opens for who does the side content, and not for who leaves it. */
export const sideNeeded: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate, i): Finding[] => {
    if (!gate.main) return []
    const seen = seenOf(routes, i)
    const seenBy = (side: (share: number) => boolean) => seen.filter(({ profile }) => {
      const p = game.profiles.find((found) => found.id === profile)!
      return p.main === 1 && side(p.side)
    })
    const without = seenBy((share) => share === 0)
    const whole = seenBy((share) => share === 1)
    const found = without.find(({ route, gate: { verdict } }) => (verdict === 'short' || verdict === 'sealed') && whole.some((other) => other.route === route && other.gate.verdict === 'clear'))
    if (!found) return []
    const { route } = found
    const asked = askedText(found.gate, gate)
    return [finding('side-needed', 'risk', 'gate', gate.id, `${labelOf(gate)} is a main gate, and opens${along(game, [route])} only for players who do side content${asked ? `; without it, ${asked}` : ''}.`, { route })]
  })
