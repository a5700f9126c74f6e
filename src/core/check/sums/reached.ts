/** What a sum is about, where a bell stands for it. */
export interface Bell {
  mean: number
  deviation: number
}

/** Guesses after which it is looked for by halves. */
const mostGuesses = 8

/**
 * The least whole number from one to before another up to which `below` comes to so much; `below` tells how much lies below a number.
 * It is looked for from a guess on, where it would be in a bell.
 */
export function reached(below: (value: number) => number, wanted: number, from: number, end: number, guess: number, { mean, deviation }: Bell): number {
  let low = from - 1
  let high = end - 1
  let value = guess
  for (let tries = 0; high - low > 1; tries++) {
    value = tries < mostGuesses ? Math.min(Math.max(Math.round(value), low + 1), high - 1) : Math.floor((low + high) / 2)
    const missing = wanted - below(value + 1)
    if (missing <= 0) high = value
    else low = value
    value += (missing / bellAt((value - mean) / deviation)) * deviation
  }
  return high
}

/** How steep the sum of a bell is, so many deviations from its mean; never quite level, so that a step can be made anywhere. */
function bellAt(deviations: number): number {
  return Math.max(1e-30, Math.exp(-(deviations ** 2) / 2) / Math.sqrt(2 * Math.PI))
}
