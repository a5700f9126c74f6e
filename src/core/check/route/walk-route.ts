import { BranchWalk } from './branch-walk.ts'
import type { WalkOptions } from './route-walk.ts'
import { SingleWalk } from './single-walk.ts'

/** Plays a route as a profile does, all branches of chance side by side where it falls in several ways (docs/model.md 8). */
export function walkRoute(options: WalkOptions): void {
  const { single } = options.chance
  const walk = single ? new SingleWalk(options, single) : new BranchWalk(options)
  walk.run()
}
