/** A map of fewer entries is copied as fast. */
const large = 2_000
/** More changes than these are not kept apart: each further copy would copy them. */
const many = 256

/** What a copy of a map needs for changes to be made in it. */
type Draft<K, V> = ReadonlyMap<K, V> & { set(key: K, value: V): unknown; delete(key: K): boolean }

/** A copy of a map, for so many changes to be made in it; of a large one no more is copied than what it has been changed in. */
export function copyToChange<K, V>(map: ReadonlyMap<K, V>, changes: number): Draft<K, V> {
  const before = map instanceof ChangedMap ? map.changes : 0
  if (map.size < large || before + changes > many) return new Map(map)
  return map instanceof ChangedMap ? map.copy() : new ChangedMap(map, new Map(), new Map(), new Set())
}

/** The same map in a form that goes from one thread to another. */
export function plainMap<K, V>(map: ReadonlyMap<K, V>): Map<K, V> {
  return map instanceof Map ? map : new Map(map)
}

/** A map with a few changes, which goes by the same order as a copy in which they were made. */
class ChangedMap<K, V> implements ReadonlyMap<K, V> {
  constructor(
    private readonly base: ReadonlyMap<K, V>,
    /** Of keys of the base. */
    private readonly replaced: Map<K, V>,
    /** Behind the base; also of keys that are gone from it. */
    private readonly added: Map<K, V>,
    private readonly gone: Set<K>,
  ) {}

  copy(): ChangedMap<K, V> {
    return new ChangedMap(this.base, new Map(this.replaced), new Map(this.added), new Set(this.gone))
  }

  get changes(): number {
    return this.replaced.size + this.added.size + this.gone.size
  }

  get size(): number {
    return this.base.size - this.gone.size + this.added.size
  }

  private stands(key: K): boolean {
    return this.base.has(key) && !this.gone.has(key)
  }

  has(key: K): boolean {
    return this.added.has(key) || this.stands(key)
  }

  get(key: K): V | undefined {
    if (this.added.has(key)) return this.added.get(key)
    if (this.replaced.has(key)) return this.replaced.get(key)
    return this.gone.has(key) ? undefined : this.base.get(key)
  }

  set(key: K, value: V): this {
    ;(this.stands(key) ? this.replaced : this.added).set(key, value)
    return this
  }

  delete(key: K): boolean {
    if (this.added.delete(key)) return true
    if (!this.stands(key)) return false
    this.replaced.delete(key)
    this.gone.add(key)
    return true
  }

  *entries(): MapIterator<[K, V]> {
    for (const entry of this.base) {
      const [key] = entry
      if (this.gone.has(key)) continue
      yield this.replaced.has(key) ? [key, this.replaced.get(key)!] : entry
    }
    yield* this.added
  }

  *keys(): MapIterator<K> {
    for (const [key] of this.entries()) yield key
  }

  *values(): MapIterator<V> {
    for (const [, value] of this.entries()) yield value
  }

  [Symbol.iterator](): MapIterator<[K, V]> {
    return this.entries()
  }

  forEach(told: (value: V, key: K, map: ReadonlyMap<K, V>) => void): void {
    for (const [key, value] of this.entries()) told(value, key, this)
  }
}
