import type { Game } from './game.ts'
import { floorAt, valueAt } from './gain.ts'
import { limitOf, type State } from './state.ts'

/** A level with the way made into the next: 4.5 is half-way from level 4 to 5. At the limit it is the level itself. */
export function levelPosition(game: Game, state: State, c: number): number {
  const curve = game.characters[c]!.curve
  const level = state.level[c]!
  if (!curve || level >= limitOf(game, state, c)) return level
  const floor = floorAt(curve, level)
  const share = (state.xp[c]! - floor) / (valueAt(curve, level) - floor)
  // XP banked past what a level takes waits for the next gain; it is drawn just below the level.
  return level + Math.min(Math.max(share, 0), 0.999)
}
