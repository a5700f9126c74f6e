import type { Game, GamePassage } from '../../rules/game.ts'
import { closure } from './closure.ts'
import type { Scope } from './scope.ts'

/**
 * Whether, as no gate closes again, whoever goes through a passage can come back, whatever else was done; or all is decided by
 * going through it. Then nobody is worse off for having done first what can spoil nothing.
 */
export function leadsBack(game: Game, { goal }: Scope): boolean {
  const goals = [...goal.places, ...goal.gates.map((g) => game.gates[g]!.place)].filter((place) => place !== null)
  const isWin = (place: number) => goal.gates.length === 0 && goal.places.length === 1 && goal.places[0] === place
  /** A goal lies neither ahead nor where whoever stands before it can have come from. */
  const isLoss = ({ from, to }: GamePassage) => goals.some((place) => !placesAhead(game, to).has(place) && !placesAhead(game, place).has(from))
  return (game.places[game.start]?.guards.length ?? 1) === 0 && game.passages.every((passage) => {
    const { from, to, twoWay } = passage
    return twoWay || isWin(to) || leadsOnFreely(game, to, from) || isPassedBefore(game, to, from) || isLoss(passage)
  })
}

/** Whether nothing can bar the way from one place to another where the player has been. */
function leadsOnFreely(game: Game, from: number, to: number): boolean {
  return placesAhead(game, from, (passage, next) => game.passages[passage]!.guards.length === 0 && (next === to || game.places[next]!.guards.length === 0)).has(to)
}

/** Whether nobody comes to a place but by another: whoever stands there has found the way from it open. */
function isPassedBefore(game: Game, before: number, place: number): boolean {
  return before === game.start || !placesAhead(game, game.start, (_, next) => next !== before).has(place)
}

/** All places that ways lead to from one, itself too; `isTaken`: which ways. */
function placesAhead(game: Game, from: number, isTaken: (passage: number, to: number) => boolean = () => true): Set<number> {
  return closure(from, (p) => game.places[p]!.ways.flatMap(({ passage, to }) => (isTaken(passage, to) ? [to] : [])))
}
