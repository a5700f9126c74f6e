import { unitsPerOne } from '../../plan/basics.ts'
import type { Game } from '../../rules/game.ts'
import { shareOf } from '../chance.ts'
import { long, longest } from '../sums/fine-sum.ts'
import { askedBy, askedByCost, type Asked } from './asked.ts'
import type { Bounds } from './bounds.ts'
import { ChainStrand } from './chain-strand.ts'
import { changesOf, type Change, type Changes } from './change.ts'
import type { StrandWalkOptions } from './strand-walk.ts'
import { RewardedSum } from './rewarded-sum.ts'
import { Strands } from './strands.ts'
import { mostValues, SumStrand } from './sum-strand.ts'

/** A sum is this many standard deviations from its mean where it is negligible (see Spread). */
const deviations = 10

/** What one item does to a tally: in how many units, each with what probability. */
interface Part {
  change: Change
  count: number
  share: number
}

/** The strands that a portion is followed on: for all tallies and levels that its targets are, or ask for. */
export function madeStrands(o: StrandWalkOptions, bounds: Bounds, changes: Changes): Strands {
  const { game, itinerary } = o
  const strands = new Strands(game, bounds)
  const { tallies, characters } = askedFor(o)
  const mayBeRead = [...characters].filter((c) => mayBeReadOff(game, c, bounds))
  for (const c of mayBeRead) tallies.add(game.characters[c]!.tally)
  const parts = partsOf(o, tallies, changes)
  // What is paid with XP takes no level back.
  const readOff = mayBeRead.filter((c) => parts.get(game.characters[c]!.tally)!.every(({ change }) => change.paid === 0))
  for (const c of characters) if (!readOff.includes(c) && isChain(game, c)) strands.chains.set(c, new ChainStrand(game, c))
  for (const t of itinerary.tallies) {
    if (!tallies.has(t)) continue
    const listening = readOff.filter((c) => game.characters[c]!.tally === t)
    const sum = sumOf(o, t, parts.get(t)!, listening, bounds)
    strands.sums.set(t, sum)
    for (const c of listening) strands.readOff.set(c, sum)
  }
  for (const sum of strands.sums.values()) {
    const rewarded = rewardedOf(o, sum, strands, bounds)
    if (rewarded) strands.rewarded.set(sum.tally, rewarded)
  }
  return strands
}

/** What a tally is while levels give of it that some have reached; null: none do, or not only levels that are read off one sum, or more of them is less. */
function rewardedOf({ game, itinerary }: StrandWalkOptions, sum: SumStrand, { readOff }: Strands, bounds: Bounds): RewardedSum | null {
  const { tally } = sum
  const givenBy = (c: number) => game.characters[c]!.rewards.flatMap(({ yields }) => yields.filter((y) => y.tally === tally))
  const givers = itinerary.characters.filter((c) => givenBy(c).length > 0)
  const sums = new Set(givers.map((c) => readOff.get(c)))
  const [xp] = sums
  const isFit = xp && sums.size === 1 && xp !== sum && !bounds.resetsOn(tally) && givers.every((c) => givenBy(c).every(({ min }) => min >= 0))
  return isFit ? new RewardedSum(game, sum, xp, givers) : null
}

function sumOf({ game, effort }: StrandWalkOptions, t: number, parts: readonly Part[], characters: readonly number[], bounds: Bounds): SumStrand {
  const step = stepOf(parts)
  const grows = !bounds.resetsOn(t) && parts.every(({ change }) => change.min >= 0)
  // What would take more than may be done is not begun.
  return new SumStrand({ game, tally: t, step, characters, grows, effort: expectedEffort(parts, step) > effort ? -1 : effort })
}

