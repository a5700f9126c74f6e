/**
 * For each of some weights of all, rising, the index at which so much has come together; fewer, where not all are reached. Sums of weights
 * are off by rounding: a hair less counts as enough.
 */
export function whereReached(weights: ArrayLike<number>, wanted: readonly number[]): number[] {
  const found: number[] = []
  let i = -1
  let sum = 0
  for (const weight of wanted) {
    const enough = weight * (1 - 1e-12)
    // The first is reached with some value, though it be of no weight.
    while (i < 0 || sum < enough) {
      if (++i >= weights.length) return found
      sum += weights[i]!
    }
    found.push(i)
  }
  return found
}
