import { remembered } from '../../plan/remembered.ts'
import type { Game, GameGate, GameItem, GameSource } from '../../rules/game.ts'
import { askersOfUnits, levelAsked, unitsAsked } from './asked.ts'
import { type EnoughOfAll, enoughOf } from './enough.ts'

/** What can matter to whether a game can be won: everything else is left out of the search (docs/checks.md 3). */
export interface Scope {
  tallies: boolean[]
  characters: boolean[]
  gates: boolean[]
  sources: boolean[]
  places: boolean[]
  /** By tally, in units: amounts above it are alike. */
  enough: readonly number[]
  /** The same in other ways of looking at it. */
  enoughOfAll: EnoughOfAll
  /** By source: units taken beyond it are alike; and those that are alike to all that asks how many were taken. */
  enoughUnits: number[]
  askedUnits: number[]
  /** By character: a level that is as good as any above it; Infinity where that cannot be told. */
  enoughLevel: number[]
  goal: { places: number[]; gates: number[] }
}

const known = new WeakMap<Game, Scope>()

export function scopeOf(game: Game): Readonly<Scope> {
  return remembered(known, game, () => makeScope(game))
}

function makeScope(game: Game): Scope {
  const goalPlaces = game.places.flatMap((place, p) => (place.goal ? [p] : []))
  const goalGates = goalPlaces.length ? [] : game.gates.flatMap((gate, g) => (gate.main && !gate.live ? [g] : []))
  const scope: Scope = {
    tallies: game.tallies.map(() => false),
    characters: game.characters.map(() => false),
    gates: game.gates.map(() => false),
    sources: game.sources.map(() => false),
    places: game.places.map((place) => place.goal),
    enough: [],
    enoughOfAll: { amounts: [], exact: [], once: [], supposed: null, grains: new Map(), isMoreNoHarm: true },
    enoughUnits: [],
    askedUnits: [],
    enoughLevel: [],
    goal: { places: goalPlaces, gates: goalGates },
  }
  for (const g of goalGates) addGate(game, scope, g)
  game.gates.forEach((gate, g) => gate.guards !== null && addGate(game, scope, g))
  while (grow(game, scope));
  const items = [...game.gates.filter((_, g) => scope.gates[g]), ...game.sources.filter((_, s) => scope.sources[s])]
  const asking = askersOfUnits(game)
  scope.askedUnits = game.sources.map((_, s) => unitsAsked(game, s, asking.get(s) ?? []))
  scope.enoughUnits = game.sources.map((source, s) => Math.max(source.count, scope.askedUnits[s]!))
  scope.enoughOfAll = enoughOf(game, scope, items)
  scope.enough = scope.enoughOfAll.amounts
  scope.enoughLevel = game.characters.map((_, c) => enoughLevelOf(game, scope, items, c))
  return scope
}

function addGate(game: Game, scope: Scope, g: number): boolean {
  if (scope.gates[g]) return false
  scope.gates[g] = true
  addNeeds(scope, game.gates[g]!)
  for (const cost of game.gates[g]!.costs) scope.tallies[cost.tally] = true
  return true
}

function addNeeds(scope: Scope, { requires: { reads } }: GameItem): void {
  for (const t of reads.tallies) scope.tallies[t] = true
  for (const c of reads.characters) scope.characters[c] = true
  for (const p of reads.places) scope.places[p] = true
}

/** Adds what gives, takes or changes anything that matters already. */
function grow(game: Game, scope: Scope): boolean {
  let grown = false
  const set = (flags: boolean[], i: number) => {
    if (i < 0 || flags[i]) return
    flags[i] = true
    grown = true
  }
  game.characters.forEach((character, c) => {
    if (scope.characters[c]) set(scope.tallies, character.tally)
    if (character.rewards.some((reward) => reward.yields.some((y) => scope.tallies[y.tally]))) set(scope.characters, c)
  })
  const read = { gates: new Set<number>(), sources: new Set<number>() }
  const inScope = [...game.gates.filter((_, g) => scope.gates[g]), ...game.sources.filter((_, s) => scope.sources[s])]
  for (const item of inScope) {
    for (const g of item.requires.reads.gates) read.gates.add(g)
    for (const s of item.requires.reads.sources) read.sources.add(s)
  }
  game.gates.forEach((gate, g) => {
    if (read.gates.has(g) || touches(scope, gate, gate.costs)) grown = addGate(game, scope, g) || grown
  })
  game.sources.forEach((source, s) => {
    if (scope.sources[s] || !(read.sources.has(s) || touches(scope, source, source.takes))) return
    set(scope.sources, s)
    addNeeds(scope, source)
    for (const cost of source.takes) set(scope.tallies, cost.tally)
  })
  return grown
}

function touches(scope: Scope, item: GameGate | GameSource, costs: GameSource['takes']): boolean {
  return (
    item.yields.some((y) => scope.tallies[y.tally]) ||
    costs.some((cost) => scope.tallies[cost.tally]) ||
    item.caps.some((cap) => (cap.character === null ? scope.characters.some(Boolean) : scope.characters[cap.character]))
  )
}

function enoughLevelOf(game: Game, scope: Scope, items: readonly GameItem[], c: number): number {
  // What is given for levels further up, or for a level lost and won again, could matter still.
  if (game.characters[c]!.rewards.some(({ yields }) => yields.some((y) => scope.tallies[y.tally]))) return Infinity
  return Math.max(game.characters[c]!.startLevel + 1, ...items.filter((item) => item.requires.reads.characters.includes(c)).map((item) => levelAsked(game, item)))
}
