import { toUnits } from '../../rules/compile.ts'
import type { Game, GameCharacter, GameCost, GameItem, GameYield } from '../../rules/game.ts'
import { greatestAsked, unbounded } from './asked.ts'
import type { Scope } from './scope.ts'

/** Rounds after which amounts that still grow are taken to grow without end: two sources that exchange into each other. */
const mostRounds = 24

/**
 * By tally, in units, an amount above which all are alike to free play: the greatest number that anything asks for, and above it
 * all that can ever be spent or lost of it to some use. `items`: all in scope.
 */
export function enoughOf(game: Game, scope: Scope, items: readonly GameItem[]): number[] {
  const asked = game.tallies.map((_, t) => askedOf(game, items, t))
  let enough = game.tallies.map(() => 0)
  // What is repeated is of use until there is enough of all that it gives; that in turn can be spent.
  for (let round = 0; round < mostRounds; round++) {
    const lost = lostOf(game, scope, enough)
    const more = asked.map((amount, t) => Math.min(unbounded, amount + lost[t]!))
    if (more.every((amount, t) => amount === enough[t])) return enough
    enough = round < mostRounds - 1 ? more : more.map((amount, t) => (amount === enough[t] ? amount : unbounded))
  }
  return enough
}

/** What a new game, the greatest number in any requirement, and the last cost leave room for. */
function askedOf(game: Game, items: readonly GameItem[], t: number): number {
  const { id, min, start } = game.tallies[t]!
  const asking = items.filter((item) => item.requires.reads.tallies.includes(t))
  const greatest = Math.max(0, ...asking.map((item) => greatestAsked(game, item, (node) => node.type === 'name' && node.name === id)))
  return Math.max(start, (min === -Infinity ? 0 : Math.max(0, min)) + greatest + toUnits(1))
}

/** By tally, what all in scope can take of it: of what can be repeated, as often as that is of use. */
function lostOf(game: Game, scope: Scope, enough: readonly number[]): Float64Array {
  const lost = new Float64Array(game.tallies.length)
  const lose = (tally: number, amount: number, times: number) => {
    if (amount > 0 && times > 0) lost[tally]! += amount * times
  }
  const loseTo = ({ yields }: GameItem, costs: readonly GameCost[], times: number) => {
    // All of a unit's costs come before what it gives; from one unit to the next, it is what is left of both that is lost.
    for (const { tally, amount } of costs) lose(tally, amount, 1)
    for (const { tally, min } of yields) lose(tally, -min, 1)
    if (times > 1) for (const [tally, net] of netOf(costs, yields, 'min')) lose(tally, -net, times - 1)
  }
  game.sources.forEach((source, s) => scope.sources[s] && loseTo(source, source.takes, timesOf(game, scope, s, enough)))
  game.gates.forEach((gate, g) => scope.gates[g] && loseTo(gate, gate.costs, 1))
  for (const character of game.characters) {
    for (const { level, yields } of character.rewards) for (const { tally, min } of yields) lose(tally, -min, level === 'every' ? levelsOf(game, character) : timesLevelled(game, character))
  }
  return lost
}

/** By tally, what a unit comes to when all of it is paid and given, at the `min` or the `max` of what it yields. */
function netOf(costs: readonly GameCost[], yields: readonly GameYield[], end: 'min' | 'max'): Map<number, number> {
  const net = new Map<number, number>()
  const add = (tally: number, amount: number) => net.set(tally, (net.get(tally) ?? 0) + amount)
  for (const { tally, amount } of costs) add(tally, -amount)
  for (const y of yields) add(y.tally, y[end])
  return net
}

/** How many units of a source are of any use. */
function timesOf(game: Game, scope: Scope, s: number, enough: readonly number[]): number {
  const source = game.sources[s]!
  if (!source.respawns) return source.count
  // A cap can be set again after another has been.
  if (source.caps.length > 0) return Infinity
  const least = netOf(source.takes, source.yields, 'min')
  const gains = [...netOf(source.takes, source.yields, 'max')].filter(([tally, most]) => most > 0 && scope.tallies[tally])
  const units = gains.map(([tally]) => unitsToEnough(game, scope, tally, Math.max(least.get(tally)!, toUnits(1)), enough[tally]!))
  return Math.max(source.count, scope.askedUnits[s]!, ...units)
}

/** Units that give so much each, until there is enough of a tally and of what listens to it. */
function unitsToEnough(game: Game, scope: Scope, t: number, each: number, enough: number): number {
  const { min, resets, listeners } = game.tallies[t]!
  if (resets === 'place' || min === -Infinity) return Infinity
  const heard = listeners.filter((c) => scope.characters[c]).map((c) => unitsToTop(game.characters[c]!, each))
  return Math.max(Math.ceil((enough - min) / each), ...heard)
}

/** Units after which a character has all levels, even where each level-up loses what is over. */
function unitsToTop({ curve }: GameCharacter, each: number): number {
  return curve ? curve.values.reduce((sum, value) => sum + Math.floor(value / curve.grain / each) + 1, 0) : 0
}

function levelsOf(game: Game, character: GameCharacter): number {
  return character.curve ? (character.curve.maxLevel - character.startLevel) * timesLevelled(game, character) : 0
}

/** How often a level can be entered: again and again where its XP starts anew in each place. */
function timesLevelled(game: Game, { tally }: GameCharacter): number {
  return tally >= 0 && game.tallies[tally]!.resets === 'place' ? Infinity : 1
}
