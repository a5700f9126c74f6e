/**
 * What was made of things that never change, by the index at which each stands: made anew where another stands there. Games follow one
 * another with nearly all their items where they were, and of tens of thousands of them each would be an entry of a WeakMap, which takes
 * long to look up, and to collect. What stood last at an index is held on to.
 */
export class KnownByIndex<T extends object, V> {
  private readonly things: (T | undefined)[] = []
  private readonly values: V[] = []

  constructor(private readonly make: (thing: T) => V) {}

  of(index: number, thing: T): V {
    if (this.things[index] === thing) return this.values[index]!
    // Both lists grow from their ends, without gaps.
    for (let i = this.things.length; i < index; i++) this.put(i, undefined, undefined as V)
    const made = this.make(thing)
    this.put(index, thing, made)
    return made
  }

  private put(index: number, thing: T | undefined, value: V): void {
    this.things[index] = thing
    this.values[index] = value
  }
}
