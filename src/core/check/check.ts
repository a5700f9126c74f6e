import type { Records } from '../plan/records.ts'
import type { Game, GameProfile, GameRoute } from '../rules/game.ts'
import { compile, type Compiled } from '../rules/compile.ts'
import type { CheckOptions, CheckOutcome, Finding, LockoutResult, RouteResult } from './result.ts'
import { firstFix } from './fixes/fixes.ts'
import { allFindings } from './findings/findings.ts'
import { checkLockouts, defaultBound } from './lockout/lockout-check.ts'
import { checkReach } from './reach/reach-check.ts'
import { rhythmOf } from './rhythm/rhythm.ts'
import { checkRoute, defaultRouteOptions, type RouteCheckOptions } from './route/route-check.ts'
import { traceRoute } from './route/trace.ts'

const fixesLookedFor = 20

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
  const findings = reach && withFixes(findingsOf(records, { game, issues }, routes, reach, lockouts), records, game, routes, options.fixes ?? fixesLookedFor)
  const plan = { id: game.id, revision: options.revision ?? 0 }
  return { result: { plan, seed, routes, reach: reach?.result ?? null, lockouts, findings }, issues }
}

/** Findings of gates with the first fix that there is, for as many of them as asked; each takes several checks. */
function withFixes(findings: Finding[], records: Records, game: Game, routes: RouteResult[], most: number): Finding[] {
  let left = most
  return findings.map((found) => {
    const { item, route, profile } = found
    if (item.kind !== 'gate' || route === null || profile === null || !found.id.startsWith('gate-') || left-- <= 0) return found
    return { ...found, fix: firstFix(records, game, routes, item.id, route, profile) }
  })
}

/** The findings of a plan whose parts have been checked. */
export function findingsOf(records: Records, { game, issues }: Compiled, routes: RouteResult[], reach: ReturnType<typeof checkReach>, lockouts: LockoutResult | null): Finding[] {
  const { settings } = records.head
  const traces = played(game, (route, profile) => ({ trace: traceRoute(game, route, profile) }))
  const rhythms = played(game, (route, profile) => ({ rhythm: rhythmOf(game, settings, route, profile) }))
  return allFindings({ records, game, issues, routes, reach: reach.result, held: reach.held, lockouts, traces, rhythms })
}

function checkRoutes(game: Game, options: CheckOptions, routeOptions: RouteCheckOptions): RouteResult[] {
  const wanted = (id: string, only: string | undefined) => only === undefined || only === id
  const profiles = game.profiles.filter((profile) => wanted(profile.id, options.profile))
  const routes = game.routes.filter((route) => wanted(route.id, options.route) && route.stops.length > 0)
  return routes.map((route) => ({ route: route.id, profiles: profiles.map((profile) => checkRoute(game, route, profile, routeOptions)) }))
}

/** What a walk of each route by each kind of player shows. */
function played<T>(game: Game, show: (route: GameRoute, profile: GameProfile) => T): ({ route: string; profile: string } & T)[] {
  const routes = game.routes.filter((route) => route.stops.length > 0)
  return routes.flatMap((route) => game.profiles.map((profile) => ({ route: route.id, profile: profile.id, ...show(route, profile) })))
}
