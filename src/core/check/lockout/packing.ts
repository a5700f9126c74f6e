import type { Game } from '../../rules/game.ts'
import { noCap, type State } from '../../rules/state.ts'
import type { Scope } from './scope.ts'

/** Past this an amount takes two words. */
const oneWord = 2 ** 31 - 1

type Numbers = Float64Array | Int32Array | Uint8Array

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
  private readonly floats = new Float64Array(1)
  private readonly halves = new Int32Array(this.floats.buffer)
  /** The place stands in the first word; small numbers share words from the second on. */
  private word = 1
  private shift = 0
  private nextWord = 2

  constructor(game: Game, scope: Scope, mostXp: readonly number[]) {
    const isMin = (t: number) => game.tallies[t]!.min !== -Infinity
    const base = (t: number) => (isMin(t) ? game.tallies[t]!.min : 0)
    this.add((s) => s.tallies, scope.tallies, (t) => (isMin(t) ? scope.enough[t]! - base(t) : Infinity), base)
    this.add((s) => s.level, scope.characters, () => 999)
    this.add((s) => s.xp, scope.characters, (c) => mostXp[c]!)
    this.add((s) => s.cap, scope.characters, () => noCap)
    this.add((s) => s.present, scope.characters, () => 1)
    this.add((s) => s.opened, scope.gates, () => 1)
    this.add((s) => s.visited, scope.places, () => 1)
    this.add((s) => s.taken, scope.sources.map((is, s) => is && scope.enoughUnits[s]! > 0), (s) => scope.enoughUnits[s]!)
    this.words = this.nextWord
  }

  private add(of: Group['of'], matters: readonly boolean[], most: (i: number) => number, base: (i: number) => number = () => 0): void {
    const group: Entries = { small: { index: [], word: [], shift: [], mask: [] }, plain: { index: [], word: [], base: [] }, wide: { index: [], word: [] } }
    matters.forEach((is, i) => {
      if (!is) return
      if (most(i) < 256 && base(i) === 0) this.addSmall(group, i, 32 - Math.clz32(most(i)))
      else if (most(i) <= oneWord) {
        group.plain.index.push(i)
        group.plain.base.push(base(i))
        group.plain.word.push(this.nextWord++)
      } else {
        group.wide.index.push(i)
        group.wide.word.push(this.nextWord)
        this.nextWord += 2
      }
    })
    const whole = (numbers: readonly number[]) => Int32Array.from(numbers)
    const { small, plain, wide } = group
    this.groups.push({
      of,
      small: { index: whole(small.index), word: whole(small.word), shift: whole(small.shift), mask: whole(small.mask) },
      plain: { index: whole(plain.index), word: whole(plain.word), base: Float64Array.from(plain.base) },
      wide: { index: whole(wide.index), word: whole(wide.word) },
    })
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
