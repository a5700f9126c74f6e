import { remembered } from '../../plan/remembered.ts'
import type { Game, GameCost, GameYield } from '../../rules/game.ts'
import { levelsEntered, timesLevelled } from './levels-entered.ts'

const known = new WeakMap<Game, readonly number[]>()

/** By tally, in units, the furthest from 0 that it can ever be in free play; Infinity where something moves it without end. */
export function mostEver(game: Game): readonly number[] {
  return remembered(known, game, () => game.tallies.map(({ start, min, max }, t) => {
    const [gained, lost] = movesOf(game, t)
    const [least, most] = [Math.max(min, start - lost), Math.min(max, start + gained)]
    return Math.max(Math.abs(least), Math.abs(most))
  }))
}

/** All that a tally can gain and lose. */
function movesOf(game: Game, t: number): [gained: number, lost: number] {
  let [gained, lost] = [0, 0]
  const add = (yields: readonly GameYield[], costs: readonly GameCost[], times: number) => {
    for (const { tally, min, max } of yields) {
      if (tally !== t) continue
      if (max > 0) gained += max * times
      if (min < 0) lost -= min * times
    }
    for (const { tally, amount } of costs) if (tally === t) lost += amount * times
  }
  for (const { yields, takes, count, respawns } of game.sources) add(yields, takes, respawns ? Infinity : count)
  for (const { yields, costs } of game.gates) add(yields, costs, 1)
  for (const character of game.characters) {
    for (const { level, yields } of character.rewards) add(yields, [], level === 'every' ? levelsEntered(game, character) : timesLevelled(game, character))
  }
  return [gained, lost]
}
