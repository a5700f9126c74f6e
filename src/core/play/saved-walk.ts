import type { Walk, WalkEntry } from '../plan/walk.ts'
import { inOrder, type Records } from '../plan/records.ts'
import type { WalkMove, WalkStart } from './walk.ts'

/** What is expected after so many moves of a walk. */
export interface Expectation {
  after: number
  /** A requirement that holds there. */
  text: string
}

/** A walk as it is played: its moves, and what is expected between them. */
export interface PlayedWalk {
  moves: WalkMove[]
  expects: Expectation[]
}

/** A kept walk's entries as moves and expectations. */
export function playedOf({ steps }: Pick<Walk, 'steps'>): PlayedWalk {
  const moves: WalkMove[] = []
  const expects: Expectation[] = []
  for (const entry of steps) {
    if ('expect' in entry) expects.push({ after: moves.length, text: entry.expect })
    else moves.push(entry)
  }
  return { moves, expects }
}

/** The same the other way round: each expectation behind the moves that it comes after. */
export function stepsOf({ moves, expects }: PlayedWalk): WalkEntry[] {
  const at = (after: number) => expects.filter((expected) => expected.after === after).map(({ text }): WalkEntry => ({ expect: text }))
  return [...at(0), ...moves.flatMap((move, i): WalkEntry[] => [move, ...at(i + 1)])]
}

/** Where in its entries the move, or the expectation, with this number stands. */
export function entryOf({ steps }: Pick<Walk, 'steps'>, what: 'move' | 'expect', number: number): number {
  let seen = -1
  return steps.findIndex((entry) => ('expect' in entry) === (what === 'expect') && ++seen === number)
}

/** Where a kept walk begins, by the keys of what it names; null: what it names is not there any more. */
export function startOf(records: Records, { from }: Pick<Walk, 'from'>): WalkStart | null {
  if (!from) return { at: 'start' }
  const route = inOrder(records, 'route').find(({ id }) => id === from.route)
  const profile = inOrder(records, 'profile').find(({ id }) => id === from.profile)
  return route && profile && from.stop < route.stops.length ? { at: 'stop', route: route.key, profile: profile.key, stop: from.stop } : null
}

/** The same the other way round. */
export function fromOf(records: Records, start: WalkStart): Walk['from'] {
  if (start.at === 'start') return null
  const [route, profile] = [records.route.get(start.route), records.profile.get(start.profile)]
  return route && profile ? { route: route.id, profile: profile.id, stop: start.stop } : null
}
