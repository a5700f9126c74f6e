/** A set of sources, or of gates, by index: in a portion are thousands of them, and several portions are put together to one. */
export class IndexSet {
  private flags = new Uint8Array(0)
  private n = 0

  /** The first so many. */
  static below(count: number): IndexSet {
    const all = new IndexSet()
    all.flags = new Uint8Array(count).fill(1)
    all.n = count
    return all
  }

  get size(): number {
    return this.n
  }

  /** No number from this one on is in it. */
  get end(): number {
    return this.flags.length
  }

  has(i: number): boolean {
    return this.flags[i] === 1
  }

  add(i: number): void {
    if (i >= this.flags.length) this.makeRoom(i + 1)
    if (this.flags[i] === 1) return
    this.flags[i] = 1
    this.n++
  }

  addAll(those: readonly number[]): void {
    for (let i = 0; i < those.length; i++) this.add(those[i]!)
  }

  private makeRoom(count: number): void {
    const wider = new Uint8Array(Math.max(count, this.flags.length * 2))
    wider.set(this.flags)
    this.flags = wider
  }

  /** With all that are in another. */
  unite({ flags }: IndexSet): void {
    if (flags.length > this.flags.length) this.makeRoom(flags.length)
    for (let i = 0; i < flags.length; i++) {
      if (flags[i] === 0 || this.flags[i] === 1) continue
      this.flags[i] = 1
      this.n++
    }
  }

  copy(): IndexSet {
    const copy = new IndexSet()
    copy.unite(this)
    return copy
  }

  /** Whether all of another are in this one. */
  includes({ flags, n }: IndexSet): boolean {
    if (n > this.n) return false
    for (let i = 0; i < flags.length; i++) if (flags[i] === 1 && this.flags[i] !== 1) return false
    return true
  }

  /** Rising. */
  *[Symbol.iterator](): Generator<number> {
    for (let i = 0; i < this.flags.length; i++) if (this.flags[i] === 1) yield i
  }

  /** 1 at each that is in it, 0 at all others, of so many. */
  marks(count: number): Uint8Array {
    const marks = new Uint8Array(count)
    marks.set(this.flags.subarray(0, count))
    return marks
  }
}
