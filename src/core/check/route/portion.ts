import type { Game, GameGate, GameProfile, GameRoute, GameSource, GameYield, Reads } from '../../rules/game.ts'

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
}

/** What a portion is walked for. */
export interface Targets {
  gates: Set<number>
  tallies: Set<number>
  characters: Set<number>
}

/** The whole plan as one portion. */
export function wholePortion(game: Game): Portion {
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
  const byMakeup = new Map<string, Portion>()
  const certain = emptyPortion()
  /** The portion of all that rests on the same. */
  const home = (portion: Portion): Portion => {
    if (!isRandom(profile, feeders.chances(portion))) {
      unite(certain, portion)
      return certain
    }
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
  return [certain, ...[...byMakeup.values()].sort((a, b) => a.tallies.size - b.tallies.size || a.sources.size - b.sources.size)]
}

/** Whether all that bears on one portion bears on another too. */
export function includes(all: Portion, part: Portion): boolean {
  return (['tallies', 'characters', 'sources', 'gates'] as const).every((kind) => [...part[kind]].every((i) => all[kind].has(i)))
}

/** What bears on one gate, walked for it alone. */
export function portionOfGate(game: Game, g: number): Portion {
  const gate = game.gates[g]!
  const portion = feedersOf(game).portion(needsOf(gate), (p) => addGateNeeds(p, gate))
  return { ...portion, targets: { ...emptyPortion().targets, gates: new Set([g]) } }
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

/** Several portions as one, walked for all that each is. */
export function united(portions: readonly Portion[]): Portion {
  const all = emptyPortion()
  for (const portion of portions) {
    unite(all, portion)
    for (const kind of ['gates', 'tallies', 'characters'] as const) for (const i of portion.targets[kind]) all.targets[kind].add(i)
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

function makeupOf(portion: Portion): string {
  return parts.map((part) => [...portion[part]].sort((a, b) => a - b).join()).join(';')
}

function isRanged(y: GameYield): boolean {
  return y.min !== y.max
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
  for (const s of portion.sources) {
    const { main, yields } = game.sources[s]!
    chances[main ? 'main' : 'side'] = true
    if (bears(yields)) chances[main ? 'rangedMain' : 'rangedSide'] = true
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
  if (!known.has(game)) known.set(game, new Feeders(game))
  return known.get(game)!
}

/** What feeds what: by tally and character the sources, gates and characters that change it. */
class Feeders {
  private readonly sourcesOf: number[][]
  private readonly gatesOf: number[][]
  private readonly rewardersOf: number[][]
  private readonly capSources: number[][]
  private readonly capGates: number[][]
  private readonly portions = new Map<string, Portion>()
  private readonly chancesKnown = new WeakMap<Portion, Chances>()
  private readonly makeups = new WeakMap<Portion, string>()

  constructor(private readonly game: Game) {
    this.sourcesOf = game.tallies.map(() => [])
    this.gatesOf = game.tallies.map(() => [])
    this.rewardersOf = game.tallies.map(() => [])
    this.capSources = game.characters.map(() => [])
    this.capGates = game.characters.map(() => [])
    game.sources.forEach((source, s) => this.enter(source, source.takes, s, this.sourcesOf, this.capSources))
    game.gates.forEach((gate, g) => this.enter(gate, gate.costs, g, this.gatesOf, this.capGates))
    game.characters.forEach((character, c) => {
      for (const t of new Set(character.rewards.flatMap((reward) => reward.yields.map((y) => y.tally)))) this.rewardersOf[t]!.push(c)
    })
  }

  chances(portion: Portion): Chances {
    const known = this.chancesKnown.get(portion) ?? chancesOf(this.game, portion)
    this.chancesKnown.set(portion, known)
    return known
  }

  /** What tells portions with different things in them apart. */
  makeup(portion: Portion): string {
    const known = this.makeups.get(portion) ?? makeupOf(portion)
    this.makeups.set(portion, known)
    return known
  }

  private enter(item: GameSource | GameGate, costs: GameSource['takes'], index: number, byTally: number[][], byCharacter: number[][]): void {
    for (const t of new Set([...item.yields, ...costs].map(({ tally }) => tally))) byTally[t]!.push(index)
    const capped = item.caps.flatMap((cap) => (cap.character === null ? [...this.game.characters.keys()] : [cap.character]))
    for (const c of new Set(capped)) byCharacter[c]!.push(index)
  }

  /** Everything that bears on what is put into a portion at first; `name` tells the beginnings apart. It has no targets. */
  portion(name: string, begin: (portion: Portion) => void): Portion {
    const before = this.portions.get(name)
    if (before) return before
    const portion = emptyPortion()
    if (this.portions.size < mostKept) this.portions.set(name, portion)
    begin(portion)
    for (let before = -1, now = sizeOf(portion); now > before; before = now, now = sizeOf(portion)) this.grow(portion)
    return portion
  }

  private grow(portion: Portion): void {
    // Sets are walked while they grow: what is added is come to in its turn.
    for (const t of portion.tallies) {
      for (const s of this.sourcesOf[t]!) this.addSource(portion, s)
      for (const g of this.gatesOf[t]!) this.addGate(portion, g)
      for (const c of this.rewardersOf[t]!) portion.characters.add(c)
    }
    for (const c of portion.characters) {
      const { tally } = this.game.characters[c]!
      if (tally >= 0) portion.tallies.add(tally)
      for (const s of this.capSources[c]!) this.addSource(portion, s)
      for (const g of this.capGates[c]!) this.addGate(portion, g)
    }
    for (const s of portion.counted) this.addSource(portion, s)
    for (const g of portion.asked) this.addGate(portion, g)
  }

  private addSource(portion: Portion, s: number): void {
    if (portion.sources.has(s)) return
    portion.sources.add(s)
    const { requires, takes } = this.game.sources[s]!
    addReads(portion, requires.reads)
    for (const { tally } of takes) portion.tallies.add(tally)
  }

  private addGate(portion: Portion, g: number): void {
    if (portion.gates.has(g)) return
    portion.gates.add(g)
    addGateNeeds(portion, this.game.gates[g]!)
  }
}

function addGateNeeds(portion: Portion, gate: GameGate): void {
  addReads(portion, gate.requires.reads)
  for (const { tally } of gate.costs) portion.tallies.add(tally)
}

function addReads(portion: Portion, reads: Reads): void {
  for (const t of reads.tallies) portion.tallies.add(t)
  for (const c of reads.characters) portion.characters.add(c)
  for (const s of reads.sources) portion.counted.add(s)
  for (const g of reads.gates) portion.asked.add(g)
}

function sizeOf(portion: Portion): number {
  return parts.reduce((sum, part) => sum + portion[part].size, 0)
}

/** How a portion is walked along a route: its items place by place, and what tells two branches apart at each stop. */
export interface Itinerary {
  /** By place: sources and gates as in GamePlace.items. */
  items: readonly Int32Array[]
  /** How many items all stops of the route have together. */
  length: number
  anywhere: readonly number[]
  gates: Uint8Array
  /** By tally: whether it is of the portion. */
  matters: Uint8Array
  tallies: readonly number[]
  characters: readonly number[]
  counted: readonly number[]
  /** What is open from a stop on. */
  openAt: (stop: number) => OpenItems
  targets: { gates: Uint8Array; tallies: readonly number[]; characters: readonly number[] }
}

/** Sources of which units may still be taken from a stop on, and gates that may still be opened or are asked after. */
export interface OpenItems {
  sources: readonly number[]
  gates: readonly number[]
}

export function itineraryOf(game: Game, route: GameRoute, portion: Portion): Itinerary {
  const gates = new Set([...portion.gates, ...portion.targets.gates])
  const items = game.places.map((place) => place.items.filter((item) => (item >= 0 ? portion.sources.has(item) : gates.has(-1 - item))))
  const anywhere = game.anywhere.filter((g) => gates.has(g))
  return {
    items,
    length: route.stops.reduce((sum, place) => sum + items[place]!.length, 0),
    anywhere,
    gates: flags(game.gates.length, gates),
    matters: flags(game.tallies.length, portion.tallies),
    tallies: [...portion.tallies],
    characters: [...portion.characters],
    counted: [...portion.counted],
    openAt: openItems(route, items, [...anywhere, ...portion.asked]),
    targets: { gates: flags(game.gates.length, portion.targets.gates), tallies: [...portion.targets.tallies], characters: [...portion.targets.characters] },
  }
}

/** Worked out stop by stop, when it is asked for: most walks never do. `everywhere`: gates that stay open at all stops. */
function openItems({ stops }: GameRoute, items: readonly Int32Array[], everywhere: readonly number[]): Itinerary['openAt'] {
  const lastVisit = new Map(stops.map((place, stop) => [place, stop]))
  const firstVisit = new Map([...stops.entries()].reverse().map(([stop, place]) => [place, stop]))
  const revisited = [...firstVisit.keys()].filter((place) => firstVisit.get(place) !== lastVisit.get(place))
  const known = new Map<number, OpenItems>()
  return (stop) => {
    if (!known.has(stop)) {
      const places = new Set([stops[stop]!, ...revisited.filter((place) => firstVisit.get(place)! <= stop && lastVisit.get(place)! >= stop)])
      const here = [...places].flatMap((place) => [...items[place]!])
      known.set(stop, { sources: here.filter((item) => item >= 0), gates: [...new Set([...here.filter((item) => item < 0).map((item) => -1 - item), ...everywhere])] })
    }
    return known.get(stop)!
  }
}

function flags(length: number, set: ReadonlySet<number>): Uint8Array {
  const result = new Uint8Array(length)
  for (const i of set) result[i] = 1
  return result
}
