import { expose } from 'comlink'
import { config } from 'zod'
import { apply, type Diff } from '../../core/change/diff.ts'
import { findingsOf } from '../../core/check/check.ts'
import { checkReach } from '../../core/check/reach/reach-check.ts'
import type { Finding, ProfileResult, RouteResult, RouteVerdicts, Verdict } from '../../core/check/result.ts'
import { explainGate, type Explanation } from '../../core/check/route/explain.ts'
import { checkRouteInSteps, defaultRouteOptions } from '../../core/check/route/route-check.ts'
import { traceRoute, type RouteTrace } from '../../core/check/route/trace.ts'
import type { PlanIssue } from '../../core/plan/issue.ts'
import { checkWalks, type WalkResult } from '../../core/play/check-walks.ts'
import type { Records } from '../../core/plan/records.ts'
import type { Game, GameProfile, GameRoute } from '../../core/rules/game.ts'
import { compile, type Compiled } from '../../core/rules/compile.ts'

// The page's content security policy allows no code made from strings.
config({ jitless: true })

/** What the Route view is drawn from: verdicts and distributions, the middle walk, and what is wrong with the plan. */
export interface RouteView {
  result: ProfileResult | null
  trace: RouteTrace | null
  issues: PlanIssue[]
}

/** What is found in the whole plan, and the verdicts of all routes and kinds of player. */
export interface WholeView {
  findings: Finding[]
  verdicts: RouteVerdicts[]
}

/** How a route looks for one kind of player. */
export interface ProfileView {
  key: string
  name: string
  trace: RouteTrace
  stops: ProfileResult['stops']
  verdicts: Record<string, Verdict>
}

/** A verdict that a change would alter. */
export interface Turn {
  gate: string
  before: Verdict
  after: Verdict
}

let records: Records | null = null
let compiled: Compiled | null = null
/** Results of the plan as it is compiled, by route and profile: none is worked out twice. */
let done = new Map<string, ProfileResult>()
let latest = 0
let previewed = 0

/** Lets a message that waits be heard before the next step. */
const breath = () => new Promise<void>((done) => {
  const { port1, port2 } = new MessageChannel()
  port1.onmessage = () => {
    port1.close()
    done()
  }
  // A timer would wait for milliseconds each time.
  port2.postMessage(null)
})

function ready(): Compiled {
  if (compiled) return compiled
  done = new Map()
  return (compiled = compile(records!))
}

/** The check of a route for a profile, step by step; null when a newer call came in the meantime. */
async function resultOf(token: number, game: Game, route: GameRoute, profile: GameProfile, progress: (share: number) => void = () => {}): Promise<ProfileResult | null> {
  const results = done
  const key = `${route.key} ${profile.key}`
  const known = results.get(key)
  if (known) return known
  const steps = checkRouteInSteps(game, route, profile, { ...defaultRouteOptions, sums: false })
  for (;;) {
    const step = steps.next()
    if (step.done) {
      results.set(key, step.value)
      return step.value
    }
    progress(step.value)
    await breath()
    if (latest !== token) return null
  }
}

