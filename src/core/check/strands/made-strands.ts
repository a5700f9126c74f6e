import type { Game } from '../../rules/game.ts'
import { shareOf } from '../chance.ts'
import { askedBy, askedByCost, type Asked } from './asked.ts'
import type { Bounds } from './bounds.ts'
import { ChainStrand } from './chain-strand.ts'
import type { Change, Changes } from './change.ts'
import { Inflow, type Part } from './inflow.ts'
import { RewardedSum } from './rewarded-sum.ts'
import type { StrandWalkOptions } from './strand-walk.ts'
import { Strands } from './strands.ts'
import { SumStrand } from './sum-strand.ts'

/** The strands that a portion is followed on: for all tallies and levels that its targets are, or ask for. */
export function madeStrands(o: StrandWalkOptions, bounds: Bounds, changes: Changes): Strands {
  const { game, itinerary } = o
  const strands = new Strands(game, bounds)
  const { tallies, characters } = askedFor(o)
  const mayBeRead = [...characters].filter((c) => mayBeReadOff(game, c, bounds))
  for (const c of mayBeRead) tallies.add(game.characters[c]!.tally)
  const inflows = inflowsOf(o, tallies, changes)
  // What is paid with XP takes no level back.
  const readOff = mayBeRead.filter((c) => !inflows.get(game.characters[c]!.tally)!.isPaid)
  for (const c of characters) if (!readOff.includes(c) && isChain(game, c)) strands.chains.set(c, new ChainStrand(game, c))
  for (const t of itinerary.tallies) {
    if (!tallies.has(t)) continue
    const listening = readOff.filter((c) => game.characters[c]!.tally === t)
    const inflow = inflows.get(t)!
    // What would take more than may be done is not begun.
    const effort = inflow.isWithin(o.effort, () => partsOf(o, t, changes)) ? o.effort : -1
    const sum = new SumStrand({ game, tally: t, step: inflow.step, characters: listening, grows: inflow.grows && !bounds.resetsOn(t), effort })
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

/** By tally what comes to it along the way. */
function inflowsOf(o: StrandWalkOptions, tallies: ReadonlySet<number>, changes: Changes): ReadonlyMap<number, Inflow> {
  const inflows = new Map([...tallies].map((t) => [t, new Inflow()]))
  eachPart(o, changes, (change, count, share) => inflows.get(change.tally)?.add(change, count, share))
  return inflows
}

/** All that comes to one tally along the way, in that order. */
function partsOf(o: StrandWalkOptions, t: number, changes: Changes): Part[] {
  const parts: Part[] = []
  eachPart(o, changes, (change, count, share) => {
    if (change.tally === t) parts.push({ change, count, share })
  })
  return parts
}

function eachPart({ game, route, profile, itinerary }: StrandWalkOptions, changes: Changes, tell: (change: Change, count: number, share: number) => void): void {
  const tellAll = (list: readonly Change[], count: number, share: number) => {
    for (let i = 0; i < list.length; i++) tell(list[i]!, count, share)
  }
  for (const place of new Set(route.stops)) {
    const items = itinerary.items[place]!
    for (let i = 0; i < items.length; i++) {
      const item = items[i]!
      if (item < 0) tellAll(changes.ofGate(-1 - item), 1, 1)
      else tellAll(changes.ofSource(item), game.columns.count[item]!, shareOf(game, profile, item))
    }
  }
  for (const g of itinerary.anywhere) tellAll(changes.ofGate(g), 1, 1)
  for (const c of itinerary.characters) for (const reward of game.characters[c]!.rewards) tellAll(changes.ofReward(reward), 1, 1)
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
