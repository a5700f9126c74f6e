import { addMissingTally, type MissingTally, type TallyKind } from '../core/change/missing-tally.ts'
import { newKey } from './new-key.ts'
import { usePlanStore } from './stores/plan.ts'

/** Adds a tally that was named where none is to the open plan; answers why it cannot be, or null. */
export function useMissingTally(): (tally: MissingTally, kind: TallyKind) => string | null {
  const plan = usePlanStore()
  return (tally, kind) => {
    const added = addMissingTally(plan.records!, tally, kind, newKey())
    if ('says' in added) return added.says
    plan.edit(added.diff)
    return null
  }
}
