import { remembered } from '../../plan/remembered.ts'
import type { Touched } from '../../rules/recompile.ts'
import { isRanged } from '../chance.ts'
import { isBought } from './bought.ts'
import type { Game, GameGate, GamePlace, GameProfile, GameSource, GameYield, Reads } from '../../rules/game.ts'

/** A part of the plan that nothing outside it bears on: it can be walked alone. */
export interface Portion {
  tallies: Set<number>
  characters: Set<number>
  sources: Set<number>
  /** Gates whose opening bears on the portion, beside those it is walked for. */
  gates: Set<number>
  /** Sources of which it is asked how many units were taken. */
  counted: Set<number>
  /** Gates of which it is asked whether they are open. */
  asked: Set<number>
  targets: Targets
  /** Portions that are walked as this one where not too many branches come of it, and else apart. */
  parts?: readonly Portion[]
  /** The last stop up to which it is walked; absent: to the end of the route. */
  until?: number
}

/** What a portion is walked for. */
export interface Targets {
  gates: Set<number>
  tallies: Set<number>
  characters: Set<number>
}

const wholes = new WeakMap<readonly GamePlace[], Portion>()

/** The whole plan as one portion. */
export function wholePortion(game: Game): Portion {
  return remembered(wholes, game.places, () => madeWhole(game))
}

function madeWhole(game: Game): Portion {
  const all = (list: readonly unknown[]) => new Set(list.keys())
  const [gates, tallies, characters, sources] = [all(game.gates), all(game.tallies), all(game.characters), all(game.sources)]
  return { tallies, characters, sources, gates, counted: sources, asked: gates, targets: { gates, tallies, characters } }
}

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

/** Portions gathered in one. While that is a single one it shares all that is in it: what is known of that serves it, too. */
class Gathering {
  readonly all = emptyPortion()
  private single: Portion | null = null
  private isOwn = false

  add(portion: Portion): Portion {
    if (this.single === null) this.take(portion)
    else if (this.single !== portion) {
      if (!this.isOwn) for (const part of parts) this.all[part] = new Set(this.all[part])
      this.isOwn = true
      unite(this.all, portion)
    }
    return this.all
  }

