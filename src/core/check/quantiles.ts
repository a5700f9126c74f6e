/**
 * For each of some weights of all, rising, the index at which so much has come together; fewer, where not all are reached. Sums of weights
 * are off by rounding: a hair less counts as enough.
 */
export function whereReached(weights: ArrayLike<number>, wanted: readonly number[]): number[] {
  const found: number[] = []
  for (let i = 0, sum = 0; i < weights.length && found.length < wanted.length; i++) {
    sum += weights[i]!
    while (found.length < wanted.length && sum >= wanted[found.length]! * (1 - 1e-12)) found.push(i)
  }
  return found
}
