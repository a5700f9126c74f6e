import type { Game } from './game.ts'

/** No cap set: above every level there can be. */
export const noCap = 1_000_000

/** Everything that can change while a plan is played. Amounts in units, XP in units times the curve's grain. */
export interface State {
  place: number
  tallies: Float64Array
  level: Int32Array
  xp: Float64Array
  cap: Int32Array
  /** By character: 1 when present. */
  present: Uint8Array
  opened: Uint8Array
  visited: Uint8Array
  taken: Int32Array
  /** All these numbers, one after another in memory; and those of one size. */
  bytes: Uint8Array<ArrayBuffer>
  reals: Float64Array
  wholes: Int32Array
  flags: Uint8Array
}

interface Sizes {
  tallies: number
  characters: number
  gates: number
  places: number
  sources: number
}

/** A state whose numbers stand in a buffer; absent: all are 0. */
function stateOn({ tallies, characters, gates, places, sources }: Sizes, place: number, buffer?: ArrayBuffer): State {
  const wholes = 8 * (tallies + characters)
  const flags = wholes + 4 * (2 * characters + sources)
  const end = flags + characters + gates + places
  const on = buffer ?? new ArrayBuffer(end)
  return {
    place,
    tallies: new Float64Array(on, 0, tallies),
    xp: new Float64Array(on, 8 * tallies, characters),
    level: new Int32Array(on, wholes, characters),
    cap: new Int32Array(on, wholes + 4 * characters, characters),
    taken: new Int32Array(on, wholes + 8 * characters, sources),
    present: new Uint8Array(on, flags, characters),
    opened: new Uint8Array(on, flags + characters, gates),
    visited: new Uint8Array(on, flags + characters + gates, places),
    bytes: new Uint8Array(on),
    reals: new Float64Array(on, 0, tallies + characters),
    wholes: new Int32Array(on, wholes, 2 * characters + sources),
    flags: new Uint8Array(on, flags, end - flags),
  }
}

/** A new game before its first place is entered (docs/model.md 8). */
export function newState(game: Game): State {
  const { tallies, characters, gates, places, sources } = game
  const state = stateOn({ tallies: tallies.length, characters: characters.length, gates: gates.length, places: places.length, sources: sources.length }, -1)
  tallies.forEach(({ start }, t) => (state.tallies[t] = start))
  characters.forEach(({ cap, joins }, c) => {
    state.cap[c] = cap ?? noCap
    state.present[c] = joins === null ? 1 : 0
    toStartLevel(game, state, c)
  })
  return state
}

export function cloneState({ place, tallies, level, opened, visited, taken, bytes }: State): State {
  const sizes = { tallies: tallies.length, characters: level.length, gates: opened.length, places: visited.length, sources: taken.length }
  return stateOn(sizes, place, bytes.slice().buffer)
}

const parts = ['tallies', 'xp', 'level', 'cap', 'taken', 'present', 'opened', 'visited'] as const

/** The same state in a game that may have more items behind those that it was made for. */
export function stateIn(game: Game, state: State): State {
  const next = newState(game)
  next.place = state.place
  for (const part of parts) next[part].set(state[part])
  return next
}

/** Makes one state, made for the same game, equal to another. */
export function copyState(from: State, to: State): void {
  to.place = from.place
  to.bytes.set(from.bytes)
}

/** Takes a character's level and XP back to their start. */
export function toStartLevel(game: Game, state: State, c: number): void {
  state.level[c] = game.characters[c]!.startLevel
  state.xp[c] = startXpOf(game, c)
}

/** The XP with which a character begins: 0, or where a curve counts in total that of the level before. */
export function startXpOf(game: Game, c: number): number {
  const { curve, startLevel } = game.characters[c]!
  const countsTotal = curve !== null && curve.counts === 'total' && startLevel > curve.firstLevel
  return countsTotal ? curve.values[startLevel - 1 - curve.firstLevel]! : 0
}

/** The smaller of the curve's last level and the cap in force. */
export function limitOf(game: Game, state: State, c: number): number {
  const curve = game.characters[c]!.curve
  return Math.min(curve ? curve.maxLevel : noCap, state.cap[c]!)
}
