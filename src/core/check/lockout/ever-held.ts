import { remembered } from '../../plan/remembered.ts'
import type { Game, GameCost, GameYield } from '../../rules/game.ts'
import { levelsEntered, timesLevelled } from './levels-entered.ts'

const known = new WeakMap<Game, readonly Span[]>()

/** How low and how high something can ever be. */
interface Span {
  least: number
  most: number
}

/** By tally, in units, how far it can ever come in free play; infinite where something moves it without end. */
export function everHeld(game: Game): readonly Span[] {
  return remembered(known, game, () => {
    const { gained, lost } = movesOf(game)
    return game.tallies.map(({ start, min, max }, t) => ({ least: Math.max(min, start - lost[t]!), most: Math.min(max, start + gained[t]!) }))
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
