import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { ProfileResult } from '../result.ts'
import type { CheckBefore } from './kept-check.ts'
import { feedingSince, keptWithin } from './kept-part.ts'
import { RouteCheck, type RouteCheckOptions } from './route-check.ts'
import { Tracer, type RouteTrace } from './trace.ts'

/** What an edit alters up to a stop, and what was told before of all that comes after it. */
export interface NearLook {
  result: ProfileResult
  trace: RouteTrace
}

/**
 * What a check says of the first stops of a route, up to `until`, long before all that an edit alters is worked out. Null where it
 * alters nothing up to there, or where walks would have to be followed branch by branch, or drawn. Yields the share that is done, 0 to 1.
 */
export function* nearLookInSteps(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, before: CheckBefore, until: number): Generator<number, NearLook | null> {
  if (feedingSince(before, game, route, profile) === 'other') return null
  const check = new RouteCheck(game, route, profile, options, keptWithin(game, profile, options, before), until)
  const { trace } = before.kept
  let tracer!: Tracer
  const result = yield* check.stepsUntil((stop) => [(tracer = new Tracer(game, route, { trace, stop }))])
  return result && { result, trace: tracer.traceUntil(until) }
}
