import type { Settings } from '../plan/head.ts'
import type { Records } from '../plan/records.ts'
import type { Game, GameProfile, GameRoute } from '../rules/game.ts'
import { compile, type Compiled } from '../rules/compile.ts'
import type { CheckOptions, CheckOutcome, Finding, LockoutResult, ProfileResult, RouteResult } from './result.ts'
import { finished, retold } from './finished.ts'
import { firstFix } from './fixes/fixes.ts'
import type { PlanAs } from './fixes/plan-as.ts'
import type { Played } from './findings/finding-rule.ts'
import { allFindings } from './findings/findings.ts'
import { defaultBound } from './lockout/bound.ts'
import { checkLockouts } from './lockout/lockout-check.ts'
import { checkWalks } from '../play/check-walks.ts'
import { checkReach, type ReachCheck } from './reach/reach-check.ts'
import { bookInSteps } from './route/explain.ts'
import { keptCheckInSteps, type KeptCheck } from './route/kept-check.ts'
import { defaultRouteOptions, type RouteCheckOptions } from './route/route-check.ts'

const fixesLookedFor = 20

/** Lines of sums that one document may hold, about 200 MB: as many as three kinds of player come to in a plan of 200 places and 2,000 sources. */
const mostLines = 3_000_000

/** What a check is at, and which share of it is done, 0 to 1. */
export interface CheckProgress {
  part: 'routes' | 'reach' | 'lock-outs' | 'findings' | 'fixes' | 'sums'
  share: number
}

/** Everything Tundrift says about a plan, as one document (docs/checks.md 7). */
export function check(records: Records, options: CheckOptions = {}): CheckOutcome {
  return finished(checkInSteps(records, options))
}

/** The same in steps, told between them what is being done. */
export function* checkInSteps(records: Records, options: CheckOptions = {}): Generator<CheckProgress, CheckOutcome> {
  const compiled = compile(records)
  const { game, issues } = compiled
  const seed = options.seed ?? defaultRouteOptions.seed
  // What hangs on no route is left out where only one is asked for.
  const whole = options.route === undefined && options.profile === undefined && options.gate === undefined
  const checked = yield* checkRoutes(game, records.head.settings, options, { ...defaultRouteOptions, seed, rhythm: whole })
  yield { part: 'reach', share: 0 }
  const reach = whole ? checkReach(game) : null
  yield { part: 'lock-outs', share: 0 }
  const lockouts = whole && options.lockouts !== false ? checkLockouts(game, { ...defaultBound, ...options.lockouts }) : null
  yield { part: 'findings', share: 0 }
  const findings = reach && (yield* withFixes(findingsOf(records, compiled, checked, reach, lockouts), { records, compiled }, checked.routes, options.fixes ?? fixesLookedFor))
  const plan = { id: game.id, revision: options.revision ?? 0 }
  const isTold = (id: string) => options.gate === undefined || options.gate === id
  const summed = options.sums === false ? null : yield* withSums(game, checked, isTold)
  const routes = narrowed(summed ?? checked.routes, isTold)
  return { result: { plan, seed, sums: summed !== null, routes, reach: reach?.result ?? null, lockouts, findings, walks: checkWalks(records, compiled) }, issues }
}

/** The same with the sums behind those gates that are told of; null where all together have more lines than a document can hold. */
function* withSums(game: Game, { routes, walked }: WalkedRoutes, isTold: (id: string) => boolean): Generator<CheckProgress, RouteResult[] | null> {
  let left = mostLines
  const summed: ProfileResult[] = []
  for (const [i, result] of routes.flatMap(({ profiles }) => profiles).entries()) {
    const book = yield* retold(bookInSteps(game, ...walked[i]!), (share): CheckProgress => ({ part: 'sums', share: (i + share) / walked.length }))
    result.gates.forEach(({ gate }, g) => (left -= isTold(gate) ? book.linesOf(g) : 0))
    if (left < 0) return null
    summed.push({ ...result, gates: result.gates.map((gate, g) => (isTold(gate.gate) ? { ...gate, ...book.explanation(g) } : gate)) })
  }
  return routes.map(({ route, profiles }) => ({ route, profiles: summed.splice(0, profiles.length) }))
}

function narrowed(routes: readonly RouteResult[], isTold: (id: string) => boolean): RouteResult[] {
  return routes.map(({ route, profiles }) => ({ route, profiles: profiles.map((of) => ({ ...of, gates: of.gates.filter(({ gate }) => isTold(gate)) })) }))
}

/** Findings of gates with the first fix that there is, for as many of them as asked; each takes several checks. */
function* withFixes(findings: Finding[], plan: PlanAs, routes: RouteResult[], fixes: number | (() => boolean)): Generator<CheckProgress, Finding[]> {
  const looked: Finding[] = []
  let n = 0
  const wantsMore = typeof fixes === 'number' ? () => n++ < fixes : fixes
  for (const found of findings) {
    const { item, route, profile } = found
    const isOfGate = item.kind === 'gate' && route !== null && profile !== null && found.id.startsWith('gate-')
    looked.push(isOfGate && wantsMore() ? { ...found, fix: firstFix(plan, routes, item.id, route, profile) } : found)
    yield { part: 'fixes', share: looked.length / findings.length }
  }
  return looked
}

/** The findings of a plan whose parts have been checked. */
export function findingsOf(...checked: Parameters<typeof findingsInSteps>): Finding[] {
  return finished(findingsInSteps(...checked))
}

export function findingsInSteps(records: Records, { game, issues }: Compiled, { routes, played }: CheckedRoutes, reach: ReachCheck, lockouts: LockoutResult | null): Generator<void, Finding[]> {
  return allFindings({ records, game, issues, routes, reach: reach.result, held: reach.held, lockouts, played })
}

/** What routes came to for kinds of player, and their middle walks where the clock was run along them. */
export interface CheckedRoutes {
  routes: RouteResult[]
  played: Played[]
}

/** The same, with who walked where, in the order of the results. */
interface WalkedRoutes extends CheckedRoutes {
  walked: [GameRoute, GameProfile][]
}

/** What one middle walk shows to all who ask. */
export function playedOf(settings: Settings, route: GameRoute, { result: { profile }, trace, clock, behind }: KeptCheck): Played[] {
  return clock && behind ? [{ route: route.id, profile, trace, rhythm: clock.rhythm(settings), behind: behind.worst }] : []
}

function* checkRoutes(game: Game, settings: Settings, options: CheckOptions, routeOptions: RouteCheckOptions): Generator<CheckProgress, WalkedRoutes> {
  const wanted = (id: string, only: string | undefined) => only === undefined || only === id
  const profiles = game.profiles.filter((profile) => wanted(profile.id, options.profile))
  const routes = game.routes.filter((route) => wanted(route.id, options.route) && route.stops.length > 0)
  const all: WalkedRoutes = { routes: [], played: [], walked: [] }
  for (const [r, route] of routes.entries()) {
    const results: ProfileResult[] = []
    for (const [p, profile] of profiles.entries()) {
      const told = (share: number): CheckProgress => ({ part: 'routes', share: (r * profiles.length + p + share) / (routes.length * profiles.length) })
      const kept = yield* retold(keptCheckInSteps(game, route, profile, routeOptions, null), told)
      results.push(kept.result)
      all.walked.push([route, profile])
      all.played.push(...playedOf(settings, route, kept))
    }
    all.routes.push({ route: route.id, profiles: results })
  }
  return all
}
