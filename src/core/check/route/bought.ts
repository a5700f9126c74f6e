import type { GameGate, GameProfile } from '../../rules/game.ts'

/** Whether a kind of player opens a gate that can be opened (docs/model.md 8): side gates that cost something are bought, or left. */
export function isBought({ main, costs }: GameGate, { buysAll }: GameProfile): boolean {
  return main || costs.length === 0 || buysAll
}
