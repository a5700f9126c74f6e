import { toUnits } from '../../rules/compile.ts'
import type { Game, GameCost, GameItem, GameSource, GameYield } from '../../rules/game.ts'
import { netOf } from './net-of.ts'
import type { Scope } from './scope.ts'

/**
 * Tallies that something repeated takes from: a player can use up more of them than is of any use. `grains`: by tally the greatest
 * step, in units, of which all that happens to it are whole numbers.
 */
export interface SpentAgain {
  grains: ReadonlyMap<number, number>
  /**
   * Those of which amounts above what is enough are not alike all the same: of 7, using up 2 at a time leaves 1, of 6 nothing.
   * They are where just that step is used up at a time, and nothing else with it.
   */
  unlike: ReadonlySet<number>
}

/** `items`: all in scope. */
export function spentAgain(game: Game, scope: Scope, items: readonly GameItem[]): SpentAgain {
  const grains = new Map<number, number>()
  const unlike = new Set<number>()
  for (const source of game.sources.filter(({ respawns }, s) => respawns && scope.sources[s])) {
    const lost = [...netOf(source.takes, source.yields, 'min')].filter(([t, net]) => scope.tallies[t] && net < 0)
    for (const [t, net] of lost) {
      if (!grains.has(t)) grains.set(t, grainOf(game, items, t))
      if (lost.length > 1 || -net !== grains.get(t) || isRandom(source, t)) unlike.add(t)
    }
  }
  return { grains, unlike }
}

const isRandom = (source: GameSource, t: number) => source.yields.some((y) => y.tally === t && y.min !== y.max)

function grainOf(game: Game, items: readonly (GameItem & { takes?: GameCost[]; costs?: GameCost[] })[], t: number): number {
  const { start, min, max } = game.tallies[t]!
  const ends = [min, max].filter(Number.isFinite).map((end) => Math.abs(end - start))
  const costs = items.flatMap(({ takes, costs }) => takes ?? costs ?? []).filter(({ tally }) => tally === t).map(({ amount }) => amount)
  const yields = [...items, ...game.characters.flatMap(({ rewards }) => rewards)].flatMap((item) => item.yields).filter(({ tally }) => tally === t).flatMap(stepsOf)
  return [...ends, ...costs, ...yields].reduce(greatestCommon, 0) || toUnits(1)
}

/** What a yield can give: of a range, any whole number in it. */
function stepsOf({ min, max }: GameYield): number[] {
  return min === max ? [Math.abs(min)] : [Math.abs(min), toUnits(1)]
}

function greatestCommon(a: number, b: number): number {
  return b === 0 ? a : greatestCommon(b, a % b)
}
