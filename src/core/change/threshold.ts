import type { Row } from '../plan/records.ts'
import { pegsOf, type Peg } from '../view/pegs.ts'

/** What a gate asks for, with one of its thresholds at another number; null where that number cannot be written there. */
export function withThreshold(gate: Pick<Row<'gate'>, 'requires' | 'costs'>, peg: Peg, at: number): Pick<Row<'gate'>, 'requires' | 'costs'> | null {
  const number = Math.round(at * 10_000) / 10_000
  if (!Number.isFinite(number)) return null
  if (peg.span) return { costs: gate.costs, requires: gate.requires.slice(0, peg.span.from) + String(number) + gate.requires.slice(peg.span.to) }
  const first = pegsOf(gate, null).find((other) => other.span === null)
  const i = peg.index - (first?.index ?? peg.index)
  if (number <= 0 || !gate.costs[i]) return null
  return { requires: gate.requires, costs: gate.costs.map((cost, j) => (j === i ? { ...cost, amount: number } : cost)) }
}

/** Every threshold of a gate at the number that `to` makes of it; those that cannot be written stay as they are. */
export function withThresholds(gate: Pick<Row<'gate'>, 'requires' | 'costs'>, leader: string | null, isMeant: (peg: Peg) => boolean, to: (peg: Peg) => number): Pick<Row<'gate'>, 'requires' | 'costs'> {
  // From the last to the first, so that the places of those before stay right.
  const pegs = pegsOf(gate, leader).filter(isMeant).reverse()
  return pegs.reduce((asked, peg) => withThreshold(asked, peg, to(peg)) ?? asked, { requires: gate.requires, costs: gate.costs })
}
