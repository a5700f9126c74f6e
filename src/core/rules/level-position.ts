import type { Game, GameCurve } from './game.ts'
import { floorAt, valueAt } from './gain.ts'
import { limitOf, type State } from './state.ts'

/** A level with the way made into the next: 4.5 is half-way from level 4 to 5. At the limit it is the level itself. */
export function levelPosition(game: Game, state: State, c: number): number {
  return positionOf(game.characters[c]!.curve, state.level[c]!, limitOf(game, state, c), state.xp[c]!)
}

/** The same of a level and the XP that a character has there. */
export function positionOf(curve: GameCurve | null, level: number, limit: number, xp: number): number {
  if (!curve || level >= limit) return level
  const floor = floorAt(curve, level)
  const share = (xp - floor) / (valueAt(curve, level) - floor)
  // XP banked past what a level takes waits for the next gain; it is drawn just below the level.
  return level + Math.min(Math.max(share, 0), 0.999)
}
