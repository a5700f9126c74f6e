import type { Game, GameCharacter, GameItem, GameYield } from '../../rules/game.ts'
import { rises } from '../../rules/relaxed.ts'
import { levelAsked } from './asked.ts'
import type { Scope } from './scope.ts'

/** Which moves can never spoil anything, whenever they are made: they commute with all others (docs/checks.md 3). */
export interface Safety {
  /** No gate closes again: where the player stands matters only for what starts anew in each place, and for ways that do not lead back. */
  roams: boolean
  sources: boolean[]
  gates: boolean[]
  /** Gates that do nothing but cost: opening them can as well be put off to the end. Only where one roams. */
  sinks: number[]
}

/** `placed`: where the player stands is told apart whatever the plan is like. */
export function safetyOf(game: Game, scope: Scope, placed = false): Safety {
  const touchy = touchyReads(game, scope)
  const spent = spentTallies(game, scope)
  const penalised = penalisedTallies(game, scope)
  const goodFor = game.characters.map((character, c) => !scope.characters[c] || (!touchy.characters.has(c) && keepsAll(game, scope, character, c)))
  const isGoodFor = (c: number) => goodFor[c]!
  const isGoodGain = (t: number): boolean => {
    const tally = game.tallies[t]!
    if (touchy.tallies.has(t) || penalised.has(t) || tally.resets === 'place' || (tally.max < scope.enough[t]! && spent.has(t))) return false
    return tally.listeners.every(isGoodFor)
  }
  const isGood = (y: GameYield): boolean => !scope.tallies[y.tally] || (y.min === y.max && y.min >= 0 && isGoodGain(y.tally))
  const rewardsAreGood = game.characters.every((character) => character.rewards.every((reward) => reward.yields.every((y) => isGood(y))))
  const isSafe = (item: GameItem, costs: readonly unknown[]) =>
    // What can be done now but not any more later is a chance that play can miss.
    isLasting(game, item, spent) && costs.length === 0 && item.caps.every(({ character }) => (character === null ? [...game.characters.keys()] : [character]).every(isGoodFor)) && item.yields.every((y) => isGood(y) && (game.tallies[y.tally]!.kind !== 'experience' || rewardsAreGood))
  const roams = !placed && canRoam(game, scope, touchy, spent)
  return {
    roams,
    sources: game.sources.map((source, s) => isSafe(source, source.takes) && !touchy.sources.has(s)),
    gates: game.gates.map((gate, g) => isSafe(gate, gate.costs) && !touchy.gates.has(g)),
    sinks: roams ? sinksOf(game, scope, { touchy, spent, penalised }) : [],
  }
}

/** Whether a character keeps whatever XP it gets, whenever it comes. */
function keepsAll(game: Game, scope: Scope, { cap, curve, joins, tally }: GameCharacter, c: number): boolean {
  const isCapped = cap !== null || inScope(game, scope).some((item) => item.caps.some((change) => change.character === null || change.character === c))
  const waits = !isCapped || (curve?.atTop === 'bank' && capsOnlyRise(game, scope, c))
  return waits && curve?.remainder !== 'clear' && curve?.levelsPerGain !== 'one' && (joins === null || joinsFirst(game, joins, tally))
}

/** Whether every cap that can be set is alike to all that asks for a level, and no lower than the one at the start. */
function capsOnlyRise(game: Game, scope: Scope, c: number): boolean {
  const asked = Math.max(0, ...inScope(game, scope).filter((item) => item.requires.reads.characters.includes(c)).map((item) => levelAsked(game, item)))
  const caps = inScope(game, scope).flatMap((item) => item.caps.filter(({ character }) => character === null || character === c).map(({ level }) => Math.min(level, asked)))
  return caps.every((cap) => cap === caps[0] && cap >= Math.min(game.characters[c]!.cap ?? Infinity, asked))
}

