import type { Records } from '../plan/records.ts'
import type { Game } from '../rules/game.ts'
import { compile, type Compiled } from '../rules/compile.ts'
import type { CheckOptions, CheckOutcome, Finding, LockoutResult, RouteResult } from './result.ts'
import { allFindings } from './findings/findings.ts'
import type { FindingContext } from './findings/finding-rule.ts'
import { checkLockouts, defaultBound } from './lockout/lockout-check.ts'
import { checkReach } from './reach/reach-check.ts'
import { checkRoute, defaultRouteOptions, type RouteCheckOptions } from './route/route-check.ts'
import { traceRoute } from './route/trace.ts'

/** Everything Tundrift says about a plan, as one document (docs/checks.md 7). */
export function check(records: Records, options: CheckOptions = {}): CheckOutcome {
  return checkCompiled(records, compile(records), options)
}

function checkCompiled(records: Records, { game, issues }: Compiled, options: CheckOptions): CheckOutcome {
  const seed = options.seed ?? defaultRouteOptions.seed
  // What hangs on no route is left out where only one is asked for.
  const whole = options.route === undefined && options.profile === undefined
  const routes = checkRoutes(game, options, { ...defaultRouteOptions, seed, sums: options.sums ?? true })
  const reach = whole ? checkReach(game) : null
  const lockouts = whole && options.lockouts !== false ? checkLockouts(game, { ...defaultBound, ...options.lockouts }) : null
  const findings = reach && findingsOf(records, { game, issues }, routes, reach, lockouts)
  const plan = { id: game.id, revision: options.revision ?? 0 }
  return { result: { plan, seed, routes, reach: reach?.result ?? null, lockouts, findings }, issues }
}

/** The findings of a plan whose parts have been checked. */
export function findingsOf(records: Records, { game, issues }: Compiled, routes: RouteResult[], reach: ReturnType<typeof checkReach>, lockouts: LockoutResult | null): Finding[] {
  return allFindings({ records, game, issues, routes, reach: reach.result, held: reach.held, lockouts, traces: tracesOf(game) })
}

function checkRoutes(game: Game, options: CheckOptions, routeOptions: RouteCheckOptions): RouteResult[] {
  const wanted = (id: string, only: string | undefined) => only === undefined || only === id
  const profiles = game.profiles.filter((profile) => wanted(profile.id, options.profile))
  const routes = game.routes.filter((route) => wanted(route.id, options.route) && route.stops.length > 0)
  return routes.map((route) => ({ route: route.id, profiles: profiles.map((profile) => checkRoute(game, route, profile, routeOptions)) }))
}

function tracesOf(game: Game): FindingContext['traces'] {
  const routes = game.routes.filter((route) => route.stops.length > 0)
  return routes.flatMap((route) => game.profiles.map((profile) => ({ route: route.id, profile: profile.id, trace: traceRoute(game, route, profile) })))
}
