import type { Game } from '../../rules/game.ts'
import { newState, noCap, type State } from '../../rules/state.ts'
import type { Scope } from './scope.ts'

/** Past this an amount takes two words. */
const oneWord = 2 ** 31 - 1

/** How a number of a state stands in a row: a flag or small number in some bits, a whole or real one in a word, a wide one in two. */
const flag = 0
const small = 1
const whole = 2
const real = 3
const wide = 4

/** Some numbers of a state, side by side: how each stands in a row, where it is among the state's flags, wholes or reals, and where in the row. */
export interface Fields {
  how: Uint8Array
  index: Int32Array
  word: Int32Array
  shift: Int32Array
  /** Of a small number the bits that it takes, not shifted. */
  mask: Int32Array
  /** What is taken off an amount. */
  base: Float64Array
}

interface Field {
  how: number
  index: number
  word: number
  shift: number
  mask: number
  base: number
}

function fieldsOf(fields: readonly Field[]): Fields {
  const column = (part: 'index' | 'word' | 'shift' | 'mask') => Int32Array.from(fields, (field) => field[part])
  return { how: Uint8Array.from(fields, ({ how }) => how), index: column('index'), word: column('word'), shift: column('shift'), mask: column('mask'), base: Float64Array.from(fields, ({ base }) => base) }
}

/** States as rows of whole words, with nothing in them but what matters: equal rows, equal states, and the other way round. */
export class Packing {
  readonly words: number
  private readonly fields: Field[] = []
  private readonly all: Fields
  /** The same by the words that they stand in; those of word w stand from first[w] to first[w + 1]. */
  private readonly byWord: Fields
  private readonly first: Int32Array
  private readonly floats = new Float64Array(1)
  private readonly halves = new Int32Array(this.floats.buffer)
  /** The place stands in the first word; small numbers share words from the second on. */
  private word = 1
  private shift = 0
  private nextWord = 2
  /** One of the game's states, to find where their numbers stand, and its fields by list and index. */
  private readonly some: State
  private readonly byList = new Map<ArrayLike<number>, (Field | undefined)[]>()

  constructor(game: Game, scope: Scope, mostXp: readonly number[]) {
    const some = (this.some = newState(game))
    const isMin = (t: number) => game.tallies[t]!.min !== -Infinity
    const base = (t: number) => (isMin(t) ? game.tallies[t]!.min : 0)
    this.add(some.tallies, scope.tallies, (t) => (isMin(t) ? scope.enough[t]! - base(t) : Infinity), base)
    this.add(some.level, scope.characters, () => 999)
    this.add(some.xp, scope.characters, (c) => mostXp[c]!)
    this.add(some.cap, scope.characters, () => noCap)
    this.add(some.present, scope.characters, () => 1)
    this.add(some.opened, scope.gates, () => 1)
    this.add(some.visited, scope.places, () => 1)
    this.add(some.taken, scope.sources.map((is, s) => is && scope.enoughUnits[s]! > 0), (s) => scope.enoughUnits[s]!)
    this.words = this.nextWord
    this.all = fieldsOf([...this.fields].sort((a, b) => a.how - b.how))
    const inWords = this.fields.flatMap((field) => (field.how === wide ? [0, 1] : [0]).map((n) => ({ field, word: field.word + n }))).sort((a, b) => a.word - b.word)
    this.byWord = fieldsOf(inWords.map(({ field }) => field))
    this.first = new Int32Array(this.words + 1)
    for (const { word } of inWords) this.first[word + 1]! += 1
    for (let w = 0; w < this.words; w++) this.first[w + 1]! += this.first[w]!
  }

  /** Where these stand; what is not told apart by rows is left out. */
  fieldsOf(wanted: Record<'tallies' | 'taken' | 'opened', readonly number[]>): Fields {
    const found = Object.entries(wanted).flatMap(([name, indices]) => indices.map((i) => this.byList.get(this.some[name as keyof typeof wanted])![i]))
    return fieldsOf(found.filter((field) => field !== undefined))
  }

