import type { Game } from '../../rules/game.ts'
import { noCap, type State } from '../../rules/state.ts'
import type { Scope } from './scope.ts'

/** Past this an amount takes two words. */
const oneWord = 2 ** 31 - 1

type Numbers = Float64Array | Int32Array | Uint8Array

/** Some numbers of a state and where they stand in a row, side by side: the list, its index, the word, and the bits of small ones. */
export interface Fields {
  list: Uint8Array
  index: Int32Array
  word: Int32Array
  /** −1 for a number that has a word of its own, −2 for one that has two. */
  shift: Int32Array
  mask: Int32Array
  base: Float64Array
}

/** What moves change most often, as lists of a state. */
const changing = ['tallies', 'taken', 'opened'] as const
type Changing = (typeof changing)[number]

/** Where numbers of one list of a state stand in a row: entry by entry its index, the word, and for small ones the bits. */
interface Group {
  of(state: State): Numbers
  small: { index: Int32Array; word: Int32Array; shift: Int32Array; mask: Int32Array }
  plain: { index: Int32Array; word: Int32Array; base: Float64Array }
  wide: { index: Int32Array; word: Int32Array }
}

/** The same while it is gathered. */
interface Entries {
  small: { index: number[]; word: number[]; shift: number[]; mask: number[] }
  plain: { index: number[]; word: number[]; base: number[] }
  wide: { index: number[]; word: number[] }
}

/** States as rows of whole words, with nothing in them but what matters: equal rows, equal states, and the other way round. */
export class Packing {
  readonly words: number
  private readonly groups: Group[] = []
  private readonly changing: Record<Changing, Group>
  private readonly floats = new Float64Array(1)
  private readonly halves = new Int32Array(this.floats.buffer)
  /** The place stands in the first word; small numbers share words from the second on. */
  private word = 1
  private shift = 0
  private nextWord = 2

  constructor(game: Game, scope: Scope, mostXp: readonly number[]) {
    const isMin = (t: number) => game.tallies[t]!.min !== -Infinity
    const base = (t: number) => (isMin(t) ? game.tallies[t]!.min : 0)
    const tallies = this.add((s) => s.tallies, scope.tallies, (t) => (isMin(t) ? scope.enough[t]! - base(t) : Infinity), base)
    this.add((s) => s.level, scope.characters, () => 999)
    this.add((s) => s.xp, scope.characters, (c) => mostXp[c]!)
    this.add((s) => s.cap, scope.characters, () => noCap)
    this.add((s) => s.present, scope.characters, () => 1)
    const opened = this.add((s) => s.opened, scope.gates, () => 1)
    this.add((s) => s.visited, scope.places, () => 1)
    const taken = this.add((s) => s.taken, scope.sources.map((is, s) => is && scope.enoughUnits[s]! > 0), (s) => scope.enoughUnits[s]!)
    this.changing = { tallies, taken, opened }
    this.words = this.nextWord
  }

  /** Where these stand; what is not told apart by rows is left out. */
  fieldsOf(wanted: Record<Changing, readonly number[]>): Fields {
    const found: { list: number; index: number; word: number; shift: number; mask: number; base: number }[] = []
    changing.forEach((name, list) => {
      const { small, plain, wide } = this.changing[name]
      for (const index of wanted[name]) {
        const at = { small: small.index.indexOf(index), plain: plain.index.indexOf(index), wide: wide.index.indexOf(index) }
        if (at.small >= 0) found.push({ list, index, word: small.word[at.small]!, shift: small.shift[at.small]!, mask: small.mask[at.small]!, base: 0 })
        if (at.plain >= 0) found.push({ list, index, word: plain.word[at.plain]!, shift: -1, mask: 0, base: plain.base[at.plain]! })
        if (at.wide >= 0) found.push({ list, index, word: wide.word[at.wide]!, shift: -2, mask: 0, base: 0 })
      }
    })
    const whole = (part: 'index' | 'word' | 'shift' | 'mask') => Int32Array.from(found, (field) => field[part])
    return { list: Uint8Array.from(found, ({ list }) => list), index: whole('index'), word: whole('word'), shift: whole('shift'), mask: whole('mask'), base: Float64Array.from(found, ({ base }) => base) }
  }

