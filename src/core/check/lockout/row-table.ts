/** Rows of whole words, each kept once and numbered in the order in which it came. */
export class RowTable {
  size = 0
  rows: Int32Array
  private slots: Int32Array

  constructor(private readonly words: number) {
    this.rows = new Int32Array(1024 * words)
    this.slots = new Int32Array(4096).fill(-1)
  }

  /** Number of the row that stands behind the last one; it is kept if it is new. */
  add(): number {
    let slot = this.hash(this.size) & (this.slots.length - 1)
    for (let id = this.slots[slot]!; id >= 0; id = this.slots[slot]!) {
      if (this.same(id, this.size)) return id
      slot = (slot + 1) & (this.slots.length - 1)
    }
    this.slots[slot] = this.size++
    this.grow()
    return this.size - 1
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
    if (this.size * 2 < this.slots.length) return
    this.slots = new Int32Array(this.slots.length * 2).fill(-1)
    for (let id = 0; id < this.size; id++) {
      let slot = this.hash(id) & (this.slots.length - 1)
      while (this.slots[slot]! >= 0) slot = (slot + 1) & (this.slots.length - 1)
      this.slots[slot] = id
    }
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
