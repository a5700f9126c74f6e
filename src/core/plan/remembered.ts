/** What was made of a thing that never changes, made once: records are only ever replaced, and so are compiled games. */
export function remembered<K, V>(known: { get(key: K): V | undefined; set(key: K, value: V): unknown }, key: K, make: () => V): V {
  const before = known.get(key)
  if (before !== undefined) return before
  const made = make()
  known.set(key, made)
  return made
}
