import { countText } from '../../view/numbers.ts'
import type { FindingRule } from './finding-rule.ts'
import { minutes, stretches } from './stretches.ts'

/** pile-up: more unlocks at once than the plan wants. */
export const pileUp: FindingRule = (context) =>
  stretches(context, 'pile-up', (rhythm) => rhythm.pileUps, (stretch, place) => `${countText(stretch.unlocks, 'unlock')} come within ${minutes(stretch.to - stretch.from)} minutes at ${place}`)
