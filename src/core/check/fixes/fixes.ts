import { isTrouble, type GateResult, type RouteResult, type RouteVerdicts } from '../result.ts'
import { gatesResting } from '../route/portions.ts'
import { gateVerdicts } from '../route/route-check.ts'
import { curveFixes } from './curve-scale.ts'
import type { Alteration, Fix, Proposal } from './fix.ts'
import { placeFix } from './later-place.ts'
import { sourceFixes } from './more-from-sources.ts'
import { planWith, type PlanAs } from './plan-as.ts'
import { thresholdFix } from './threshold.ts'
import { Trial } from './trial.ts'

/**
 * Changes that make a gate clear for one route and one kind of player, each tried (docs/checks.md 5): the threshold, the
 * sources, the place, the curve. They come one by one, for each takes some checks.
 */
export function* fixesOf(plan: PlanAs, keys: { route: string; profile: string; gate: string }, result: GateResult): Generator<Proposal> {
  if (!isTrouble(result.verdict) || result.error || !result.due) return
  const trial = new Trial(plan, keys)
  yield* thresholdFix(trial)
  yield* sourceFixes(trial, result.due.stop)
  if (result.met) yield* placeFix(trial, result.met.stop, result.ready)
  yield* curveFixes(trial)
}

/**
 * Every verdict that a change alters, for all routes and kinds of player (docs/checks.md 5). Only gates on which it can bear are
 * checked again. `before`: the verdicts of the plan as it is.
 */
export function alterationsBy({ diff }: Proposal, plan: PlanAs, before: readonly RouteVerdicts[]): Alteration[] {
  const { game } = planWith(plan, diff).compiled
  const keys = new Set(diff.changes.map(({ key }) => key))
  const curves = new Set([...plan.records.curve.values()].filter(({ key }) => keys.has(key)).map(({ id }) => id))
  const indexes = <T>(list: readonly T[], isMeant: (item: T) => boolean) => new Set(list.flatMap((item, i) => (isMeant(item) ? [i] : [])))
  const resting = gatesResting(game, {
    sources: indexes(game.sources, ({ key }) => keys.has(key)),
    gates: indexes(game.gates, ({ key }) => keys.has(key)),
    characters: indexes(game.characters, ({ key, curve }) => keys.has(key) || curves.has(curve?.id ?? '')),
  })
  return before.flatMap(({ route, profiles }) => profiles.flatMap(({ profile, gates }) => {
    const verdicts = gateVerdicts(game, game.routes.find(({ id }) => id === route)!, game.profiles.find(({ id }) => id === profile)!, resting)
    // A gate that is moved to another place has another index.
    const byId = new Map([...verdicts].map(([g, verdict]) => [game.gates[g]!.id, verdict]))
    return gates.flatMap((gate): Alteration[] => {
      const after = byId.get(gate.gate)
      return after === undefined || after === gate.verdict ? [] : [{ gate: gate.gate, route, profile, before: gate.verdict, after }]
    })
  }))
}

/** The first fix that there is for a gate, with all that it alters; null where there is none. */
export function firstFix(plan: PlanAs, routes: readonly RouteResult[], gateId: string, routeId: string, profileId: string): Fix | null {
  const result = routes.find(({ route }) => route === routeId)?.profiles.find(({ profile }) => profile === profileId)?.gates.find(({ gate }) => gate === gateId)
  const key = (list: readonly { id: string; key: string }[], id: string) => list.find((found) => found.id === id)!.key
  if (!result) return null
  const { game } = plan.compiled
  const keys = { route: key(game.routes, routeId), profile: key(game.profiles, profileId), gate: key(game.gates, gateId) }
  const [proposal] = fixesOf(plan, keys, result)
  return proposal ? { ...proposal, alters: alterationsBy(proposal, plan, routes) } : null
}
