import type { FindingRule } from './finding-rule.ts'
import { minutes, stretches } from './stretches.ts'

/** drought: longer than the plan wants with nothing new. */
export const drought: FindingRule = (context) =>
  stretches(context, 'drought', (rhythm) => rhythm.droughts, (stretch, place) => `For ${minutes(stretch.to - stretch.from)} minutes from ${place} on, nothing new comes`)
