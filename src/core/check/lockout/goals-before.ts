import { remembered } from '../../plan/remembered.ts'
import type { Game } from '../../rules/game.ts'
import { closure } from './closure.ts'
import { scopeOf } from './scope.ts'

/** Some of the goal, and the places from which ways lead to it: whoever comes to it has only ever been there. */
export interface GoalsBefore {
  places: number[]
  gates: number[]
  /** By place; undefined: ways lead there from everywhere. */
  within: readonly boolean[] | undefined
}

const known = new WeakMap<Game, readonly GoalsBefore[]>()

/** The goal, by the places from which ways lead to it, gates or not. */
export function goalsBefore(game: Game): readonly GoalsBefore[] {
  return remembered(known, game, () => {
    const { goal } = scopeOf(game)
    const groups = new Map<string, GoalsBefore>()
    const add = (kind: 'places' | 'gates', i: number, place: number | null) => {
      const before = place === null ? null : closure(place, (p) => game.places[p]!.waysIn)
      const isAll = before === null || before.size === game.places.length
      const key = isAll ? '' : [...before].sort((a, b) => a - b).join()
      const group = groups.get(key) ?? { places: [], gates: [], within: isAll ? undefined : game.places.map((_, p) => before.has(p)) }
      group[kind].push(i)
      groups.set(key, group)
    }
    for (const p of goal.places) add('places', p, p)
    for (const g of goal.gates) add('gates', g, game.gates[g]!.place)
    return [...groups.values()]
  })
}
