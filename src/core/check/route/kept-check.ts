import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { Touched } from '../../rules/recompile.ts'
import type { ProfileResult } from '../result.ts'
import { Behind } from '../rhythm/behind.ts'
import { Clock } from '../rhythm/rhythm.ts'
import { drewOtherwise, feedingSince, keptWithin } from './kept-part.ts'
import { targetsOf } from './portion.ts'
import { isInert, opensAlike, portionsOf } from './portions.ts'
import { RouteCheck, type RouteCheckOptions } from './route-check.ts'
import { Tracer, type RouteTrace } from './trace.ts'

/** A check that has been made, kept so that the next one works out only what a change can alter. */
export interface KeptCheck {
  result: ProfileResult
  trace: RouteTrace
  /** Null where no rhythm was asked for. */
  clock: Clock | null
  behind: Behind | null
  check: RouteCheck
}

/** A check of the same route and kind of player before, and what was made anew in the game since. */
export interface CheckBefore {
  kept: KeptCheck
  touched: Touched
}

/**
 * A check with the trace of its middle walk, in steps, so that a worker can look up between them: each yields the share of the walks
 * done, 0 to 1. `before`: a check made with the same options on the game that this one was made from by
 * `recompile`, or on the same game with another number of walks; what single items cannot bear on is not worked out again.
 */
export function* keptCheckInSteps(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, before: CheckBefore | null): Generator<number, KeptCheck> {
  const feeding = before ? feedingSince(before, game, route, profile) : 'other'
  const isAsKept = feeding === 'same' && !drewOtherwise(before!.kept.check, options)
  const quick = isAsKept && !options.rhythm ? keptWithGatesAgain(game, route, profile, options, before!) : null
  if (quick) return quick
  // What was drawn is known by the portions that it was drawn for.
  const isKept = feeding === 'same' || (feeding === 'more' && !before!.kept.check.isDrawn)
  const check = new RouteCheck(game, route, profile, options, isKept ? keptWithin(game, profile, options, before!) : null)
  const [clock, behind] = options.rhythm ? [new Clock(game, route), new Behind()] : [null, null]
  let tracer!: Tracer
  const result = yield* check.steps((stop) => {
    tracer = new Tracer(game, route, stop > 0 ? { trace: before!.kept.trace, stop } : null)
    return clock ? [tracer, clock, behind] : [tracer]
  })
  return { result, trace: tracer.trace, clock, behind, check }
}

/**
 * The check before, with single gates worked out anew that bear on nothing else, or open when they did before; null: others may have
 * changed, too.
 */
function keptWithGatesAgain(game: Game, route: GameRoute, profile: GameProfile, options: RouteCheckOptions, { kept, touched }: CheckBefore): KeptCheck | null {
  const { sources, gates } = touched
  const { check: before } = kept
  const bearing = [...gates].filter((g) => !isInert(before.game, profile, g) || !isInert(game, profile, g))
  // What stands elsewhere, or is new, is come to at another moment.
  if (sources.size || before.game.places !== game.places || !bearing.every((g) => opensAlike(before.game.gates[g]!, game.gates[g]!))) return null
  const portions = portionsOf(game, profile)
  const targets = targetsOf(portions)
  for (const g of gates) targets.gates.delete(g)
  const check = new RouteCheck(game, route, profile, options, { check: before, portions: new Set(portions), targets, touched })
  const found = check.gatesAgain(gates, bearing)
  return found && { ...kept, check, result: { ...kept.result, gates: found } }
}
