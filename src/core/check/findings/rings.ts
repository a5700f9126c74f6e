import { finding, type FindingRule } from './finding-rule.ts'

/** ring: gates that wait on each other; told once for a ring. */
export const rings: FindingRule = ({ reach }) => {
  const told = new Set<string>()
  return reach.closed.flatMap(({ gate, ring }) => {
    const key = ring && [...ring].sort().join()
    if (!ring || !key || told.has(key)) return []
    told.add(key)
    const says = ring.length === 1 ? `${gate} waits on what lies behind itself.` : `These gates wait on each other: ${[...ring, ring[0]].join(' → ')}.`
    return [finding('ring', 'fault', 'gate', gate, says)]
  })
}
