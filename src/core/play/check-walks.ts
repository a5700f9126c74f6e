import { inOrder, type Records } from '../plan/records.ts'
import type { Walk } from '../plan/walk.ts'
import type { Compiled } from '../rules/compile.ts'
import type { Game } from '../rules/game.ts'
import type { PlanIndex } from '../rules/plan-index.ts'
import { unmet } from './expect.ts'
import { entryOf, playedOf, startOf } from './saved-walk.ts'
import { replay } from './walk.ts'

/** Where a kept walk is not borne out: `step` is the index among its steps, `moves` how many were made before. */
export interface WalkFault {
  step: number
  moves: number
  says: string
}

/** How a kept walk goes in the plan as it is. */
export interface WalkResult {
  walk: string
  holds: boolean
  faults: WalkFault[]
}

/** Plays every walk that the plan keeps: each move must be possible, and what is expected must hold (docs/format.md). */
export function checkWalks(records: Records, { game, index }: Compiled): WalkResult[] {
  return inOrder(records, 'walk').map((walk) => {
    const faults = faultsOf(records, game, index, walk)
    return { walk: walk.id, holds: faults.length === 0, faults }
  })
}

function faultsOf(records: Records, game: Game, index: PlanIndex, walk: Walk): WalkFault[] {
  const start = startOf(records, walk)
  if (!start) return [{ step: 0, moves: 0, says: `it begins at stop ${walk.from!.stop} of ${walk.from!.route} as ${walk.from!.profile}, which is not there` }]
  const { moves, expects } = playedOf(walk)
  const { first, steps, broken } = replay(game, start, moves)
  const missed = expects.flatMap(({ after, text }, i): WalkFault[] => {
    // What comes after a move that cannot be made is not come to.
    if (after > steps.length) return []
    const says = unmet(game, index, steps[after - 1]?.state ?? first, text)
    return says === null ? [] : [{ step: entryOf(walk, 'expect', i), moves: after, says }]
  })
  const stopped = broken ? [{ step: entryOf(walk, 'move', broken.index), moves: broken.index, says: `move ${broken.index + 1} cannot be made: ${broken.says}` }] : []
  return [...missed, ...stopped]
}