  /** Writes the place and these numbers anew into the row of a state that is else the same. */
  repack(state: State, { list, index, word, shift, mask, base }: Fields, rows: Int32Array, at: number): void {
    rows[at] = state.place + 1
    for (let i = 0; i < index.length; i++) {
      const numbers = list[i] === 0 ? state.tallies : list[i] === 1 ? state.taken : state.opened
      const n = numbers[index[i]!]!
      const w = at + word[i]!
      if (shift[i]! >= 0) rows[w] = (rows[w]! & ~(mask[i]! << shift[i]!)) | (n << shift[i]!)
      else if (shift[i] === -1) rows[w] = n - base[i]!
      else {
        this.floats[0] = n
        rows[w] = this.halves[0]!
        rows[w + 1] = this.halves[1]!
      }
    }
  }

  private add(of: Group['of'], matters: readonly boolean[], most: (i: number) => number, base: (i: number) => number = () => 0): Group {
    const entries: Entries = { small: { index: [], word: [], shift: [], mask: [] }, plain: { index: [], word: [], base: [] }, wide: { index: [], word: [] } }
    matters.forEach((is, i) => {
      if (!is) return
      if (most(i) < 256 && base(i) === 0) this.addSmall(entries, i, 32 - Math.clz32(most(i)))
      else if (most(i) <= oneWord) {
        entries.plain.index.push(i)
        entries.plain.base.push(base(i))
        entries.plain.word.push(this.nextWord++)
      } else {
        entries.wide.index.push(i)
        entries.wide.word.push(this.nextWord)
        this.nextWord += 2
      }
    })
    const whole = (numbers: readonly number[]) => Int32Array.from(numbers)
    const { small, plain, wide } = entries
    const group: Group = {
      of,
      small: { index: whole(small.index), word: whole(small.word), shift: whole(small.shift), mask: whole(small.mask) },
      plain: { index: whole(plain.index), word: whole(plain.word), base: Float64Array.from(plain.base) },
      wide: { index: whole(wide.index), word: whole(wide.word) },
    }
    this.groups.push(group)
    return group
  }

  private addSmall({ small }: Entries, index: number, bits: number): void {
    if (this.shift + bits > 32) {
      this.word = this.nextWord++
      this.shift = 0
    }
    small.index.push(index)
    small.word.push(this.word)
    small.shift.push(this.shift)
    small.mask.push(2 ** bits - 1)
    this.shift += bits
  }

  pack(state: State, rows: Int32Array, at: number): void {
    rows.fill(0, at, at + this.words)
    rows[at] = state.place + 1
    for (const { of, small, plain, wide } of this.groups) {
      const numbers = of(state)
      for (let i = 0; i < small.index.length; i++) {
        const n = numbers[small.index[i]!]!
        // Of most there is none.
        if (n !== 0) rows[at + small.word[i]!]! |= n << small.shift[i]!
      }
      for (let i = 0; i < plain.index.length; i++) rows[at + plain.word[i]!] = numbers[plain.index[i]!]! - plain.base[i]!
      for (let i = 0; i < wide.index.length; i++) {
        this.floats[0] = numbers[wide.index[i]!]!
        rows[at + wide.word[i]!] = this.halves[0]!
        rows[at + wide.word[i]! + 1] = this.halves[1]!
      }
    }
  }

  unpack(rows: Int32Array, at: number, state: State): void {
    state.place = rows[at]! - 1
    for (const { of, small, plain, wide } of this.groups) {
      const numbers = of(state)
      for (let i = 0; i < small.index.length; i++) numbers[small.index[i]!] = (rows[at + small.word[i]!]! >>> small.shift[i]!) & small.mask[i]!
      for (let i = 0; i < plain.index.length; i++) numbers[plain.index[i]!] = rows[at + plain.word[i]!]! + plain.base[i]!
      for (let i = 0; i < wide.index.length; i++) {
        this.halves[0] = rows[at + wide.word[i]!]!
        this.halves[1] = rows[at + wide.word[i]! + 1]!
        numbers[wide.index[i]!] = this.floats[0]!
      }
    }
  }
}
