import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { Touched } from '../../rules/recompile.ts'
import { feedingOf, type Feeding } from './feeders.ts'
import type { CheckBefore } from './kept-check.ts'
import { targetsOf, touches, type Portion, type Targets } from './portion.ts'
import { portionsOf } from './portions.ts'
import type { RouteCheck, RouteCheckOptions } from './route-check.ts'

/** Of a check before: the portions whose record stands as it is, and all that they were walked for. */
export interface KeptPart {
  check: RouteCheck
  portions: ReadonlySet<Portion>
  targets: Targets
  /** What has been made anew since. */
  touched: Touched
}

/** How what feeds what in a game goes with what it was in a check before. */
export function feedingSince({ kept: { check }, touched }: CheckBefore, game: Game, route: GameRoute, profile: GameProfile): Feeding {
  return check.route === route && check.profile === profile ? feedingOf(check.game, game, touched) : 'other'
}

/** Whether some of a check was drawn with another number of walks: that is drawn anew. */
export function drewOtherwise(check: RouteCheck, { walks }: RouteCheckOptions): boolean {
  return check.isDrawn && check.options.walks !== walks
}

/** What of a check before stands as it is, where what it was made of feeds what it fed. */
export function keptWithin(game: Game, profile: GameProfile, options: RouteCheckOptions, { kept: { check }, touched }: CheckBefore): KeptPart {
  const isLeft = (portion: Portion) => drewOtherwise(check, options) && check.drew(portion)
  const all = portionsOf(game, profile)
  const portions = all.filter((portion) => !touches(portion, touched) && !isLeft(portion))
  return { check, portions: new Set(portions), targets: targetsOf(portions), touched }
}
