/** Rows of whole words, each kept once and numbered in the order in which it came. */
export class RowTable {
  size = 0
  rows: Int32Array
  /** By slot the number of a row, and its hash: most rows that differ are told apart without being looked at. −1: none. */
  private slots: Int32Array

  constructor(private words: number) {
    this.rows = new Int32Array(1024 * words)
    this.slots = new Int32Array(2 * 4096).fill(-1)
  }

  /** Begins anew with no rows, of so many words each. */
  begin(words: number): void {
    this.size = 0
    this.words = words
    if (words > this.rows.length) this.rows = new Int32Array(words)
    this.slots.fill(-1)
  }

  /** Number of the row that stands behind the last one; it is kept if it is new. */
  add(): number {
    const { slots, size } = this
    const hash = this.hash(size)
    let slot = firstSlot(hash, slots)
    for (let id = slots[slot]!; id >= 0; id = slots[slot]!) {
      if (slots[slot + 1] === hash && this.same(id, size)) return id
      slot = (slot + 2) & (slots.length - 1)
    }
    slots[slot] = size
    slots[slot + 1] = hash
    this.size++
    this.grow()
    return size
  }

  /** Where the next row is to be written. */
  get next(): number {
    return this.size * this.words
  }

  private grow(): void {
    if ((this.size + 1) * this.words > this.rows.length) {
      const rows = new Int32Array(this.rows.length * 2)
      rows.set(this.rows)
      this.rows = rows
    }
    if (this.size * 4 >= this.slots.length) this.widen()
  }

  private widen(): void {
    const { slots } = this
    const wider = new Int32Array(slots.length * 2).fill(-1)
    for (let old = 0; old < slots.length; old += 2) {
      if (slots[old]! < 0) continue
      let slot = firstSlot(slots[old + 1]!, wider)
      while (wider[slot]! >= 0) slot = (slot + 2) & (wider.length - 1)
      wider[slot] = slots[old]!
      wider[slot + 1] = slots[old + 1]!
    }
    this.slots = wider
  }

  private same(a: number, b: number): boolean {
    const { rows, words } = this
    for (let i = 0; i < words; i++) if (rows[a * words + i] !== rows[b * words + i]) return false
    return true
  }

  private hash(id: number): number {
    let hash = 0x811c9dc5
    for (let i = id * this.words; i < (id + 1) * this.words; i++) {
      hash = Math.imul(hash ^ this.rows[i]!, 0x85ebca6b)
      hash ^= hash >>> 15
    }
    return hash ^ (hash >>> 13)
  }
}

function firstSlot(hash: number, slots: Int32Array): number {
  return (hash << 1) & (slots.length - 1)
}

/** A list of whole numbers that grows. */
export class NumberList {
  length = 0
  private numbers = new Int32Array(1024)

  push(n: number): void {
    if (this.length === this.numbers.length) {
      const wider = new Int32Array(this.length * 2)
      wider.set(this.numbers)
      this.numbers = wider
    }
    this.numbers[this.length++] = n
  }

  at(i: number): number {
    return this.numbers[i]!
  }
}
