import { remembered } from '../../plan/remembered.ts'
import type { Game, GameRoute } from '../../rules/game.ts'
import type { Touched } from '../../rules/recompile.ts'
import { stateIn } from '../../rules/state.ts'
import { cloneBranch, firstBranch, type Branch } from './branch.ts'
import type { Schedule } from './schedule.ts'

/** Where a walk that goes one way stood before it entered a stop: one that is the same up to there can go on from it. */
export interface Milestone {
  stop: number
  branch: Branch
  /** By gate the stop at which it was met; −1: it was not. */
  metAt: Int32Array
}

/** So many are left along a route, however long it is. */
const most = 12
/** Who changes one number after another mostly stays where they are: so many more are kept, each where something was edited. */
const mostEdited = 2

/** Whether one is left before this stop. `edited`: the first stop on which the edit bears that is followed. */
export function isMilestone(stop: number, route: GameRoute, edited: number): boolean {
  return isAlongRoute(stop, route) || stop === edited
}

function isAlongRoute(stop: number, { stops }: GameRoute): boolean {
  return stop % Math.ceil(stops.length / most) === 0
}

/** Of milestones in the order of their stops, those that stand after an edit that bears on no stop before `first`. */
export function standing<M extends Pick<Milestone, 'stop'>>(milestones: readonly M[], first: number, route: GameRoute): M[] {
  const before = milestones.filter(({ stop }) => stop <= first)
  const edited = before.filter(({ stop }) => !isAlongRoute(stop, route)).slice(-mostEdited)
  return before.filter((milestone) => isAlongRoute(milestone.stop, route) || edited.includes(milestone))
}

export function milestoneAt(stop: number, branch: Branch, metAt: Int32Array): Milestone {
  return { stop, branch: cloneBranch(branch, branch.weight), metAt: metAt.slice() }
}

/** The branch with which a walk goes on, in a game that may have more items behind those that there were. */
export function branchFrom({ branch }: Milestone, game: Game): Branch {
  const next = { ...firstBranch(game), weight: branch.weight, state: stateIn(game, branch.state) }
  next.wanted.set(branch.wanted)
  next.notes.set(branch.notes)
  return next
}

/** A game, and when its gates are in the way. */
type Scheduled = [game: Game, schedule: Schedule]

/**
 * The first stop at which items that were made anew, came, went, or stand elsewhere can bear on a walk along a route, in the game before
 * or in the one now; Infinity: at none.
 */
export function firstStopOf({ sources, gates }: Touched, route: GameRoute, ...both: Scheduled[]): number {
  const visits = firstVisits(route)
  const visit = (place: number | null | undefined) => (place === null ? 0 : (visits.get(place ?? -1) ?? Infinity))
  const stops = both.flatMap(([game, { neededAt }]) => [
    ...[...sources].map((s) => visit(game.sources[s]?.place)),
    ...[...gates].flatMap((g) => [visit(game.gates[g]?.place), (neededAt[g] ?? -1) < 0 ? Infinity : neededAt[g]!]),
  ])
  return Math.min(...stops, Infinity)
}

const known = new WeakMap<GameRoute, ReadonlyMap<number, number>>()

/** By place its first stop. */
function firstVisits(route: GameRoute): ReadonlyMap<number, number> {
  return remembered(known, route, () => new Map([...route.stops.entries()].reverse().map(([stop, place]) => [place, stop])))
}
