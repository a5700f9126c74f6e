import type { Game, GameGate, GameProfile } from '../../rules/game.ts'
import { remembered } from '../../plan/remembered.ts'
import { isBought } from './bought.ts'
import { addGateNeeds, feedersOf, isRandom, type Feeders } from './feeders.ts'
import { emptyPortion, Gathering, includes, united, type Portion, type Targets } from './portion.ts'

/**
 * The portions of a plan that chance falls on apart: for each gate, tally and character what bears on it, those that rest on
 * the same in one, the narrowest first. All that rests on no chance at all is in the first.
 * `only`: portions of these gates alone.
 */
export function portionsOf(game: Game, profile: GameProfile, only?: ReadonlySet<number>): Portion[] {
  const feeders = feedersOf(game)
  return only ? madePortions(feeders, game, profile, only) : feeders.portionsFor(profile, () => madePortions(feeders, game, profile))
}

function madePortions(feeders: Feeders, game: Game, profile: GameProfile, only?: ReadonlySet<number>): Portion[] {
  const byMakeup = new Map<string, Portion>()
  const certain = new Gathering()
  /** The portion of all that rests on the same. */
  const home = (portion: Portion): Portion => {
    if (!isRandom(profile, feeders.chances(portion))) return certain.add(portion)
    const makeup = feeders.makeup(portion)
    if (!byMakeup.has(makeup)) byMakeup.set(makeup, { ...portion, targets: emptyPortion().targets })
    return byMakeup.get(makeup)!
  }
  if (!only) game.tallies.forEach((_, t) => home(feeders.portion(`tally ${t}`, (p) => p.tallies.add(t))).targets.tallies.add(t))
  if (!only) game.characters.forEach((_, c) => home(feeders.portion(`character ${c}`, (p) => p.characters.add(c))).targets.characters.add(c))
  // Gates that ask for the same things rest on the same.
  const byNeeds = new Map<string, Portion>()
  game.gates.forEach((gate, g) => {
    if (only && !only.has(g)) return
    const needs = needsOf(gate)
    if (!byNeeds.has(needs)) byNeeds.set(needs, home(feeders.portion(needs, (p) => addGateNeeds(p, gate))))
    byNeeds.get(needs)!.targets.gates.add(g)
  })
  const byWidth = [...byMakeup.values()].sort((a, b) => a.tallies.size - b.tallies.size || a.sources.size - b.sources.size)
  return [certain.all, ...joined(profile, byWidth)]
}

/** How much wider one portion may be than another that is walked along with it: that costs less than walking both. */
const mostWider = 1.25

/**
 * Portions of which one holds all of another and little else, as one: the same branches serve both, or the same sum. Only of what
 * feeds what does it depend which are put together: that stays as it is while single items are changed.
 */
function joined(profile: GameProfile, portions: readonly Portion[]): Portion[] {
  const all = [...portions]
  const left: Portion[] = []
  portions.forEach((_, i) => {
    const part = all[i]!
    const holds = (wider: Portion) => wider.sources.size <= part.sources.size * mostWider && wider.gates.size <= part.gates.size * mostWider && includes(wider, part)
    const at = all.findIndex((wider, j) => j > i && (leavesNothingToChance(profile) || wider.tallies.size === 1) && holds(wider))
    if (at < 0) left.push(part)
    else all[at] = { ...united([part, all[at]!]), parts: [...(part.parts ?? [part]), ...(all[at]!.parts ?? [all[at]!])] }
  })
  return left
}

/** Whether a portion is walked as one, and not in its parts: for who leaves units to chance there may be far more branches for the wider ones than for the narrower. */
export function isWalkedAsOne(profile: GameProfile, portion: Portion): boolean {
  return !portion.parts || leavesNothingToChance(profile)
}

function leavesNothingToChance({ main, side }: GameProfile): boolean {
  return [main, side].every((share) => share === 0 || share === 1)
}

/**
 * Whether a gate alters nothing but itself: a player of this kind never buys it; or its opening takes no time, costs and gives nothing,
 * and nobody asks whether it is open.
 */
export function isInert(game: Game, profile: GameProfile, g: number): boolean {
  const gate = game.gates[g]!
  if (!gate.live && !isBought(gate, profile)) return true
  const { minutes, costs, yields, caps } = gate
  return minutes === 0 && [costs, yields, caps].every((list) => list.length === 0) && !feedersOf(game).asked.has(g)
}

/** Whether a gate that opens at the same moment alters the same: nothing but what it asks for, and when it is due, is another. */
export function opensAlike(before: GameGate, now: GameGate): boolean {
  const opening = ({ main, costs, yields, caps, minutes }: GameGate) => JSON.stringify([main, costs, yields, caps, minutes])
  return !before.live && !now.live && opening(before) === opening(now)
}

/** What bears on one gate, walked for it alone. */
export function portionOfGate(game: Game, g: number): Portion {
  const gate = game.gates[g]!
  const portion = feedersOf(game).portion(needsOf(gate), (p) => addGateNeeds(p, gate))
  return { ...portion, targets: { ...emptyPortion().targets, gates: new Set([g]) } }
}

/** What bears on some gates, tallies and characters together, walked for them up to a stop. */
export function portionOfTargets(game: Game, targets: Targets, until: number): Portion {
  const portion = feedersOf(game).grown((core) => {
    for (const t of targets.tallies) core.tallies.add(t)
    for (const c of targets.characters) core.characters.add(c)
    for (const g of targets.gates) addGateNeeds(core, game.gates[g]!)
  })
  return { ...portion, targets, until }
}

/** The gates on which a change of these items can bear: all whose portions they are in. */
export function gatesResting(game: Game, changed: { sources: ReadonlySet<number>; gates: ReadonlySet<number>; characters: ReadonlySet<number> }): Set<number> {
  const feeders = feedersOf(game)
  const byNeeds = new Map<string, boolean>()
  const touches = (portion: Portion) => (['sources', 'gates', 'characters'] as const).some((kind) => [...changed[kind]].some((i) => portion[kind].has(i)))
  const resting = game.gates.flatMap((gate, g) => {
    const needs = needsOf(gate)
    if (!byNeeds.has(needs)) byNeeds.set(needs, touches(feeders.portion(needs, (p) => addGateNeeds(p, gate))))
    return byNeeds.get(needs) || changed.gates.has(g) ? [g] : []
  })
  return new Set(resting)
}

const needsKnown = new WeakMap<GameGate, string>()

/** What a gate asks after, as a word: gates that ask after the same have the same. */
function needsOf(gate: GameGate): string {
  return remembered(needsKnown, gate, () => {
    const { requires: { reads }, costs } = gate
    const lists = [reads.tallies, reads.characters, reads.gates, reads.sources, costs.map(({ tally }) => tally)]
    return lists.map((list) => [...new Set(list)].sort((a, b) => a - b).join()).join(';')
  })
}
