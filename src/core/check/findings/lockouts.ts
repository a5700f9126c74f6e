import type { Finding } from '../result.ts'
import { finding, type FindingContext } from './finding-rule.ts'

/** stuck, forced-grind: what free play can run into. */
export function lockouts({ game, lockouts: found }: Pick<FindingContext, 'game' | 'lockouts'>): Finding[] {
  const part = (result: { result: string; witness: unknown[] | null; missing?: string } | undefined) => (result?.result === 'found' ? result : null)
  const stuck = part(found?.stuck)
  const grind = part(found?.forcedGrind)
  const after = (witness: unknown[] | null) => (witness?.length ? `after ${witness.length} moves` : 'from the start')
  return [
    ...(stuck ? [finding('stuck', 'fault', 'plan', game.id, `A player can get stuck ${after(stuck.witness)}: ${stuck.missing}.`)] : []),
    ...(grind ? [finding('forced-grind', 'risk', 'plan', game.id, `A player can come, ${after(grind.witness)}, to where only repeats lead on: ${grind.missing}.`)] : []),
  ]
}
