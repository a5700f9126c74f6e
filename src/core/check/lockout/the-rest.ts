import { canOpen, canTake, closedOnWay, enter, open, take } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { cloneState, type State } from '../../rules/state.ts'
import { closure } from './closure.ts'
import type { Move } from '../result.ts'

/**
 * What a player is left with who, from a state on, takes and opens all that costs nothing, without repeats and without going where
 * there is no way back; what that is, without the goings between, and the places that can be gone to then. It tells what is truly missing from
 * what only was not fetched yet.
 */
export function withTheRest(game: Game, from: State): { state: State; places: number[]; fetched: Move[] } {
  const state = cloneState(from)
  const fetched: Move[] = []
  for (;;) {
    const places = placesAround(game, state)
    const before = fetched.length
    for (const p of places) fetchAt(game, state, p, fetched)
    if (fetched.length === before) return { state, places, fetched }
  }
}

/** Places that can be gone to and come back from through what is open. */
function placesAround(game: Game, state: State): number[] {
  const isOpen = ({ passage, to }: { passage: number; to: number }) => game.passages[passage]!.twoWay && closedOnWay(game, state, passage, to).length === 0
  return [...closure(state.place, (p) => game.places[p]!.ways.filter(isOpen).map(({ to }) => to))]
}

function fetchAt(game: Game, state: State, place: number, fetched: Move[]): void {
  const items = game.places[place]!.items
  const isFree = (item: number) => (item >= 0
    ? game.sources[item]!.takes.length === 0 && state.taken[item]! < game.sources[item]!.count && canTake(game, state, item)
    : game.gates[-1 - item]!.costs.length === 0 && canOpen(game, state, -1 - item))
  if (state.place !== place && !items.some(isFree)) return
  if (state.place !== place) enter(game, state, place, plainPlay)
  for (const item of items) {
    while (isFree(item)) {
      if (item >= 0) take(game, state, item, plainPlay)
      else open(game, state, -1 - item, plainPlay)
      fetched.push(item >= 0 ? { take: game.sources[item]!.id } : { open: game.gates[-1 - item]!.id })
    }
  }
}
