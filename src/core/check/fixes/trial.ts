import type { Diff } from '../../change/diff.ts'
import type { Records } from '../../plan/records.ts'
import { changedGame, type Game, type GameProfile, type GameRoute, type GameSource } from '../../rules/game.ts'
import { columnsOf } from '../../rules/source-columns.ts'
import { leastOf } from '../../plan/least-of.ts'
import { defaultRouteOptions, gateVerdict, holdsAtExtremes, type RouteCheckOptions } from '../route/route-check.ts'
import { planWith, type PlanAs } from './plan-as.ts'

/** Tries changes of a plan on one gate, for one route and one kind of player, all by their keys. */
export class Trial {
  constructor(
    readonly plan: PlanAs,
    readonly keys: { route: string; profile: string; gate: string },
    private readonly options: RouteCheckOptions = defaultRouteOptions,
  ) {}

  get records(): Records {
    return this.plan.records
  }

  get game(): Game {
    return this.plan.compiled.game
  }

  /** Whether the gate is clear in the changed plan, and nothing else is in error there: it is checked, not reckoned. */
  mends(diff: Diff): boolean {
    const { game, issues } = planWith(this.plan, diff).compiled
    if (issues.length > this.plan.compiled.issues.length) return false
    return holdsAtExtremes(game, ...this.parts(game)) && gateVerdict(game, ...this.parts(game), this.options) === 'clear'
  }

  /** Whether it opens in time for the luckiest and the unluckiest player alike: what is clear does, and nearly only that. */
  isHopeful(game: Game): boolean {
    return holdsAtExtremes(game, ...this.parts(game))
  }

  changed(diff: Diff): Game {
    return planWith(this.plan, diff).compiled.game
  }

  parts(game = this.game): [GameRoute, GameProfile, number] {
    const { route, profile, gate } = this.keys
    const at = <T extends { key: string }>(list: readonly T[], key: string) => list.find((found) => found.key === key)!
    return [at(game.routes, route), at(game.profiles, profile), game.gates.findIndex((found) => found.key === gate)]
  }
}

/** The game with one source changed, without reading the plan anew: for trying many amounts. */
export function withSource(game: Game, s: number, change: Partial<Pick<GameSource, 'count' | 'yields'>>): Game {
  const sources = game.sources.slice()
  sources[s] = { ...sources[s]!, ...change }
  return changedGame(game, { sources, columns: columnsOf(sources) })
}

/** The least whole number from 1 to `most` for which a test that stays true once it is true holds; null: for none. */
export function leastThat(most: number, test: (n: number) => boolean): number | null {
  // Small numbers are the likely ones: they are tried first.
  let [low, high] = [0, 1]
  while (high < most && !test(high)) [low, high] = [high, high * 2]
  high = Math.min(high, most)
  if (!test(high)) return null
  return leastOf(low + 1, high, test)
}
