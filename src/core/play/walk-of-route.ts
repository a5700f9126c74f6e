import { walkMiddle } from '../check/route/middle-walk.ts'
import { standsAt } from '../rules/engine.ts'
import type { Game, GameProfile, GameRoute } from '../rules/game.ts'
import type { Walk, WalkEntry } from '../plan/walk.ts'

/**
 * The moves of the middle walk of a route as a kind of player makes them, from the entering of one stop to the leaving of
 * another, both counted from 0: what a walk begins from, and its entries. Gates that bar the way are gone through all the same.
 */
export function walkAlong(game: Game, route: GameRoute, profile: GameProfile, from: number, to: number): Pick<Walk, 'from' | 'steps'> {
  const steps: WalkEntry[] = []
  const isMeant = (stop: number) => stop >= from && stop <= to
  walkMiddle(game, route, profile, [{
    // Moves are told one by one only where events are asked for.
    events: () => {},
    entered: (_, stop) => {
      const passage = stop > 0 ? route.steps[stop - 1] : null
      if (isMeant(stop) && stop > from && passage != null) steps.push({ go: game.passages[passage]!.id })
    },
    moved: (cause, stop) => {
      if (!isMeant(stop) || cause.type === 'enter') return
      if (cause.type === 'gate') steps.push({ open: game.gates[cause.index]!.id })
      else addUnit(steps, game.sources[cause.index]!.id)
    },
  }])
  const isStart = from === 0 && route.stops[0] === game.start && profile.retries === 0
  return { from: isStart ? null : { route: route.id, profile: profile.id, stop: from }, steps }
}

/**
 * A walk to where a gate is due, as a kind of player comes to it, that is borne out once the gate opens there: with the opening
 * as its last move where it stands there, and else with what it asks for expected.
 */
export function walkToGate(game: Game, route: GameRoute, profile: GameProfile, g: number, due: number): Pick<Walk, 'from' | 'steps'> {
  const gate = game.gates[g]!
  const { from, steps } = walkAlong(game, route, profile, 0, due)
  const opens = steps.some((entry) => 'open' in entry && entry.open === gate.id)
  if (gate.live || opens) return { from, steps: [...steps, { expect: `open(${gate.id})` }] }
  if (standsAt(game, gate, route.stops[due]!)) return { from, steps: [...steps, { open: gate.id }, { expect: `open(${gate.id})` }] }
  return { from, steps: gate.requires.text ? [...steps, { expect: gate.requires.text }] : steps }
}

function addUnit(steps: WalkEntry[], take: string): void {
  const last = steps.at(-1)
  if (last && 'take' in last && last.take === take) steps[steps.length - 1] = { take, units: last.units + 1 }
  else steps.push({ take, units: 1 })
}
