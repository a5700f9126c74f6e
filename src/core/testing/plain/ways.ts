/** How chance falls for one player: each time it is asked, one way or another. */
export interface Fall {
  /** How many of so many units are taken, each by itself with a probability. */
  units(count: number, share: number): number
  /** What a yield comes to. */
  amount(min: number, max: number): number
}

/** What the middle walk takes and gets (docs/checks.md 1). */
export const middleFall: Fall = {
  units: (count, share) => Math.floor(count * share + 0.5),
  amount: (min, max) => (min + max) / 2,
}

/** Every way in which chance can fall in what is played, each with its probability; null where there are more than `most`. */
export function everyWay<T>(most: number, play: (fall: Fall) => T): [result: T, probability: number][] | null {
  const results: [T, number][] = []
  // Each script says which way chance falls at the first, the second … time; past its end, the first way there is.
  const scripts: number[][] = [[]]
  for (let script = scripts.pop(); script; script = scripts.pop()) {
    if (results.length + scripts.length >= most) return null
    const falls = script
    let [at, probability] = [0, 1]
    const choose = (odds: readonly number[]): number => {
      if (at === falls.length) {
        for (let other = 1; other < odds.length; other++) scripts.push([...falls, other])
        falls.push(0)
      }
      probability *= odds[falls[at]!]!
      return falls[at++]!
    }
    const result = play({
      units: (count, share) => (share === 0 || share === 1 ? count * share : choose(unitsOdds(count, share))),
      amount: (min, max) => min + choose(Array.from({ length: max - min + 1 }, () => 1 / (max - min + 1))),
    })
    results.push([result, probability])
  }
  return results
}

/** P(k of `count` units), unit by unit. */
function unitsOdds(count: number, share: number): number[] {
  let odds = [1]
  for (let unit = 0; unit < count; unit++) odds = [...odds, 0].map((p, k) => p * (1 - share) + (odds[k - 1] ?? 0) * share)
  return odds
}
