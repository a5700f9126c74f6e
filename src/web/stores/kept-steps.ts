import { z } from 'zod'
import { Step } from '../../core/contract/api.ts'

/** Steps that the server has not confirmed, kept in the browser so that a closed tab or a gone server loses none. */
const keyOf = (planId: string) => `tundrift.unsaved.${planId}`

export function keptSteps(planId: string): Step[] {
  try {
    return z.array(Step).parse(JSON.parse(localStorage.getItem(keyOf(planId)) ?? '[]'))
  } catch {
    return []
  }
}

export function keepSteps(planId: string, steps: readonly Step[]): void {
  if (steps.length) localStorage.setItem(keyOf(planId), JSON.stringify(steps))
  else localStorage.removeItem(keyOf(planId))
}
