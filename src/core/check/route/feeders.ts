import { remembered } from '../../plan/remembered.ts'
import type { Game, GameGate, GameProfile, GameSource, GameYield, Reads } from '../../rules/game.ts'
import type { Touched } from '../../rules/recompile.ts'
import { isRanged } from '../chance.ts'
import { emptyPortion, type Portion } from './portion.ts'

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
  const { sources } = portion
  for (let s = 0; s < sources.end; s++) {
    if (!sources.has(s)) continue
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
export function isRandom({ main, side }: GameProfile, chances: Chances): boolean {
  const isShared = (share: number) => share > 0 && share < 1
  return chances.ranged || (chances.main && isShared(main)) || (chances.side && isShared(side)) || (chances.rangedMain && main > 0) || (chances.rangedSide && side > 0)
}

/** Portions kept for a game, each of which may name all of its sources. */
const mostKept = 64

/** What feeds what in a game is the same for all routes and kinds of player: it is worked out once. */
const known = new WeakMap<Game, Feeders>()
export function feedersOf(game: Game): Feeders {
  return remembered(known, game, () => new Feeders(game))
}

/** How what feeds what in a game is to what it is in one that it was made from by making single items anew. */
export type Feeding = 'same' | 'more' | 'other'

/**
 * Lets a game that was made from another by making single items anew share what feeds what, and its portions, where the same still
 * feeds the same; an item that is gone feeds nothing, but counts on. `more`: new items feed it, too, and what they do not feed rests on
 * what it rested on.
 */
export function feedingOf(from: Game, to: Game, { sources, gates }: Touched): Feeding {
  const feeders = known.get(from)
  if (!feeders) return 'other'
  // Portions are told apart by what they were made as: two games share all of them or none.
  const those = known.get(to)
  if (those) return those === feeders ? 'same' : those.grownFrom === feeders.token ? 'more' : 'other'
  const isAlike = (a: GameSource | GameGate | undefined, b: GameSource | GameGate) => a === undefined || feedsOf(a) === feedsOf(b)
  if (![...sources].every((s) => isAlike(from.sources[s], to.sources[s]!)) || ![...gates].every((g) => isAlike(from.gates[g], to.gates[g]!))) return 'other'
  const isSame = from.sources.length === to.sources.length && from.gates.length === to.gates.length
  known.set(to, isSame ? feeders : new Feeders(to, feeders.token))
  return isSame ? 'same' : 'more'
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
export class Feeders {
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
  /** What those that grow from these know them by. */
  readonly token = {}

  constructor(
    private readonly game: Game,
    readonly grownFrom: object | null = null,
  ) {
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
    for (const t of core.tallies) {
      sources.addAll(this.sourcesOf[t]!)
      gates.addAll(this.gatesOf[t]!)
    }
    for (const c of core.characters) {
      sources.addAll(this.capSources[c]!)
      gates.addAll(this.capGates[c]!)
    }
    sources.addAll([...core.counted])
    gates.addAll([...core.asked])
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

export function addGateNeeds(core: Core, { requires, costs }: GameGate): void {
  addNeeds(core, requires.reads, costs)
}
