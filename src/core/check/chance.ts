import { unitsPerOne } from '../plan/basics.ts'
import type { Play } from '../rules/gain.ts'
import type { GameYield } from '../rules/game.ts'

/** How chance falls in a walk: every way it can, with its probability; or one way, drawn. */
export interface Chance {
  readonly exact: boolean
  /** Where there is only ever one way, it can be had without branches: how many units, and how each roll falls. */
  readonly single: { units(count: number, share: number): number; play: Play } | null
  /** Of `count` units, each taken with probability `share`, how many are: every number with its probability. */
  units(count: number, share: number): [units: number, probability: number][]
  /** Plays `run` with every fall of the rolls in it; `run` is called once for each, with a roll of its own. */
  rolls<T>(run: (roll: (y: GameYield) => number) => T): [result: T, probability: number][]
}

/** Chance as its whole tree. */
export const everyOutcome: Chance = {
  exact: true,
  single: null,
  units(count, share) {
    if (share === 0 || share === 1) return [[count * share, 1]]
    return binomial(count, share).flatMap((p, k): [number, number][] => (p > 0 ? [[k, p]] : []))
  },
  rolls(run) {
    const results: [ReturnType<typeof run>, number][] = []
    const open: number[][] = [[]]
    for (let path = open.pop(); path !== undefined; path = open.pop()) {
      const script = path
      let at = 0
      let probability = 1
      const roll = (y: GameYield) => {
        const outcomes = (y.max - y.min) / unitsPerOne + 1
        probability /= outcomes
        if (at === script.length) {
          for (let other = 1; other < outcomes; other++) open.push([...script, y.min + other * unitsPerOne])
          script.push(y.min)
        }
        return script[at++]!
      }
      const result = run(roll)
      results.push([result, probability])
    }
    return results
  },
}

/** Seeded chance, walk by walk: the same seed gives the same walks on every machine. */
export class Draws {
  /** P(k or fewer of n), by n and share: one number drawn tells how many of n units are taken. */
  private readonly tables = new Map<number, Map<number, Float64Array>>()

  constructor(private readonly seed: number) {}

  /** Chance as walk `i` meets it. */
  walk(i: number): Chance {
    return drawn(seededRandom(this.seed, i), (count, share) => this.table(count, share))
  }

  private table(count: number, share: number): Float64Array {
    let byCount = this.tables.get(share)
    if (!byCount) this.tables.set(share, (byCount = new Map()))
    let table = byCount.get(count)
    if (!table) {
      let sum = 0
      byCount.set(count, (table = Float64Array.from(binomial(count, share), (p) => (sum += p))))
    }
    return table
  }
}

function drawn(random: () => number, atMost: (count: number, share: number) => Float64Array): Chance {
  const roll = (y: GameYield) => y.min + Math.floor(random() * ((y.max - y.min) / unitsPerOne + 1)) * unitsPerOne
  const units = (count: number, share: number) => {
    if (share === 0 || share === 1) return count * share
    const table = atMost(count, share)
    const drawn = random()
    let taken = 0
    while (taken < count && drawn >= table[taken]!) taken++
    return taken
  }
  return singleChance(units, roll, false)
}

function singleChance(units: (count: number, share: number) => number, roll: Play['roll'], exact: boolean): Chance {
  return {
    exact,
    single: { units, play: { roll, events: null } },
    units: (count, share) => [[units(count, share), 1]],
    rolls: (run) => [[run(roll), 1]],
  }
}

/** What the middle walk takes and gets: floor(units × share + ½), at (min + max) / 2 (docs/checks.md 1). */
export const middleChance: Chance = singleChance(
  (count, share) => Math.floor(count * share + 0.5),
  (y) => (y.min + y.max) / 2,
  true,
)

/** The two ways furthest apart: whatever may be left out is, and yields are least; or all is taken, and they are greatest. */
export const leastChance: Chance = singleChance((count, share) => (share === 1 ? count : 0), (y) => y.min, false)
export const mostChance: Chance = singleChance((count, share) => (share > 0 ? count : 0), (y) => y.max, false)

/** P(k of n) for every k from 0 to n, each trial with probability p. */
export function binomial(n: number, p: number): number[] {
  const odds = p / (1 - p)
  // In logarithms, so that large n neither over- nor underflows at the start.
  let log = n * Math.log1p(-p)
  const result = [Math.exp(log)]
  for (let k = 1; k <= n; k++) {
    log += Math.log((n - k + 1) / k) + Math.log(odds)
    result.push(Math.exp(log))
  }
  return result
}

/** A seeded stream of numbers from 0 to 1, the same on every machine (sfc32, by Chris Doty-Humphrey). */
export function seededRandom(seed: number, stream: number): () => number {
  let a = seed | 0
  let b = stream | 0
  let c = 0x9e3779b9 | 0
  let counter = 1
  const next = () => {
    const t = (((a + b) | 0) + counter) | 0
    counter = (counter + 1) | 0
    a = b ^ (b >>> 9)
    b = (c + (c << 3)) | 0
    c = (((c << 21) | (c >>> 11)) + t) | 0
    return (t >>> 0) / 4294967296
  }
  for (let i = 0; i < 15; i++) next()
  return next
}
