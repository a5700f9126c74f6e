import { unitsPerOne } from '../plan/basics.ts'
import type { Play } from '../rules/gain.ts'
import type { Game, GameProfile, GameYield } from '../rules/game.ts'
import { leastOf } from '../plan/least-of.ts'

/** Chance that falls in every way it can, each with its probability. */
export interface EveryWay {
  readonly single: null
  /** Of `count` units, each taken with probability `share`, how many are: every number with its probability. */
  units(count: number, share: number): [units: number, probability: number][]
  /** Plays `run` with every fall of the rolls in it; `run` is called once for each, with a roll of its own. */
  rolls<T>(run: (roll: (y: GameYield) => number) => T): [result: T, probability: number][]
}

/** Chance that falls in one way only, which needs no branches: how many units are taken, and how each roll falls. */
export interface OneWay {
  readonly single: { units(count: number, share: number): number; roll: Play['roll'] }
}

/** Whether chance decides how much a yield gives. */
export function isRanged(y: GameYield): boolean {
  return y.min !== y.max
}

/** How chance falls in a walk. */
export type Chance = EveryWay | OneWay

/** Chance as its whole tree. */
export const everyOutcome: EveryWay = {
  single: null,
  units(count, share) {
    if (share === 0 || share === 1) return [[count * share, 1]]
    return binomial(count, share).flatMap((p, k): [number, number][] => (p > 0 ? [[k, p]] : []))
  },
  rolls(run) {
    const results: [ReturnType<typeof run>, number][] = []
    const open: FallsToCome[] = []
    for (let script: number[] | null = []; script !== null; script = nextScript(open)) {
      const path = script
      let at = 0
      let probability = 1
      const roll = (y: GameYield) => {
        probability /= (y.max - y.min) / unitsPerOne + 1
        if (at === path.length) {
          if (y.max > y.min) open.push({ before: [...path], greatest: y.max, least: y.min + unitsPerOne })
          path.push(y.min)
        }
        return path[at++]!
      }
      results.push([run(roll), probability])
    }
    return results
  },
}

/** Falls of a roll that have not been gone yet, and what fell before it. A roll may have a million of them: they are not listed. */
interface FallsToCome {
  before: readonly number[]
  greatest: number
  least: number
}

/** The next of the ways that are open: how each roll in it falls, as far as it is laid down; null: there is none. */
function nextScript(open: FallsToCome[]): number[] | null {
  const falls = open.at(-1)
  if (!falls) return null
  const script = [...falls.before, falls.greatest]
  falls.greatest -= unitsPerOne
  if (falls.greatest < falls.least) open.pop()
  return script
}

/** P(k or fewer of `count` units, each taken with probability `share`), by k: see unitsDrawn. */
export function atMost(count: number, share: number): Float64Array {
  let sum = 0
  return Float64Array.from(binomial(count, share), (p) => (sum += p))
}

/** How many units of those a table of `atMost` is of are taken, by a number drawn evenly from 0 to 1. */
export function unitsDrawn(table: Float64Array, drawn: number): number {
  const last = table.length - 1
  if (last > longTable) return leastOf(0, last, (units) => drawn < table[units]!)
  let taken = 0
  while (taken < last && drawn >= table[taken]!) taken++
  return taken
}

/** Tables longer than this are looked through by halves. */
const longTable = 64

/** How a yield falls, by such a number. */
export function rollDrawn(min: number, max: number, drawn: number): number {
  return min + Math.floor(drawn * ((max - min) / unitsPerOne + 1)) * unitsPerOne
}

export function singleChance(units: (count: number, share: number) => number, roll: Play['roll']): OneWay {
  return { single: { units, roll } }
}

/** What the middle walk takes and gets: floor(units × share + ½), at (min + max) / 2 (docs/checks.md 1). */
export const middleChance = singleChance(
  (count, share) => Math.floor(count * share + 0.5),
  (y) => (y.min + y.max) / 2,
)

/** The two ways furthest apart: whatever may be left out is, and yields are least; or all is taken, and they are greatest. */
export const leastChance = singleChance((count, share) => (share === 1 ? count : 0), (y) => y.min)
export const mostChance = singleChance((count, share) => (share > 0 ? count : 0), (y) => y.max)

/** The share of a source's units that a kind of player takes, each unit by itself. */
export function shareOf({ columns }: Game, { main, side }: GameProfile, s: number): number {
  return columns.main[s] ? main : side
}

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

/** Streams of numbers from 0 to 1 side by side, each with its seed, the same on every machine (sfc32, by Chris Doty-Humphrey). */
export class Streams {
  private readonly a: Int32Array
  private readonly b: Int32Array
  private readonly c: Int32Array
  private readonly counter: Int32Array

  constructor(size: number) {
    this.a = new Int32Array(size)
    this.b = new Int32Array(size)
    this.c = new Int32Array(size)
    this.counter = new Int32Array(size)
  }

  /** Begins stream `stream` of a seed anew, at `i` of those side by side. */
  begin(i: number, seed: number, stream: number): void {
    this.a[i] = seed
    this.b[i] = stream
    this.c[i] = 0x9e3779b9
    this.counter[i] = 1
    for (let k = 0; k < 15; k++) this.next(i)
  }

  /** The next number of stream `i`. */
  next(i: number): number {
    const b = this.b[i]!
    const c = this.c[i]!
    const t = (this.a[i]! + b + this.counter[i]!) | 0
    this.counter[i]! += 1
    this.a[i] = b ^ (b >>> 9)
    this.b[i] = (c + (c << 3)) | 0
    this.c[i] = (((c << 21) | (c >>> 11)) + t) | 0
    return (t >>> 0) / 4294967296
  }
}

/** One such stream. */
export function seededRandom(seed: number, stream: number): () => number {
  const streams = new Streams(1)
  streams.begin(0, seed, stream)
  return () => streams.next(0)
}
