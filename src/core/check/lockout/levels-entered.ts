import type { Game, GameCharacter } from '../../rules/game.ts'

/** How many levels a character can enter in all of free play. */
export function levelsEntered(game: Game, character: GameCharacter): number {
  return character.curve ? (character.curve.maxLevel - character.startLevel) * timesLevelled(game, character) : 0
}

/** How often a level can be entered: again and again where its XP starts anew in each place. */
export function timesLevelled(game: Game, { tally }: GameCharacter): number {
  return tally >= 0 && game.tallies[tally]!.resets === 'place' ? Infinity : 1
}
