import { called, finding, type FindingRule } from './finding-rule.ts'

const kinds = [['places', 'place'], ['sources', 'source'], ['gates', 'gate']] as const

/** unreachable: what reach never gets to, even with repeats. */
export const unreachable: FindingRule = ({ game, reach }) =>
  kinds.flatMap(([list, kind]) => game[list].filter((item) => reach[list][item.id]?.waveWithRepeats === null).map((item) => {
    const why = kind === 'gate' ? reach.closed.find((closed) => closed.gate === item.id)?.why.join('; ') : undefined
    return finding('unreachable', 'fault', kind, item.id, `${called(item)} is never ${kind === 'gate' ? 'opened' : kind === 'place' ? 'reached' : 'taken'}, in whatever order one plays${why ? `: ${why}` : ''}.`)
  }))

/** needs-repeats: what reach gets to only with repeats. */
export const needsRepeats: FindingRule = ({ game, reach }) =>
  kinds.flatMap(([list, kind]) => game[list].filter((item) => reach[list][item.id]?.wave === null && reach[list][item.id]?.waveWithRepeats !== null).map((item) =>
    finding('needs-repeats', 'risk', kind, item.id, `${called(item)} is had only by repeating sources that respawn.`)))

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

/** stuck, forced-grind: what free play can run into. */
export const lockouts: FindingRule = ({ game, lockouts: found }) => {
  const part = (result: { result: string; witness: unknown[] | null; missing?: string } | undefined) => (result?.result === 'found' ? result : null)
  const stuck = part(found?.stuck)
  const grind = part(found?.forcedGrind)
  const after = (witness: unknown[] | null) => (witness?.length ? `after ${witness.length} moves` : 'from the start')
  return [
    ...(stuck ? [finding('stuck', 'fault', 'plan', game.id, `A player can get stuck ${after(stuck.witness)}: ${stuck.missing}.`)] : []),
    ...(grind ? [finding('forced-grind', 'risk', 'plan', game.id, `A player can come, ${after(grind.witness)}, to where only repeats lead on: ${grind.missing}.`)] : []),
  ]
}
