import { BranchWalk } from './branch-walk.ts'
import type { WalkOptions } from './route-walk.ts'
import { SingleWalk } from './single-walk.ts'

/**
 * Plays a route as a profile does, all branches of chance side by side where it falls in several ways (docs/model.md 8), stop by stop:
 * yields each that has been left.
 */
export function walkInSteps(options: WalkOptions): Generator<number, void> {
  const { chance } = options
  const walk = chance.single ? new SingleWalk(options, chance.single) : new BranchWalk(options, chance)
  return walk.steps()
}
