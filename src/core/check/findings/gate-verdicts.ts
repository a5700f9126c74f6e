import { labelOf } from '../../plan/label-of.ts'
import type { Role } from '../../plan/source.ts'
import { numberText, percentText } from '../../view/numbers.ts'
import type { Game, GameGate } from '../../rules/game.ts'
import type { GateResult, Verdict } from '../result.ts'
import { along } from './along.ts'
import { seenOf, type Seen } from './seen.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const worst = ['sealed', 'short', 'depends'] as const

/** How bad a verdict is for a main and for a side gate (docs/checks.md 4); null: it is not bad. */
export const verdictSeverities: Record<Verdict, Record<Role, 'fault' | 'risk' | null>> = {
  sealed: { main: 'fault', side: 'fault' },
  short: { main: 'fault', side: 'risk' },
  depends: { main: 'risk', side: 'risk' },
  clear: { main: null, side: null },
  off_route: { main: null, side: null },
}

/** gate-sealed, gate-short, gate-depends: one finding for a gate, at the worst it is for any route and kind of player. */
export const gateVerdicts: FindingRule = ({ game, routes }) =>
  game.gates.flatMap((gate, g) => {
    const seen = seenOf(routes, g)
    const verdict = worst.find((v) => seen.some((s) => s.gate.verdict === v))
    if (!verdict) return []
    const all = seen.filter((s) => s.gate.verdict === verdict)
    const first = all[0]!
    // Who follows a route along which it is clear would not believe it.
    const where = seen.some((s) => s.gate.verdict === 'clear' && all.every(({ route }) => route !== s.route)) ? along(game, all.map(({ route }) => route)) : ''
    return [finding(`gate-${verdict}`, verdictSeverities[verdict][gate.main ? 'main' : 'side']!, 'gate', gate.id, sentence(game, g, all, where), { route: first.route, profile: first.profile })]
  })

function sentence({ gates, places }: Game, g: number, all: readonly Seen[], where: string): string {
  const { gate } = all[0]!
  const name = labelOf(gates[g]!)
  const who = [...new Set(all.map((s) => s.profile))].join(', ')
  if (gate.error) return `${name} is in error: ${gate.error}.`
  const how = gate.verdict === 'depends' ? `opens in time for ${percentText(gate.p, false)} of players` : `is ${gate.verdict}`
  const due = gate.due ? `, due at ${labelOf(places.find(({ id }) => id === gate.due!.place)!)}` : ''
  const asked = askedText(gate, gates[g]!)
  return `${name} ${how}${where} (${who})${due}${asked ? `: ${asked}` : ''}.`
}

/** What a gate asks for that is not there, with what is; where no number says it, all that it asks for. */
export function askedText({ comparisons }: GateResult, { requires }: GameGate): string {
  const unmet = comparisons.filter((c) => c.holds < 1 && c.has && c.need !== null).map((c) => `${c.text} where ${numberText(c.has!.median)} ${c.has!.median === 1 ? 'is' : 'are'} there`)
  const asked = unmet.join(' and ') || requires.text
  return asked && `it asks for ${asked}`
}
