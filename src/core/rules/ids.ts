import { remembered } from '../plan/remembered.ts'
import type { Game } from './game.ts'

type Listed = 'sources' | 'gates' | 'passages' | 'tallies' | 'places' | 'characters'
type List = readonly { id: string }[]

/** By list: a game that is made from another shares those that stand as they stood. */
const known = new WeakMap<List, ReadonlyMap<string, number>>()

/** The index of what has this id; −1: nothing has. */
export function indexOf(game: Game, kind: Listed, id: string): number {
  // Of two with one id the first is meant.
  const byId = remembered(known, game[kind] as List, () => new Map(game[kind].map(({ id }, i) => [id, i] as const).reverse()))
  return byId.get(id) ?? -1
}
