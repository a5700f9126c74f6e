import { canPay } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'

/** Something that can be spent on gates which give nothing: how much of which tallies, and on which gates. */
export interface Waste {
  spent: [tally: number, amount: number][]
  gates: number[]
}

/** Ways to spend that are told apart. */
const most = 20_000

/**
 * Every sum that can be spent on some of these gates with what is held: a sum, not a choice of gates, for it does not matter
 * which of them were opened. Nothing but their costs bears on them.
 */
export function wastes(game: Game, state: State, gates: readonly number[]): Waste[] | null {
  const bySpent = new Map<string, Waste>([['', { spent: [], gates: [] }]])
  for (const g of gates) {
    for (const { spent, gates: before } of [...bySpent.values()]) {
      const more = added(game, spent, g)
      if (!canPay(game, state, more.map(([tally, amount]) => ({ tally, amount })))) continue
      const key = more.map((part) => part.join()).join(';')
      if (!bySpent.has(key)) bySpent.set(key, { spent: more, gates: [...before, g] })
    }
    if (bySpent.size > most) return null
  }
  bySpent.delete('')
  return [...bySpent.values()]
}

function added(game: Game, spent: Waste['spent'], g: number): Waste['spent'] {
  const sums = new Map(spent)
  for (const { tally, amount } of game.gates[g]!.costs) sums.set(tally, (sums.get(tally) ?? 0) + amount)
  return [...sums].filter(([, amount]) => amount > 0).sort(([a], [b]) => a - b)
}
