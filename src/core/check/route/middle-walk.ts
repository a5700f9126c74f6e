import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { middleChance } from '../chance.ts'
import { finished } from '../finished.ts'
import { itineraryOf } from './itinerary.ts'
import { wholePortion } from './portion.ts'
import { scheduleOf } from './schedule.ts'
import { walkInSteps } from './walk-route.ts'
import type { Watcher } from './watcher.ts'

/** Plays the middle walk of a route once (docs/checks.md 1), told to all who watch it, in their order. */
export function walkMiddle(game: Game, route: GameRoute, profile: GameProfile, watchers: readonly Watcher[]): void {
  finished(middleInSteps(game, route, profile, watchers))
}

/** The same stop by stop: yields each that has been left. */
export function middleInSteps(game: Game, route: GameRoute, profile: GameProfile, watchers: readonly Watcher[]): Generator<number, void> {
  return walkInSteps({ game, route, profile, itinerary: itineraryOf(game, route, wholePortion(game)), schedule: scheduleOf(game, route), chance: middleChance, watcher: joined(watchers) })
}

/** Several watch as one, each told in its turn; what nobody asks for is not told. */
export function joined(watchers: readonly Watcher[]): Watcher {
  const all: Watcher = {
    takesAtOnce: watchers.every((watcher) => watcher.takesAtOnce ?? !(watcher.moved ?? watcher.events)),
    asksAmounts: watchers.some((watcher) => watcher.asksAmounts),
  }
  for (const call of calls) {
    const told = watchers.filter((watcher) => watcher[call])
    if (told.length) (all as Record<string, unknown>)[call] = toldOf(told.map((watcher) => (watcher[call] as Told).bind(watcher)))
  }
  return all
}

type Told = (...of: unknown[]) => void

/** Called for every unit that is taken: nothing is made on the way. */
function toldOf([first, second, ...others]: Told[]): Told {
  if (!second) return first!
  return (a, b, c, d) => {
    first!(a, b, c, d)
    second(a, b, c, d)
    for (const other of others) other(a, b, c, d)
  }
}

const calls = ['met', 'due', 'opened', 'ready', 'left', 'entered', 'moved', 'events'] as const satisfies readonly (keyof Watcher)[]
