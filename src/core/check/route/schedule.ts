import { gatesOnWay } from '../../rules/engine.ts'
import type { Game, GameGate, GameRoute } from '../../rules/game.ts'

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

/** The stop on whose leaving a gate that is met at a stop is due at the latest; `late`: the route needed it before it was met. */
export function dueWhenMet({ neededAt }: Schedule, route: GameRoute, gate: GameGate, g: number, stop: number): { due: number; late: boolean } {
  const needed = neededAt[g]!
  const own = gate.due === 'route' ? route.stops.length - 1 : stop
  const late = needed !== -1 && needed < stop
  return { due: late ? needed : needed === -1 ? own : Math.min(own, needed), late }
}
