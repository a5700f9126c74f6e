import type { Game } from '../../rules/game.ts'
import { cloneState, type State } from '../../rules/state.ts'
import { Reach } from '../reach/reach.ts'
import { goalsBefore } from './goals-before.ts'
import { RowTable } from '../row-table.ts'
import type { Space } from './space.ts'

/** Steps that a descent makes at most, and sources and gates that it passes in them. */
const mostSteps = 5_000
const mostPassed = 20_000_000
/** Of so many steps one goes on from what has waited longest: a repeat made again and again would else be followed for ever. */
const stepsApart = 8

/**
 * Whether some of the goal is out of reach from a state however kindly it is looked at: nothing used up, every gain kept
 * (docs/checks.md 2), and all had where whoever comes to it can have been. Then no play leads to it; the other way round nothing is said.
 */
export function isHopeless(game: Game, state: State, repeats: boolean): boolean {
  return goalsBefore(game).some(({ places, gates, within }) => {
    if (places.every((p) => state.visited[p]) && gates.every((g) => state.opened[g])) return false
    const reach = new Reach(game, { repeats, from: state, within }).run()
    return !places.every((p) => state.visited[p] || reach.has('places', p)) || !gates.every((g) => reach.has('gates', g))
  })
}

/**
 * Whether some play from a state leads to the goal, as far as going on wherever there is hope shows it, and mostly from where
 * most was done already and last; false: none was found.
 */
export function findsWin(game: Game, space: Space, from: State, repeats: boolean, isLate: () => boolean = () => false, steps = mostSteps): boolean {
  const most = Math.min(steps, mostPassed / (game.sources.length + game.gates.length + 1))
  const { packing } = space
  const seen = new RowTable(packing.words)
  const state = cloneState(from)
  const known = packing.rowOf(from)
  const waiting: number[][] = []
  const add = (next: State) => {
    const before = seen.size
    packing.pack(next, seen.rows, seen.next)
    const id = seen.add()
    if (seen.size > before) (waiting[doneIn(game, next)] ??= []).push(id)
  }
  add(from)
  for (let made = 0; waiting.length && made < most && !isLate(); ) {
    const last = waiting.at(-1)
    const id = made % stepsApart ? last?.pop() : last?.shift()
    if (id === undefined) {
      waiting.pop()
      continue
    }
    made++
    packing.unpack(seen.rows, id * packing.words, state, known)
    if (space.isWon(state)) return true
    const next: State[] = []
    space.steps(state, (to) => next.push(cloneState(to)), repeats)
    // What stands first is followed first, going on last. Where there is one step alone, it cannot be the one that spoils.
    for (const to of next.reverse()) if (next.length === 1 || !isHopeless(game, to, repeats)) add(to)
  }
  return false
}

/** Gates opened, and units taken of what cannot be repeated. */
function doneIn({ sources }: Game, { opened, taken }: State): number {
  let done = 0
  for (const is of opened) done += is
  for (let s = 0; s < taken.length; s++) if (!sources[s]!.respawns) done += taken[s]!
  return done
}