  private add(list: State['tallies'] | State['level'] | State['flags'], matters: readonly boolean[], most: (i: number) => number, base: (i: number) => number = () => 0): void {
    const { reals, wholes, flags } = this.some
    const kind = list instanceof Float64Array ? { plain: real, offset: (list.byteOffset - reals.byteOffset) / 8 } : list instanceof Int32Array ? { plain: whole, offset: (list.byteOffset - wholes.byteOffset) / 4 } : { plain: flag, offset: list.byteOffset - flags.byteOffset }
    const fieldAt = (at: number): Field => {
      const one = { index: kind.offset + at, shift: 0, mask: 0, base: base(at) }
      if (kind.plain !== real && most(at) < 256) return { ...one, how: kind.plain === flag ? flag : small, ...this.bitsFor(32 - Math.clz32(most(at))) }
      if (most(at) <= oneWord) return { ...one, how: kind.plain, word: this.nextWord++ }
      return { ...one, how: wide, base: 0, word: (this.nextWord += 2) - 2 }
    }
    const found = matters.map((is, at) => (is ? fieldAt(at) : undefined))
    this.byList.set(list, found)
    this.fields.push(...found.filter((field) => field !== undefined))
  }

  private bitsFor(bits: number): { word: number; shift: number; mask: number } {
    if (this.shift + bits > 32) {
      this.word = this.nextWord++
      this.shift = 0
    }
    this.shift += bits
    return { word: this.word, shift: this.shift - bits, mask: 2 ** bits - 1 }
  }

  pack(state: State, rows: Int32Array, at: number): void {
    rows.fill(0, at, at + this.words)
    this.repack(state, this.all, rows, at)
  }

  /** Writes the place and these numbers anew into the row of a state that is else the same. */
  repack({ place, flags, wholes, reals }: State, { how, index, word, shift, mask, base }: Fields, rows: Int32Array, at: number): void {
    rows[at] = place + 1
    for (let i = 0; i < how.length; i++) {
      const w = at + word[i]!
      const n = index[i]!
      switch (how[i]) {
        case flag:
          rows[w] = (rows[w]! & ~(1 << shift[i]!)) | (flags[n]! << shift[i]!)
          break
        case small:
          rows[w] = (rows[w]! & ~(mask[i]! << shift[i]!)) | (wholes[n]! << shift[i]!)
          break
        case whole:
          rows[w] = wholes[n]!
          break
        case real:
          rows[w] = reals[n]! - base[i]!
          break
        case wide:
          this.floats[0] = reals[n]!
          rows[w] = this.halves[0]!
          rows[w + 1] = this.halves[1]!
      }
    }
  }

  /** `known`: the row that the state holds, which is the new one after; only words in which they differ are read. */
  unpack(rows: Int32Array, at: number, state: State, known: Int32Array): void {
    state.place = rows[at]! - 1
    for (let w = 1; w < this.words; w++) {
      if (rows[at + w] === known[w]) continue
      known[w] = rows[at + w]!
      this.read(rows, at, w, state)
    }
  }

  private read(rows: Int32Array, at: number, w: number, { flags, wholes, reals }: State): void {
    const { how, index, word, shift, mask, base } = this.byWord
    const bits = rows[at + w]!
    for (let i = this.first[w]!; i < this.first[w + 1]!; i++) {
      const n = index[i]!
      switch (how[i]) {
        case flag:
          flags[n] = (bits >>> shift[i]!) & 1
          break
        case small:
          wholes[n] = (bits >>> shift[i]!) & mask[i]!
          break
        case whole:
          wholes[n] = bits
          break
        case real:
          reals[n] = bits + base[i]!
          break
        case wide:
          // Of its two words either may be the one that differs.
          this.halves[0] = rows[at + word[i]!]!
          this.halves[1] = rows[at + word[i]! + 1]!
          reals[n] = this.floats[0]!
      }
    }
  }

  /** The row of a state. */
  rowOf(state: State): Int32Array {
    const row = new Int32Array(this.words)
    this.pack(state, row, 0)
    return row
  }
}
