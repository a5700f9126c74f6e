import { remembered } from '../../plan/remembered.ts'
import type { GateResult, RouteResult } from '../result.ts'

/** A gate as one kind of player finds it on one route. */
export interface Seen {
  gate: GateResult
  route: string
  profile: string
}

const known = new WeakMap<readonly RouteResult[], Seen[][]>()

/** A gate for every route and kind of player; results have the gates in the order of the game. */
export function seenOf(routes: readonly RouteResult[], g: number): readonly Seen[] {
  const all = remembered(known, routes, () => [])
  return (all[g] ??= routes.flatMap(({ route, profiles }) => profiles.map(({ profile, gates }): Seen => ({ gate: gates[g]!, route, profile }))))
}