  private take(portion: Portion): void {
    this.single = portion
    for (const part of parts) this.all[part] = portion[part]
  }
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

function addTargets({ targets }: Portion, from: Portion): void {
  for (const kind of ['gates', 'tallies', 'characters'] as const) for (const i of from.targets[kind]) targets[kind].add(i)
}

/** Whether all that bears on one portion bears on another too. */
export function includes(all: Portion, part: Portion): boolean {
  return (['tallies', 'characters', 'sources', 'gates'] as const).every((kind) => [...part[kind]].every((i) => all[kind].has(i)))
}

/** Whether what single items do can alter a portion. */
export function touches(portion: Portion, { sources, gates }: Touched): boolean {
  return [...sources].some((s) => portion.sources.has(s)) || [...gates].some((g) => portion.gates.has(g) || portion.targets.gates.has(g))
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

/** A portion walked for some of its targets only, up to a stop. */
export function narrowed(portion: Portion, { until, ...targets }: Targets & { until: number }): Portion {
  const both = (kind: keyof Targets) => new Set([...portion.targets[kind]].filter((i) => targets[kind].has(i)))
  return { ...portion, targets: { gates: both('gates'), tallies: both('tallies'), characters: both('characters') }, until }
}

/** Whether a portion is walked for nothing. */
export function hasNoTargets({ targets }: Portion): boolean {
  return Object.values(targets).every(({ size }) => size === 0)
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

function needsOf({ requires: { reads }, costs }: GameGate): string {
  const lists = [reads.tallies, reads.characters, reads.gates, reads.sources, costs.map(({ tally }) => tally)]
  return lists.map((list) => [...new Set(list)].sort((a, b) => a - b).join()).join(';')
}

/** All that several portions are walked for. */
export function targetsOf(portions: readonly Portion[]): Targets {
  const all = emptyPortion()
  for (const portion of portions) addTargets(all, portion)
  return all.targets
}

/** Several portions as one, walked for all that each is. */
export function united(portions: readonly Portion[]): Portion {
  const all = emptyPortion()
  for (const portion of portions) {
    unite(all, portion)
    addTargets(all, portion)
  }
  return all
}

const parts = ['tallies', 'characters', 'sources', 'gates', 'counted', 'asked'] as const

function emptyPortion(): Portion {
  const none = () => new Set<number>()
  return { tallies: none(), characters: none(), sources: none(), gates: none(), counted: none(), asked: none(), targets: { gates: none(), tallies: none(), characters: none() } }
}

function unite(into: Portion, portion: Portion): void {
  for (const part of parts) for (const i of portion[part]) into[part].add(i)
}

/** Where chance can fall in a portion, whoever plays: on which units, if they may be left out, and on yields that have a range. */
interface Chances {
  main: boolean
  side: boolean
  rangedMain: boolean
  rangedSide: boolean
  /** On yields of gates or rewards, which nobody leaves out. */
  ranged: boolean
}

function chancesOf(game: Game, portion: Portion): Chances {
  const bears = (yields: readonly GameYield[]) => yields.some((y) => isRanged(y) && portion.tallies.has(y.tally))
  const chances = { main: false, side: false, rangedMain: false, rangedSide: false, ranged: false }
  const { main, yieldsFrom, yieldTally, yieldMin, yieldMax } = game.columns
  for (const s of portion.sources) {
    chances[main[s] ? 'main' : 'side'] = true
    for (let y = yieldsFrom[s]!; y < yieldsFrom[s + 1]!; y++) {
      if (yieldMin[y] !== yieldMax[y] && portion.tallies.has(yieldTally[y]!)) chances[main[s] ? 'rangedMain' : 'rangedSide'] = true
    }
  }
  for (const g of portion.gates) chances.ranged ||= bears(game.gates[g]!.yields)
  for (const c of portion.characters) chances.ranged ||= game.characters[c]!.rewards.some((reward) => bears(reward.yields))
  return chances
}

/** Whether chance falls on anything in a portion for a kind of player. */
function isRandom({ main, side }: GameProfile, chances: Chances): boolean {
  const isShared = (share: number) => share > 0 && share < 1
  return chances.ranged || (chances.main && isShared(main)) || (chances.side && isShared(side)) || (chances.rangedMain && main > 0) || (chances.rangedSide && side > 0)
}

/** Portions kept for a game, each of which may name all of its sources. */
const mostKept = 64

/** What feeds what in a game is the same for all routes and kinds of player: it is worked out once. */
const known = new WeakMap<Game, Feeders>()
function feedersOf(game: Game): Feeders {
  return remembered(known, game, () => new Feeders(game))
}

/**
 * Lets a game that was made from another by making single items anew share what feeds what, and its portions, where the same still
 * feeds the same. Whether it does.
 */
export function sharesFeeders(from: Game, to: Game, { sources, gates }: Touched): boolean {
  const feeders = known.get(from)
  // Portions are told apart by what they were made as: two games share all of them or none.
  if (known.has(to)) return known.get(to) === feeders
  const isAlike = (a: GameSource | GameGate, b: GameSource | GameGate) => feedsOf(a) === feedsOf(b)
  if (!feeders || ![...sources].every((s) => isAlike(from.sources[s]!, to.sources[s]!)) || ![...gates].every((g) => isAlike(from.gates[g]!, to.gates[g]!))) return false
  known.set(to, feeders)
  return true
}

/** All of an item that portions, and the chances in them, are made from. */
function feedsOf(item: GameSource | GameGate): string {
  const paid = 'takes' in item ? item.takes : item.costs
  const { requires: { reads }, yields, caps, main } = item
  return JSON.stringify([reads, paid.map(({ tally }) => tally), yields.map((y) => [y.tally, isRanged(y)]), caps.map(({ character }) => character), main])
}

/** The parts of a portion from which all others follow: few, however many sources there are. */
type Core = Pick<Portion, 'tallies' | 'characters' | 'counted' | 'asked'>

/** What feeds what: by tally and character the sources, gates and characters that change it, and what those ask for in turn. */
class Feeders {
  private readonly sourcesOf: number[][]
  private readonly gatesOf: number[][]
  private readonly capSources: number[][]
  private readonly capGates: number[][]
  private readonly tallyNeeds: Core[]
  private readonly characterNeeds: Core[]
  private readonly portions = new Map<string, Portion>()
  private readonly byCore = new Map<string, Portion>()
  private readonly chancesKnown = new WeakMap<Portion, Chances>()
  private readonly makeups = new WeakMap<Portion, string>()
  private readonly byProfile = new WeakMap<GameProfile, Portion[]>()
  /** Gates of which somebody asks whether they are open. */
  readonly asked = new Set<number>()

  constructor(private readonly game: Game) {
    this.sourcesOf = game.tallies.map(() => [])
    this.gatesOf = game.tallies.map(() => [])
    this.capSources = game.characters.map(() => [])
    this.capGates = game.characters.map(() => [])
    this.tallyNeeds = game.tallies.map(emptyPortion)
    this.characterNeeds = game.characters.map(emptyPortion)
    game.sources.forEach((source, s) => this.enter(source, source.takes, s, this.sourcesOf, this.capSources))
    game.gates.forEach((gate, g) => this.enter(gate, gate.costs, g, this.gatesOf, this.capGates))
    for (const { requires } of [...game.sources, ...game.gates]) for (const g of requires.reads.gates) this.asked.add(g)
    game.characters.forEach((character, c) => {
      if (character.tally >= 0) this.characterNeeds[c]!.tallies.add(character.tally)
      for (const { yields } of character.rewards) for (const { tally } of yields) this.tallyNeeds[tally]!.characters.add(c)
    })
  }

  chances(portion: Portion): Chances {
    return remembered(this.chancesKnown, portion, () => chancesOf(this.game, portion))
  }

  portionsFor(profile: GameProfile, made: () => Portion[]): Portion[] {
    return remembered(this.byProfile, profile, made)
  }

  /** What tells portions with different things in them apart. */
  makeup(portion: Portion): string {
    return remembered(this.makeups, portion, () => coreKey(portion))
  }

  /** Whoever changes a tally, or a cap, hands on all that it asks for. */
  private enter(item: GameSource | GameGate, costs: GameSource['takes'], index: number, byTally: number[][], byCharacter: number[][]): void {
    const hand = (list: number[], needs: Core) => {
      if (list.at(-1) === index) return
      list.push(index)
      addNeeds(needs, item.requires.reads, costs)
    }
    for (const { tally } of item.yields) hand(byTally[tally]!, this.tallyNeeds[tally]!)
    for (const { tally } of costs) hand(byTally[tally]!, this.tallyNeeds[tally]!)
    for (const { character } of item.caps) {
      for (const c of character === null ? this.game.characters.keys() : [character]) hand(byCharacter[c]!, this.characterNeeds[c]!)
    }
  }

  /** Everything that bears on what is put into a portion at first; `name` tells the beginnings apart. It has no targets. */
  portion(name: string, begin: (portion: Core) => void): Portion {
    const known = this.portions.get(name) ?? this.grown(begin)
    if (this.portions.size < mostKept) this.portions.set(name, known)
    return known
  }

  grown(begin: (portion: Core) => void): Portion {
    const core: Core = emptyPortion()
    begin(core)
    for (let before = -1, now = sizeOf(core); now > before; before = now, now = sizeOf(core)) this.grow(core)
    const key = coreKey(core)
    const known = this.byCore.get(key) ?? this.whole(core)
    if (this.byCore.size < mostKept) this.byCore.set(key, known)
    return known
  }

  private grow(core: Core): void {
    // Sets are walked while they grow: what is added is come to in its turn.
    for (const t of core.tallies) addCore(core, this.tallyNeeds[t]!)
    for (const c of core.characters) addCore(core, this.characterNeeds[c]!)
    for (const s of core.counted) addNeeds(core, this.game.sources[s]!.requires.reads, this.game.sources[s]!.takes)
    for (const g of core.asked) addGateNeeds(core, this.game.gates[g]!)
  }

  /** With all sources and gates that change what is in it. */
  private whole(core: Core): Portion {
    const { sources, gates, targets } = emptyPortion()
    const addAll = (to: Set<number>, lists: readonly (readonly number[])[]) => {
      for (const list of lists) for (const i of list) to.add(i)
    }
    addAll(sources, [...[...core.tallies].map((t) => this.sourcesOf[t]!), ...[...core.characters].map((c) => this.capSources[c]!), [...core.counted]])
    addAll(gates, [...[...core.tallies].map((t) => this.gatesOf[t]!), ...[...core.characters].map((c) => this.capGates[c]!), [...core.asked]])
    return { ...core, sources, gates, targets }
  }
}

const cores = ['tallies', 'characters', 'counted', 'asked'] as const

function coreKey(core: Core): string {
  return cores.map((part) => [...core[part]].sort((a, b) => a - b).join()).join(';')
}

function sizeOf(core: Core): number {
  return cores.reduce((sum, part) => sum + core[part].size, 0)
}

function addCore(into: Core, from: Core): void {
  for (const part of cores) for (const i of from[part]) into[part].add(i)
}

function addNeeds(core: Core, reads: Reads, costs: GameSource['takes']): void {
  for (const t of reads.tallies) core.tallies.add(t)
  for (const c of reads.characters) core.characters.add(c)
  for (const s of reads.sources) core.counted.add(s)
  for (const g of reads.gates) core.asked.add(g)
  for (const { tally } of costs) core.tallies.add(tally)
}

function addGateNeeds(core: Core, { requires, costs }: GameGate): void {
  addNeeds(core, requires.reads, costs)
}