/** All that the targets are and ask for, with those whose levels give of it: it may hang on how far they have come. */
function askedFor({ game, itinerary: { targets, characters: all } }: StrandWalkOptions): { tallies: Set<number>; characters: Set<number> } {
  const [tallies, characters] = [new Set(targets.tallies), new Set(targets.characters)]
  const add = (asked: Asked) => {
    for (const t of asked.tallies) tallies.add(t)
    for (const c of asked.folds.length ? game.characters.keys() : asked.levels) characters.add(c)
  }
  game.gates.forEach((gate, g) => {
    if (!targets.gates[g]) return
    const { comparisons, apart } = askedBy(game, gate)
    for (const { asked } of comparisons) add(asked)
    add(apart)
    for (const { tally } of gate.costs) add(askedByCost(tally))
  })
  for (const c of all) if (game.characters[c]!.rewards.some(({ yields }) => yields.some(({ tally }) => tallies.has(tally)))) characters.add(c)
  return { tallies, characters }
}

/** By tally: all that comes to it along the way. */
function partsOf({ game, route, profile, itinerary }: StrandWalkOptions, tallies: ReadonlySet<number>, changes: Changes): Map<number, Part[]> {
  const parts = new Map<number, Part[]>([...tallies].map((t) => [t, []]))
  const add = (list: readonly Change[], count = 1, share = 1) => {
    for (const change of list) parts.get(change.tally)?.push({ change, count, share })
  }
  for (const place of new Set(route.stops)) for (const item of itinerary.items[place]!) {
    if (item < 0) add(changes.ofGate(-1 - item))
    else add(changes.ofSource(item), game.sources[item]!.count, shareOf(game, profile, item))
  }
  for (const g of itinerary.anywhere) add(changes.ofGate(g))
  for (const c of itinerary.characters) for (const { yields } of game.characters[c]!.rewards) add(changesOf(yields, [], itinerary.matters))
  return parts
}

/** The units that all that comes to a tally are multiples of. */
function stepOf(parts: readonly Part[]): number {
  let step = 0
  for (const { change: { paid, yields } } of parts) {
    step = commonDivisor(step, paid)
    for (const { min, max } of yields) step = commonDivisor(commonDivisor(step, Math.abs(min)), max === min ? 0 : unitsPerOne)
    // No step is finer.
    if (step === 1) break
  }
  return step || unitsPerOne
}

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b)
}

/** About how many multiplications a sum takes: it is as wide as what is not negligible of it, until it is followed by its waves. */
function expectedEffort(parts: readonly Part[], step: number): number {
  let effort = 0
  let range = 0
  let variance = 0
  for (const { change: { min, max }, count, share } of parts) {
    if (share === 0) continue
    const mean = (min + max) / 2 / step
    const width = (max - min) / step
    range += count * (share < 1 ? Math.max(Math.abs(min), Math.abs(max)) / step : width)
    variance += count * share * (width ** 2 / 12 + (1 - share) * mean ** 2)
    const values = Math.min(range, 2 * deviations * Math.sqrt(variance))
    if (values > mostValues) return Infinity
    effort += count * (width + 1) * (values > longest ? values : Math.min(values, long))
  }
  return effort
}

/** Whether a character's level depends on a tally's amount alone: all XP is gained by it, carried, and climbed at once. */
function mayBeReadOff(game: Game, c: number, bounds: Bounds): boolean {
  const { curve, joins, tally } = game.characters[c]!
  if (!curve || tally < 0 || joins !== null || !bounds.isReckonable(c)) return false
  const rewarded = game.tallies[tally]!.listeners.flatMap((other) => game.characters[other]!.rewards.flatMap(({ yields }) => yields))
  return !rewarded.some((y) => game.tallies[y.tally]!.kind === 'experience')
}

/** Whether a character's level can be followed gain by gain. */
function isChain(game: Game, c: number): boolean {
  const { curve, tally } = game.characters[c]!
  return curve !== null && tally >= 0 && !game.characters.some(({ rewards }) => rewards.some(({ yields }) => yields.some((y) => y.tally === tally)))
}
