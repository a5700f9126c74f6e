import type { Column, Marks } from '../../language/columns.ts'
import { valueAt, type Standing } from '../../rules/gain.ts'
import { newState, type State } from '../../rules/state.ts'
import type { Game, Reads } from '../../rules/game.ts'
import type { Itinerary } from '../route/itinerary.ts'

/**
 * Many players side by side on one route: what each of them has, gathered by what it is, so that all of them pass an item in
 * one go. Only what is of the portion walked has columns. Whoever comes to something that is not done in one go is played
 * alone, as a State, by the rules themselves.
 */
export class Flock {
  /** By index; amounts in units, XP in units times the curve's grain, as in State. Those not of the portion are empty. */
  readonly tallies: Column[]
  readonly level: Column[]
  readonly xp: Column[]
  readonly cap: Column[]
  readonly present: Column[]
  /**
   * The XP below which a gain is no more than that much more XP: what the next level takes. −Infinity for whom a gain is not
   * that simple: who is at the limit, or not present.
   */
  readonly plainBelow: Column[]
  /** By character: level and xp, as the rules of levels ask for them. */
  readonly standing: Standing[]
  private readonly openedOf: (Marks | undefined)[]
  private readonly takenOf: (Int32Array | undefined)[]
  private readonly alone: State
  private readonly start: State

  constructor(
    readonly game: Game,
    private readonly itinerary: Itinerary,
    readonly size: number,
  ) {
    const columns = (count: number, kept: readonly number[]) => {
      const meant = new Set(kept)
      return Array.from({ length: count }, (_, i) => new Float64Array(meant.has(i) ? size : 0))
    }
    this.tallies = columns(game.tallies.length, itinerary.tallies)
    const ofCharacters = () => columns(game.characters.length, itinerary.characters)
    this.level = ofCharacters()
    this.xp = ofCharacters()
    this.cap = ofCharacters()
    this.present = ofCharacters()
    this.plainBelow = ofCharacters()
    this.standing = game.characters.map((_, c) => ({ level: this.level[c]!, xp: this.xp[c]! }))
    this.openedOf = new Array<Marks | undefined>(game.gates.length)
    this.takenOf = new Array<Int32Array | undefined>(game.sources.length)
    this.alone = newState(game)
    this.start = newState(game)
    this.begin()
  }

  /** Takes all back to a new game. */
  begin(): void {
    const { start, itinerary } = this
    for (const t of itinerary.tallies) this.tallies[t]!.fill(start.tallies[t]!)
    for (const c of itinerary.characters) {
      this.level[c]!.fill(start.level[c]!)
      this.xp[c]!.fill(start.xp[c]!)
      this.cap[c]!.fill(start.cap[c]!)
      this.present[c]!.fill(start.present[c]!)
      this.noteAllPlain(c)
    }
    for (const column of [...this.openedOf, ...this.takenOf]) column?.fill(0)
    this.alone.visited.fill(0)
  }

  /** 1 for whom the gate is open. */
  opened(g: number): Marks {
    return (this.openedOf[g] ??= new Uint8Array(this.size))
  }

  /** Units taken of a source. */
  taken(s: number): Int32Array {
    return (this.takenOf[s] ??= new Int32Array(this.size))
  }

  /** 1 where a place has been visited: all have been at the same places. */
  visited(place: number): number {
    return this.alone.visited[place]!
  }

  /** A character's limit for one of the flock. */
  limit(c: number, i: number): number {
    const curve = this.game.characters[c]!.curve
    const cap = this.cap[c]![i]!
    return curve && curve.maxLevel < cap ? curve.maxLevel : cap
  }

  /**
   * One of them as a State, with all amounts and levels of the portion, and of gates and sources what is in `reads`. It is the
   * same for all: what is done to it comes back by `put`.
   */
  get(i: number, reads: Pick<Reads, 'gates' | 'sources'>): State {
    const { alone } = this
    const { tallies, characters } = this.itinerary
    for (let k = 0; k < tallies.length; k++) alone.tallies[tallies[k]!] = this.tallies[tallies[k]!]![i]!
    for (let k = 0; k < characters.length; k++) {
      const c = characters[k]!
      alone.level[c] = this.level[c]![i]!
      alone.xp[c] = this.xp[c]![i]!
      alone.cap[c] = this.cap[c]![i]!
      alone.present[c] = this.present[c]![i]!
    }
    for (const g of reads.gates) alone.opened[g] = this.opened(g)[i]!
    for (const s of reads.sources) alone.taken[s] = this.taken(s)[i]!
    return alone
  }

  /** Takes the amounts and levels of such a State back. */
  put(i: number): void {
    const { alone } = this
    const { tallies, characters } = this.itinerary
    for (let k = 0; k < tallies.length; k++) this.tallies[tallies[k]!]![i] = alone.tallies[tallies[k]!]!
    for (let k = 0; k < characters.length; k++) {
      const c = characters[k]!
      this.level[c]![i] = alone.level[c]!
      this.xp[c]![i] = alone.xp[c]!
      this.cap[c]![i] = alone.cap[c]!
      this.present[c]![i] = alone.present[c]!
      this.notePlain(c, i)
    }
  }

  private noteAllPlain(c: number): void {
    for (let i = 0; i < this.size; i++) this.notePlain(c, i)
  }

  /** To be told of who is no longer where `plainBelow` was made for. */
  notePlain(c: number, i: number): void {
    const { curve } = this.game.characters[c]!
    const level = this.level[c]![i]!
    const isPlain = curve && this.present[c]![i] && level < this.limit(c, i)
    this.plainBelow[c]![i] = isPlain ? valueAt(curve, level) : -Infinity
  }

  /** All enter a place: what resets there goes back to its start, on a retry too what resets then, and who joins here joins. */
  enter(place: number, isRetried: boolean): void {
    const { game, itinerary } = this
    this.alone.visited[place] = 1
    for (const t of itinerary.tallies) {
      const { resets } = game.tallies[t]!
      if (resets === 'place' || (resets === 'retry' && isRetried)) this.reset(t)
    }
    for (const c of itinerary.characters) if (game.characters[c]!.joins === place) {
      this.present[c]!.fill(1)
      this.noteAllPlain(c)
    }
  }

  private reset(t: number): void {
    const { game, start, itinerary } = this
    this.tallies[t]!.fill(start.tallies[t]!)
    for (const c of game.tallies[t]!.listeners) {
      if (!itinerary.characters.includes(c)) continue
      this.level[c]!.fill(start.level[c]!)
      this.xp[c]!.fill(start.xp[c]!)
      this.noteAllPlain(c)
    }
  }
}

export const nothing: Pick<Reads, 'gates' | 'sources'> = { gates: [], sources: [] }
