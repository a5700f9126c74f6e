import { remembered } from '../../plan/remembered.ts'
import type { Game, GameCost, GameYield } from '../../rules/game.ts'
import { levelsEntered, timesLevelled } from './levels-entered.ts'

const known = new WeakMap<Game, readonly number[]>()

/** By tally, in units, the furthest from 0 that it can ever be in free play; Infinity where something moves it without end. */
export function mostEver(game: Game): readonly number[] {
  return remembered(known, game, () => {
    const { gained, lost } = movesOf(game)
    return game.tallies.map(({ start, min, max }, t) => Math.max(Math.abs(Math.max(min, start - lost[t]!)), Math.abs(Math.min(max, start + gained[t]!))))
  })
}

/** By tally, all that it can gain and lose. */
function movesOf(game: Game): Record<'gained' | 'lost', Float64Array> {
  const [gained, lost] = [new Float64Array(game.tallies.length), new Float64Array(game.tallies.length)]
  const add = (yields: readonly GameYield[], costs: readonly GameCost[], times: number) => {
    for (const { tally, min, max } of yields) {
      if (max > 0) gained[tally]! += max * times
      if (min < 0) lost[tally]! -= min * times
    }
    for (const { tally, amount } of costs) if (amount > 0) lost[tally]! += amount * times
  }
  for (const { yields, takes, count, respawns } of game.sources) add(yields, takes, respawns ? Infinity : count)
  for (const { yields, costs } of game.gates) add(yields, costs, 1)
  for (const character of game.characters) {
    for (const { level, yields } of character.rewards) add(yields, [], level === 'every' ? levelsEntered(game, character) : timesLevelled(game, character))
  }
  return { gained, lost }
}
