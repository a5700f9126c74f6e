import type { Records } from '../plan/records.ts'
import { compile, type Compiled } from '../rules/compile.ts'
import type { CheckOptions, CheckOutcome, RouteResult } from './result.ts'
import { checkLockouts, defaultBound } from './lockout/lockout-check.ts'
import { checkReach } from './reach/reach-check.ts'
import { checkRoute, defaultRouteOptions } from './route/route-check.ts'

/** Everything Tundrift says about a plan, as one document (docs/checks.md 7). */
export function check(records: Records, options: CheckOptions = {}): CheckOutcome {
  return checkCompiled(compile(records), options)
}

/** The same for a plan that is compiled already. */
export function checkCompiled({ game, issues }: Compiled, options: CheckOptions = {}): CheckOutcome {
  const seed = options.seed ?? defaultRouteOptions.seed
  // What hangs on no route is left out where only one is asked for.
  const whole = options.route === undefined && options.profile === undefined
  const wanted = (id: string, only: string | undefined) => only === undefined || only === id
  const profiles = game.profiles.filter((profile) => wanted(profile.id, options.profile))
  const routes = game.routes
    .filter((route) => wanted(route.id, options.route) && route.stops.length > 0)
    .map((route): RouteResult => ({
      route: route.id,
      profiles: profiles.map((profile) => checkRoute(game, route, profile, { ...defaultRouteOptions, seed, sums: options.sums ?? true })),
    }))
  return {
    result: { plan: { id: game.id, revision: options.revision ?? 0 }, seed, routes, reach: whole ? checkReach(game) : null, lockouts: whole && options.lockouts !== false ? checkLockouts(game, { ...defaultBound, ...options.lockouts }) : null, findings: null },
    issues,
  }
}
