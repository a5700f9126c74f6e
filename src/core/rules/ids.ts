import { remembered } from '../plan/remembered.ts'
import type { Game } from './game.ts'

type Named = 'sources' | 'gates' | 'passages' | 'tallies' | 'places' | 'characters'

const known = new WeakMap<Game, Record<Named, ReadonlyMap<string, number>>>()

/** The index of what has this id; −1: nothing has. */
export function indexOf(game: Game, kind: Named, id: string): number {
  const byId = remembered(known, game, () => {
    // Of two with one id the first is meant.
    const map = (list: readonly { id: string }[]) => new Map(list.map(({ id }, i) => [id, i] as const).reverse())
    return { sources: map(game.sources), gates: map(game.gates), passages: map(game.passages), tallies: map(game.tallies), places: map(game.places), characters: map(game.characters) }
  })
  return byId[kind].get(id) ?? -1
}
