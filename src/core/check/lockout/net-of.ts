import type { GameCost, GameYield } from '../../rules/game.ts'

/** By tally, what a unit comes to when all of it is paid and given, at the `min` or the `max` of what it yields. */
export function netOf(costs: readonly GameCost[], yields: readonly GameYield[], end: 'min' | 'max'): Map<number, number> {
  const net = new Map<number, number>()
  const add = (tally: number, amount: number) => net.set(tally, (net.get(tally) ?? 0) + amount)
  for (const { tally, amount } of costs) add(tally, -amount)
  for (const y of yields) add(y.tally, y[end])
  return net
}
