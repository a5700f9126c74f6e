import { gatesOnWay } from '../../rules/engine.ts'
import type { Game, GameRoute } from '../../rules/game.ts'

/** When each gate is first in the way: the stop on whose leaving the route goes through what it guards. */
export interface Schedule {
  /** By gate: the stop, or −1 where the route never needs it. */
  neededAt: Int32Array
  /** By stop: the gates first needed on leaving it. */
  neededOnLeaving: number[][]
}

export function scheduleOf(game: Game, route: GameRoute): Schedule {
  const neededAt = new Int32Array(game.gates.length).fill(-1)
  const neededOnLeaving: number[][] = route.stops.map(() => [])
  for (let stop = 0; stop + 1 < route.stops.length; stop++) {
    for (const g of gatesOnWay(game, route.steps[stop] ?? null, route.stops[stop + 1]!)) {
      if (neededAt[g] !== -1) continue
      neededAt[g] = stop
      neededOnLeaving[stop]!.push(g)
    }
  }
  return { neededAt, neededOnLeaving }
}
