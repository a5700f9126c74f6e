import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { middleChance } from '../chance.ts'
import { itineraryOf, wholePortion } from './portion.ts'
import { scheduleOf } from './schedule.ts'
import { walkRoute, type Watcher } from './walk-route.ts'

/** Plays the middle walk of a route once (docs/checks.md 1), told to all who watch it, in their order. */
export function walkMiddle(game: Game, route: GameRoute, profile: GameProfile, watchers: readonly Watcher[]): void {
  walkRoute({ game, route, profile, itinerary: itineraryOf(game, route, wholePortion(game)), schedule: scheduleOf(game, route), chance: middleChance, watcher: watchers.length === 1 ? watchers[0]! : joined(watchers) })
}

/** Several watch what is told of the walk itself: nobody needs to share what is told of gates. */
function joined(watchers: readonly Watcher[]): Watcher {
  return {
    entered: (...of) => watchers.forEach((watcher) => watcher.entered?.(...of)),
    moved: (...of) => watchers.forEach((watcher) => watcher.moved?.(...of)),
    events: (...of) => watchers.forEach((watcher) => watcher.events?.(...of)),
    left: (...of) => watchers.forEach((watcher) => watcher.left?.(...of)),
  }
}
