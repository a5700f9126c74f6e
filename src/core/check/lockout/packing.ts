import type { Game } from '../../rules/game.ts'
import { noCap, type State } from '../../rules/state.ts'
import type { Scope } from './scope.ts'

/** Past this an amount takes two words. */
const oneWord = 2 ** 31 - 1

interface Field {
  read(state: State): number
  write(state: State, value: number): void
  /** The most that it can be; small ones share a word. */
  most: number
}

/** States as rows of whole words, with nothing in them but what matters: equal rows, equal states, and the other way round. */
export class Packing {
  readonly words: number
  private readonly plain: Field[] = []
  private readonly wide: Field[] = []
  private readonly small: { field: Field; word: number; shift: number; mask: number }[] = []
  private readonly floats = new Float64Array(1)
  private readonly halves = new Int32Array(this.floats.buffer)

  constructor(game: Game, scope: Scope, mostXp: readonly number[]) {
    const small: Field[] = []
    const add = (field: Field) => (field.most < 256 ? small : field.most <= oneWord ? this.plain : this.wide).push(field)
    add({ most: game.places.length, read: (s) => s.place + 1, write: (s, v) => (s.place = v - 1) })
    const flag = (of: (state: State) => Uint8Array, i: number) => add({ most: 1, read: (s) => of(s)[i]!, write: (s, v) => (of(s)[i] = v) })
    scope.tallies.forEach((is, t) => {
      const { min } = game.tallies[t]!
      // What is kept above min takes no sign.
      const base = min === -Infinity ? 0 : min
      const most = min === -Infinity ? Infinity : scope.enough[t]! - base
      if (is) add({ most, read: (s) => s.tallies[t]! - base, write: (s, v) => (s.tallies[t] = v + base) })
    })
    scope.characters.forEach((is, c) => {
      if (!is) return
      add({ most: 999, read: (s) => s.level[c]!, write: (s, v) => (s.level[c] = v) })
      add({ most: mostXp[c]!, read: (s) => s.xp[c]!, write: (s, v) => (s.xp[c] = v) })
      add({ most: noCap, read: (s) => s.cap[c]!, write: (s, v) => (s.cap[c] = v) })
      flag((s) => s.present, c)
    })
    scope.gates.forEach((is, g) => is && flag((s) => s.opened, g))
    scope.places.forEach((is, p) => is && flag((s) => s.visited, p))
    scope.sources.forEach((is, s) => {
      if (is && scope.enoughUnits[s]! > 0) add({ most: scope.enoughUnits[s]!, read: (state) => state.taken[s]!, write: (state, v) => (state.taken[s] = v) })
    })
    this.words = this.plain.length + 2 * this.wide.length + this.place(small)
  }

  /** Lays small fields side by side; how many words they take. */
  private place(small: readonly Field[]): number {
    const first = this.plain.length + 2 * this.wide.length
    let [word, shift] = [first, 0]
    for (const field of small) {
      const bits = 32 - Math.clz32(field.most)
      if (shift + bits > 32) [word, shift] = [word + 1, 0]
      this.small.push({ field, word, shift, mask: bits === 32 ? -1 : (1 << bits) - 1 })
      shift += bits
    }
    return word + 1 - first
  }

  pack(state: State, rows: Int32Array, at: number): void {
    let i = at
    for (const field of this.plain) rows[i++] = field.read(state)
    for (const field of this.wide) {
      this.floats[0] = field.read(state)
      rows[i++] = this.halves[0]!
      rows[i++] = this.halves[1]!
    }
    rows.fill(0, i, at + this.words)
    for (const { field, word, shift } of this.small) rows[at + word]! |= field.read(state) << shift
  }

  unpack(rows: Int32Array, at: number, state: State): void {
    let i = at
    for (const field of this.plain) field.write(state, rows[i++]!)
    for (const field of this.wide) {
      this.halves[0] = rows[i++]!
      this.halves[1] = rows[i++]!
      field.write(state, this.floats[0]!)
    }
    for (const { field, word, shift, mask } of this.small) field.write(state, (rows[at + word]! >>> shift) & mask)
  }
}