const worker = {
  load(next: Records): void {
    records = next
    compiled = null
  },

  edit(diff: Diff): void {
    records = apply(records!, diff)
    compiled = null
  },

  /** Checks a route for a profile. Null when a newer call came in the meantime. `progress` is told of long ones. */
  async check(token: number, routeKey: string, profileKey: string, progress: (share: number) => void): Promise<RouteView | null> {
    latest = token
    await breath()
    if (latest !== token || !records) return null
    const { game, issues } = ready()
    const route = game.routes.find((found) => found.key === routeKey)
    const profile = game.profiles.find((found) => found.key === profileKey)
    if (!route || !profile || route.stops.length === 0) return { result: null, trace: null, issues }
    const trace = traceRoute(game, route, profile)
    const result = await resultOf(token, game, route, profile, progress)
    return result && { result, trace, issues }
  },

  /**
   * Findings of the whole plan, for all routes and kinds of player, without lock-outs. Null when a newer call came in the meantime.
   * It gives way to every check: what is being looked at comes first.
   */
  async findings(token: number): Promise<WholeView | null> {
    await breath()
    if (latest !== token || !records) return null
    // An edit may come in between: what was begun with is what is finished.
    const [of, whole] = [records, ready()]
    const { game } = whole
    const routes: RouteResult[] = []
    for (const route of game.routes.filter((found) => found.stops.length > 0)) {
      const profiles: ProfileResult[] = []
      for (const profile of game.profiles) {
        const result = await resultOf(token, game, route, profile)
        await breath()
        if (latest !== token || !result) return null
        profiles.push(result)
      }
      routes.push({ route: route.id, profiles })
    }
    const verdicts = routes.map(({ route, profiles }) => ({ route, profiles: profiles.map(({ profile, gates }) => ({ profile, gates: gates.map(({ gate, verdict }) => ({ gate, verdict })) })) }))
    return { findings: findingsOf(of, whole, routes, checkReach(game), null), verdicts }
  },

  /** How the walks that the plan keeps go in it. Null when a newer call came in the meantime. */
  async walks(token: number): Promise<WalkResult[] | null> {
    await breath()
    return latest === token && records ? checkWalks(records, ready()) : null
  },

  /** The route for all kinds of player. Null when a newer call came in the meantime. */
  async everyone(token: number, routeKey: string): Promise<ProfileView[] | null> {
    await breath()
    if (latest !== token || !records) return null
    const { game } = ready()
    const route = game.routes.find((found) => found.key === routeKey)
    if (!route || route.stops.length === 0) return []
    const names = new Map([...records.profile.values()].map(({ key, name, id }) => [key, name || id]))
    const views: ProfileView[] = []
    for (const profile of game.profiles) {
      const result = await resultOf(token, game, route, profile)
      if (!result) return null
      const verdicts = Object.fromEntries(result.gates.map(({ gate, verdict }) => [gate, verdict]))
      views.push({ key: profile.key, name: names.get(profile.key) ?? profile.id, trace: traceRoute(game, route, profile), stops: result.stops, verdicts })
    }
    return views
  },

  /**
   * Which verdicts of the chosen route and kind of player a change would alter, were it made. Null when a newer call of this or of
   * the check came in the meantime. Not more than what can be read at a glance is walked: few drawn walks.
   */
  async preview(token: number, diff: Diff, routeKey: string, profileKey: string): Promise<Turn[] | null> {
    previewed = token
    const [begun, of] = [latest, records]
    await breath()
    if (previewed !== token || latest !== begun || !of) return null
    const before = done.get(`${routeKey} ${profileKey}`)
    const { game } = compile(apply(of, diff))
    const route = game.routes.find((found) => found.key === routeKey)
    const profile = game.profiles.find((found) => found.key === profileKey)
    if (!before || !route || !profile) return []
    const steps = checkRouteInSteps(game, route, profile, { ...defaultRouteOptions, sums: false, walks: 1_000 })
    for (;;) {
      const step = steps.next()
      if (step.done) {
        const after = new Map(step.value.gates.map(({ gate, verdict }) => [gate, verdict]))
        return before.gates.flatMap(({ gate, verdict }) => {
          const now = after.get(gate)
          return now === undefined || now === verdict ? [] : [{ gate, before: verdict, after: now }]
        })
      }
      await breath()
      if (previewed !== token || latest !== begun) return null
    }
  },

  explain(routeKey: string, profileKey: string, gateKey: string): Explanation | null {
    if (!records) return null
    const { game } = ready()
    const route = game.routes.find((found) => found.key === routeKey)
    const profile = game.profiles.find((found) => found.key === profileKey)
    const g = game.gates.findIndex((gate) => gate.key === gateKey)
    return route && profile && g >= 0 ? explainGate(game, route, profile, g) : null
  },
}

export type CheckWorker = typeof worker
expose(worker)