/** Whether nothing of a tally can be had before a place has been entered, by whatever way. */
function joinsFirst(game: Game, place: number, tally: number): boolean {
  const before = new Set(game.start === place ? [] : [game.start])
  for (const p of before) for (const { to } of game.places[p]!.ways) if (to !== place) before.add(to)
  const gives = ({ yields }: GameItem) => yields.some((y) => y.tally === tally)
  const items = [...before].flatMap((p) => game.places[p]!.contents.map(({ source, gate }): GameItem => (source !== null ? game.sources[source]! : game.gates[gate!]!)))
  const others = [...game.anywhere.map((g) => game.gates[g]!), ...game.characters.flatMap(({ rewards }) => rewards)]
  return ![...items].some(gives) && !others.some(({ yields }) => yields.some((y) => y.tally === tally))
}

type Reads = Record<'tallies' | 'characters' | 'gates' | 'places' | 'sources', Set<number>>

/** Everything that is read by a requirement which more of it could make false. */
function touchyReads(game: Game, scope: Scope): Reads {
  const touchy: Reads = { tallies: new Set(), characters: new Set(), gates: new Set(), places: new Set(), sources: new Set() }
  for (const { requires } of inScope(game, scope)) {
    if (rises(requires)) continue
    for (const kind of Object.keys(touchy) as (keyof Reads)[]) for (const i of requires.reads[kind]) touchy[kind].add(i)
    // Who levels up raises the level that is read, by the tally that is gained.
    for (const c of requires.reads.characters) if (game.characters[c]) touchy.tallies.add(game.characters[c].tally)
  }
  return touchy
}

function inScope(game: Game, scope: Scope): GameItem[] {
  return [...game.sources.filter((_, s) => scope.sources[s]), ...game.gates.filter((_, g) => scope.gates[g])]
}

/** Tallies that something uses up or takes away. */
function spentTallies(game: Game, scope: Scope): Set<number> {
  const costs = [...game.sources.filter((_, s) => scope.sources[s]).flatMap((s) => s.takes), ...game.gates.filter((_, g) => scope.gates[g]).flatMap((g) => g.costs)]
  const lost = game.tallies.flatMap(({ resets }, tally) => (resets === 'place' ? [{ tally }] : []))
  return new Set([...penalisedTallies(game, scope), ...[...costs, ...lost].map(({ tally }) => tally)])
}

/** Tallies that a yield takes from: whoever holds less when it does may lose less, for no tally falls below its least. */
function penalisedTallies(game: Game, scope: Scope): Set<number> {
  return new Set(inScope(game, scope).flatMap((item) => item.yields.filter((y) => y.min < 0).map(({ tally }) => tally)))
}

/** Whether a requirement that holds once holds for good. */
function isLasting(game: Game, { requires }: GameItem, spent: ReadonlySet<number>): boolean {
  const { tallies, characters, gates } = requires.reads
  const isLost = (t: number) => t >= 0 && game.tallies[t]!.resets === 'place'
  return rises(requires) && tallies.every((t) => !spent.has(t)) && characters.every((c) => !isLost(game.characters[c]?.tally ?? -1)) && gates.every((g) => !game.gates[g]!.live)
}

function canRoam(game: Game, scope: Scope, touchy: Reads, spent: ReadonlySet<number>): boolean {
  return (
    game.characters.every(({ joins, tally }, c) => joins === null || !scope.characters[c] || (!touchy.characters.has(c) && joinsFirst(game, joins, tally))) &&
    touchy.places.size === 0 &&
    game.gates.every((gate) => !gate.live || isLasting(game, gate, spent))
  )
}

function sinksOf(game: Game, scope: Scope, { touchy, spent, penalised }: { touchy: Reads; spent: ReadonlySet<number>; penalised: ReadonlySet<number> }): number[] {
  const asked = new Set(inScope(game, scope).flatMap((item) => item.requires.reads.gates))
  return game.gates.flatMap((gate, g) => {
    const gives = gate.yields.some((y) => scope.tallies[y.tally]) || gate.caps.length > 0
    const isSink = scope.gates[g] && !gate.live && gate.guards === null && !gives && gate.costs.length > 0 && !asked.has(g) && !scope.goal.gates.includes(g)
    return isSink && isLasting(game, gate, spent) && gate.costs.every(({ tally }) => !touchy.tallies.has(tally) && !penalised.has(tally) && game.tallies[tally]!.resets !== 'place') ? [g] : []
  })
}
