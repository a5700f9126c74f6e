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
}

/** A new game before its first place is entered (docs/model.md 8). */
export function newState(game: Game): State {
  const state: State = {
    place: -1,
    tallies: Float64Array.from(game.tallies, (tally) => tally.start),
    level: new Int32Array(game.characters.length),
    xp: new Float64Array(game.characters.length),
    cap: Int32Array.from(game.characters, (character) => character.cap ?? noCap),
    present: Uint8Array.from(game.characters, (character) => (character.joins === null ? 1 : 0)),
    opened: new Uint8Array(game.gates.length),
    visited: new Uint8Array(game.places.length),
    taken: new Int32Array(game.sources.length),
  }
  game.characters.forEach((_, c) => toStartLevel(game, state, c))
  return state
}

export function cloneState(state: State): State {
  return {
    place: state.place,
    tallies: state.tallies.slice(),
    level: state.level.slice(),
    xp: state.xp.slice(),
    cap: state.cap.slice(),
    present: state.present.slice(),
    opened: state.opened.slice(),
    visited: state.visited.slice(),
    taken: state.taken.slice(),
  }
}

/** Makes one state, made for the same game, equal to another. */
export function copyState(from: State, to: State): void {
  to.place = from.place
  to.tallies.set(from.tallies)
  to.level.set(from.level)
  to.xp.set(from.xp)
  to.cap.set(from.cap)
  to.present.set(from.present)
  to.opened.set(from.opened)
  to.visited.set(from.visited)
  to.taken.set(from.taken)
}

/** Takes a character's level and XP back to their start. */
export function toStartLevel(game: Game, state: State, c: number): void {
  const { curve, startLevel } = game.characters[c]!
  state.level[c] = startLevel
  const countsTotal = curve !== null && curve.counts === 'total' && startLevel > curve.firstLevel
  state.xp[c] = countsTotal ? curve.values[startLevel - 1 - curve.firstLevel]! : 0
}

/** The smaller of the curve's last level and the cap in force. */
export function limitOf(game: Game, state: State, c: number): number {
  const curve = game.characters[c]!.curve
  return Math.min(curve ? curve.maxLevel : noCap, state.cap[c]!)
}
