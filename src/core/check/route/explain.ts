import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { FromEntry, LostEntry } from '../result.ts'
import { walkMiddle } from './middle-walk.ts'
import { MiddleRecord } from './middle.ts'
import { relevanceOf } from './relevance.ts'

/** The sum behind one gate: what gave and took what it asks for, and the XP lost, up to its due moment. */
export interface Explanation {
  from: FromEntry[]
  lost: LostEntry[]
}

/** What `from` and `lost` of the full document hold, for one gate alone (docs/checks.md 1). */
export function explainGate(game: Game, route: GameRoute, profile: GameProfile, g: number): Explanation {
  const middle = new MiddleRecord(game, route, () => null)
  walkMiddle(game, route, profile, [middle])
  return explained(game, middle, g)
}

export function explained(game: Game, middle: MiddleRecord, g: number): Explanation {
  const page = middle.pages[g]
  if (page === null || page === undefined) return { from: [], lost: [] }
  const relevance = relevanceOf(game, game.gates[g]!)
  return { from: middle.ledger.from(page, relevance), lost: middle.ledger.lost(page, relevance) }
}
