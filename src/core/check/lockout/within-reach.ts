import { remembered } from '../../plan/remembered.ts'
import { emptyRequirement } from '../../rules/compile-requirement.ts'
import { changedGame, type Game, type GameItem } from '../../rules/game.ts'
import { Reach } from '../reach/reach.ts'

const known = new WeakMap<Game, Game>()

/**
 * The game without what nobody can ever have: sources and gates that reach leaves closed stay closed, and so what they would
 * ask for, use up or give tells no states apart. A live gate stays as it is: it is asked, not had.
 */
export function withinReach(game: Game): Game {
  return remembered(known, game, () => madeWithinReach(game))
}

function madeWithinReach(game: Game): Game {
  const reach = new Reach(game, { repeats: true }).run()
  return changedGame(game, {
    sources: game.sources.map((source, s) => (reach.has('sources', s) ? source : { ...barred(source), takes: [] })),
    gates: game.gates.map((gate, g) => (gate.live || reach.has('gates', g) ? gate : { ...barred(gate), costs: [] })),
  })
}

function barred<T extends GameItem>(item: T): T {
  return { ...item, requires: emptyRequirement, yields: [], caps: [], error: item.error ?? { message: 'nobody can ever have it' } }
}
