import { Spread } from './spread.ts'

/** A spread that it is with so much probability. */
export interface Portioned {
  spread: Spread
  share: number
}

/** What is one of several spreads, each with its share of the probability; of one at least. */
export function mixture(parts: readonly Portioned[]): Spread {
  let from = Infinity
  let end = -Infinity
  for (const { spread } of parts) {
    if (spread.from < from) from = spread.from
    if (spread.end > end) end = spread.end
  }
  const weights = new Float64Array(end - from)
  for (const { spread, share } of parts) {
    const at = spread.from - from
    for (let i = 0; i < spread.weights.length; i++) weights[at + i]! += spread.weights[i]! * share
  }
  let points = 0
  for (let i = 0; i < weights.length; i++) if (weights[i] !== 0) points++
  return new Spread(from, weights, points)
}
