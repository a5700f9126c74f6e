import { constantValue } from '../../language/evaluate.ts'
import { allNodes, isComparison, type Node } from '../../language/parse.ts'
import { remembered } from '../../plan/remembered.ts'
import { toUnits } from '../../rules/compile.ts'
import type { Game, GameGate, GameItem, GameSource } from '../../rules/game.ts'

/** What can matter to whether a game can be won: everything else is left out of the search (docs/checks.md 3). */
export interface Scope {
  tallies: boolean[]
  characters: boolean[]
  gates: boolean[]
  sources: boolean[]
  places: boolean[]
  /** By tally, in units: amounts above it are alike. */
  enough: number[]
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
    enoughUnits: [],
    askedUnits: [],
    enoughLevel: [],
    goal: { places: goalPlaces, gates: goalGates },
  }
  for (const g of goalGates) addGate(game, scope, g)
  game.gates.forEach((gate, g) => gate.guards !== null && addGate(game, scope, g))
  while (grow(game, scope));
  const items = [...game.gates.filter((_, g) => scope.gates[g]), ...game.sources.filter((_, s) => scope.sources[s])]
  const lost = lostOf(game, items)
  scope.enough = game.tallies.map((_, t) => enoughOf(game, items, t, lost[t]!))
  const asking = askersOfUnits(game)
  scope.askedUnits = game.sources.map((_, s) => unitsAsked(game, s, asking.get(s) ?? []))
  scope.enoughUnits = game.sources.map((source, s) => Math.max(source.count, scope.askedUnits[s]!))
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

/** The greatest number in any requirement, and above it all that can ever be spent or lost of the tally. */
function enoughOf(game: Game, items: readonly GameItem[], t: number, lost: number): number {
  const isMeant = (node: Node) => node.type === 'name' && node.name === game.tallies[t]!.id
  const greatest = items.reduce((most, item) => (item.requires.reads.tallies.includes(t) ? Math.max(most, greatestAsked(item, isMeant)) : most), 0)
  const { min, start } = game.tallies[t]!
  return Math.max(start, (min === -Infinity ? 0 : min) + greatest + lost + toUnits(1))
}

/** By tally what these can take of it in all, without repeats. */
function lostOf(game: Game, items: readonly (GameSource | GameGate)[]): Float64Array {
  const lost = new Float64Array(game.tallies.length)
  for (const item of items) {
    const [costs, times] = 'takes' in item ? [item.takes, item.count] : [item.costs, 1]
    for (const { tally, amount } of costs) lost[tally]! += amount * times
    for (const { tally, min } of item.yields) if (min < 0) lost[tally]! -= min * times
  }
  return lost
}

/** Beyond every amount: a comparison that weighs things against each other is bounded by none. */
const unbounded = 1e15

/** The greatest number that a requirement asks of what `isMeant` finds in it; above it all amounts are alike to it. */
function greatestAsked({ requires }: GameItem, isMeant: (node: Node) => boolean): number {
  if (!requires.node) return 0
  const comparisons = [...allNodes(requires.node)].filter(isComparison)
  const asked = comparisons.filter((comparison) => [...allNodes(comparison)].some(isMeant)).map((comparison) => {
    const [side, number] = constantValue(comparison.right) !== null ? [comparison.left, constantValue(comparison.right)] : [comparison.right, constantValue(comparison.left)]
    return number === null || !isPlainSum(side) ? unbounded : toUnits(Math.min(1e10, Math.abs(number)))
  })
  const inComparisons = comparisons.flatMap((comparison) => [...allNodes(comparison)])
  const bare = [...allNodes(requires.node)].filter((node) => isMeant(node) && !inComparisons.includes(node))
  // Standing alone it is a truth, for which anything is enough, unless it is reckoned with.
  const isReckoned = bare.length > 0 && [...allNodes(requires.node)].some((node) => node.type === 'binary' && '+-*/%^'.includes(node.op) && [...allNodes(node)].some((part) => bare.includes(part)))
  return Math.max(0, ...asked, isReckoned ? unbounded : 0)
}

/** Names and functions of names added up, nothing taken off: beyond the number it is held against, each is enough alone. */
function isPlainSum(node: Node): boolean {
  if (node.type === 'binary') return node.op === '+' && isPlainSum(node.left) && isPlainSum(node.right)
  return node.type === 'name' || node.type === 'number' || (node.type === 'call' && node.args.every((arg) => arg.type === 'name'))
}

/** By source, what asks how many units of it were taken. */
function askersOfUnits(game: Game): Map<number, GameItem[]> {
  const asking = new Map<number, GameItem[]>()
  for (const item of [...game.gates, ...game.sources]) {
    for (const s of new Set(item.requires.reads.sources)) asking.set(s, [...(asking.get(s) ?? []), item])
  }
  return asking
}

function unitsAsked(game: Game, s: number, asking: readonly GameItem[]): number {
  const isMeant = (node: Node) => node.type === 'call' && node.name === 'taken' && node.args[0]?.type === 'name' && node.args[0].name === game.sources[s]!.id
  const most = Math.max(0, ...asking.map((item) => greatestAsked(item, isMeant)))
  return asking.length === 0 ? 0 : Math.min(1e6, Math.ceil(most / toUnits(1)) + 1)
}

function enoughLevelOf(game: Game, scope: Scope, items: readonly GameItem[], c: number): number {
  // What is given for levels further up, or for a level lost and won again, could matter still.
  if (game.characters[c]!.rewards.some(({ yields }) => yields.some((y) => scope.tallies[y.tally]))) return Infinity
  return Math.max(game.characters[c]!.startLevel + 1, ...items.filter((item) => item.requires.reads.characters.includes(c)).map(levelAsked))
}

/** The greatest level that a requirement asks of anybody; Infinity where that cannot be told. */
export function levelAsked(item: GameItem): number {
  const names = new Set(['level', 'cap', 'highest', 'lowest', 'average'])
  const most = greatestAsked(item, (node) => (node.type === 'name' || node.type === 'call') && names.has(node.name))
  return most >= unbounded ? Infinity : most / toUnits(1) + 1
}
