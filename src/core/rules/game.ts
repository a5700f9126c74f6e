import type { Evaluate } from '../language/evaluate.ts'
import type { Comparison } from '../language/operators.ts'
import type { Direction } from '../language/rising.ts'
import type { Node } from '../language/parse.ts'
import type { Character } from '../plan/character.ts'
import type { Curve } from '../plan/curve.ts'
import type { Place } from '../plan/place.ts'
import type { Tally } from '../plan/tally.ts'
import type { State } from './state.ts'

/**
 * A plan made ready to be played: everything by dense integer index, amounts in whole units of 1/10,000,
 * so that they add exactly. Made by compile.ts.
 */
export interface Game {
  id: string
  start: number
  tallies: GameTally[]
  characters: GameCharacter[]
  places: GamePlace[]
  passages: GamePassage[]
  sources: GameSource[]
  gates: GameGate[]
  /** Gates that stand in no place, in their order. */
  anywhere: number[]
  /** Gates that are in the plan no more, and keep their number while other things are edited: they stand nowhere, and nobody asks for them. */
  gone: ReadonlySet<number>
  routes: GameRoute[]
  profiles: GameProfile[]
  columns: SourceColumns
}

/**
 * A game with other parts. Written out: what is spread out of another has a shape that changes with how warm the code is that spreads it,
 * and each time all that reads games is compiled anew.
 */
export function changedGame(game: Game, parts: Partial<Game>): Game {
  const { id, start, tallies, characters, places, passages, sources, gates, anywhere, gone, routes, profiles, columns } = { ...game, ...parts }
  return { id, start, tallies, characters, places, passages, sources, gates, anywhere, gone, routes, profiles, columns }
}

/** What walks ask of every source at every passing, side by side in memory: by index of the source. */
export interface SourceColumns {
  count: Int32Array
  main: Uint8Array
  atOnce: Uint8Array
  minutes: Float64Array
  /** The yields of source s stand from yieldsFrom[s] to yieldsFrom[s + 1]. */
  yieldsFrom: Int32Array
  yieldTally: Int32Array
  yieldMin: Float64Array
  yieldMax: Float64Array
}

export interface GameTally {
  key: string
  id: string
  name: string
  kind: Tally['kind']
  start: number
  min: number
  max: number
  resets: Tally['resets']
  saved: boolean
  /** Characters that listen to it, in plan order. */
  listeners: number[]
}

export interface GameCurve {
  id: string
  firstLevel: number
  maxLevel: number
  counts: Curve['counts']
  levelUpAt: Curve['levelUpAt']
  remainder: Curve['remainder']
  levelsPerGain: Curve['levelsPerGain']
  atTop: Curve['atTop']
  /** value(L) at index L − firstLevel, in units times `grain`. */
  values: number[]
  /** How many parts of a unit XP is counted in: 1, or more where values have over four decimals. */
  grain: number
}

export interface GameCharacter {
  key: string
  id: string
  name: string
  tally: number
  /** null: its curve is in error, and it stays at its start level. */
  curve: GameCurve | null
  startLevel: number
  joins: number | null
  cap: number | null
  rewards: { level: number | 'every'; yields: GameYield[] }[]
  forms: Character['forms']
}

export interface GameYield {
  tally: number
  min: number
  max: number
}

export interface GameCost {
  tally: number
  amount: number
}

/** `character` null: all of them. */
export interface GameCap {
  character: number | null
  level: number
}

export interface GameRequirement {
  text: string
  /** null: empty, always holds. */
  node: Node | null
  holds: Evaluate<State, boolean>
  /** The same at its kindest (docs/checks.md 2): whatever in it is not rising holds, who has joined is chosen for the best. */
  kindest: Evaluate<State, boolean>
  direction: Direction
  comparisons: GameComparison[]
  /** Its parts, joined by `and`, `or` and `at_least`, that compare no numbers. They are made ready when they are first asked for. */
  truths: () => readonly GameTruth[]
  reads: Reads
}

/** A part of a requirement that is true or not: a name, or what is open, visited or taken. */
export interface GameTruth {
  text: string
  holds: Evaluate<State, boolean>
}

/** What a requirement reads, by index. */
export interface Reads {
  tallies: number[]
  characters: number[]
  gates: number[]
  places: number[]
  sources: number[]
}

/** One numeric comparison of a requirement, its sides ready to be evaluated. */
export interface GameComparison {
  text: string
  op: Comparison
  left: Evaluate<State>
  right: Evaluate<State>
  leftNode: Node
  rightNode: Node
  /** The side without names, or null where both vary. */
  constant: 'left' | 'right' | null
}

export type GameError = { message: string; column?: number }

export interface GameItem {
  key: string
  id: string
  name: string
  /** Index of the place in which it stands; null: anywhere. */
  place: number | null
  main: boolean
  minutes: number
  requires: GameRequirement
  yields: GameYield[]
  caps: GameCap[]
  /** Why it counts as closed or not to be taken. */
  error: GameError | null
}

export interface GameSource extends GameItem {
  place: number
  count: number
  takes: GameCost[]
  respawns: boolean
  /** Several units at once do what one after another do: nothing is asked or paid for each, and no level-up falls between them. */
  atOnce: boolean
}

export interface GameGate extends GameItem {
  guards: { passage: number } | { place: number } | null
  costs: GameCost[]
  live: boolean
  due: 'meeting' | 'stop' | 'route'
  lockedText: string
}

export interface GamePlace {
  key: string
  id: string
  name: string
  kind: Place['kind']
  goal: boolean
  minutes: number
  contents: { source: number | null; gate: number | null }[]
  /** The same, side by side in memory: the index of a source, or −1 − the index of a gate. */
  items: Int32Array
  /** Gates that guard the place. */
  guards: number[]
  /** Passages by which it can be left, and where they lead. */
  ways: { passage: number; to: number }[]
  /** Places from which a passage leads here. */
  waysIn: number[]
}

/** A place with other parts, written out as changedGame does. */
export function changedPlace(place: GamePlace, parts: Partial<GamePlace>): GamePlace {
  const { key, id, name, kind, goal, minutes, contents, items, guards, ways, waysIn } = { ...place, ...parts }
  return { key, id, name, kind, goal, minutes, contents, items, guards, ways, waysIn }
}

export interface GamePassage {
  key: string
  id: string
  from: number
  to: number
  twoWay: boolean
  guards: number[]
}

export interface GameRoute {
  key: string
  id: string
  name: string
  stops: number[]
  /** The passage from each stop to the next; null where none joins them. */
  steps: (number | null)[]
}

export interface GameProfile {
  key: string
  id: string
  name: string
  main: number
  side: number
  buysAll: boolean
  retries: number
}

