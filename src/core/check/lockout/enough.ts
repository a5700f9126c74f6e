import { toUnits } from '../../rules/compile.ts'
import type { Game, GameCharacter, GameCost, GameGate, GameItem, GameSource, GameYield } from '../../rules/game.ts'
import { greatestAsked, unbounded } from './asked.ts'
import { levelsEntered, timesLevelled } from './levels-entered.ts'
import type { Scope } from './scope.ts'

/** Rounds after which amounts that still grow are taken to grow without end: two sources that exchange into each other. */
const mostRounds = 24

/**
 * By tally, in units, an amount above which all are alike to free play: the greatest number that anything asks for, and above it
 * all that can ever be spent or lost of it to some use. `items`: all in scope.
 */
export function enoughOf(game: Game, scope: Scope, items: readonly GameItem[]): number[] {
  const asked = game.tallies.map((_, t) => askedOf(game, items, t))
  // What is repeated is of use until there is enough of all that it gives; that in turn can be spent.
  let found = new Enough(game, scope, game.tallies.map(() => 0), game.sources.map(({ count }) => count))
  for (let round = 0; round < mostRounds; round++) {
    const next = found.next(asked)
    if (next.isAs(found)) return found.amounts
    found = next
  }
  const next = found.next(asked)
  return next.amounts.map((amount, t) => (amount === found.amounts[t] ? amount : unbounded))
}

/** What a new game, the greatest number in any requirement, and the last cost leave room for. */
function askedOf(game: Game, items: readonly GameItem[], t: number): number {
  const { id, min, start } = game.tallies[t]!
  const asking = items.filter((item) => item.requires.reads.tallies.includes(t))
  const greatest = Math.max(0, ...asking.map((item) => greatestAsked(game, item, (node) => node.type === 'name' && node.name === id)))
  return Math.max(start, (min === -Infinity ? 0 : Math.max(0, min)) + greatest + toUnits(1))
}

/** Amounts that are enough, as far as is known, and how many units of each source are of any use. */
class Enough {
  /** By tally all that asks for it, and by level all that sets a cap to another; once that was asked. */
  private readonly asking: Sum[] = []
  private readonly capping = new Map<number | null, Sum>()

  constructor(
    private readonly game: Game,
    private readonly scope: Scope,
    readonly amounts: number[],
    private readonly times: readonly number[],
  ) {}

  isAs({ amounts, times }: Enough): boolean {
    return this.amounts.every((amount, t) => amount === amounts[t]) && this.times.every((n, s) => n === times[s])
  }

  next(asked: readonly number[]): Enough {
    const { game, scope } = this
    const times = game.sources.map((source, s) => (source.respawns && scope.sources[s] ? this.timesOf(source, s) : source.count))
    const lost = this.lost(times)
    return new Enough(game, scope, asked.map((amount, t) => Math.min(unbounded, amount + lost[t]!)), times)
  }

  /** By tally, what all in scope can take of it: of what can be repeated, as often as that is of use. */
  private lost(times: readonly number[]): Float64Array {
    const { game, scope } = this
    const lost = new Float64Array(game.tallies.length)
    const lose = (tally: number, amount: number, n: number) => {
      if (amount > 0 && n > 0) lost[tally]! += amount * n
    }
    const loseTo = ({ yields }: GameItem, costs: readonly GameCost[], n: number) => {
      // All of a unit's costs come before what it gives; from one unit to the next, it is what is left of both that is lost.
      for (const { tally, amount } of costs) lose(tally, amount, 1)
      for (const { tally, min } of yields) lose(tally, -min, 1)
      if (n > 1) for (const [tally, net] of netOf(costs, yields, 'min')) lose(tally, -net, n - 1)
    }
    game.sources.forEach((source, s) => scope.sources[s] && loseTo(source, source.takes, times[s]!))
    game.gates.forEach((gate, g) => scope.gates[g] && loseTo(gate, gate.costs, 1))
    for (const character of game.characters) {
      for (const { level, yields } of character.rewards) for (const { tally, min } of yields) lose(tally, -min, level === 'every' ? levelsEntered(game, character) : timesLevelled(game, character))
    }
    return lost
  }

  /** How many units of a source that can be repeated are of any use. */
  private timesOf(source: GameSource, s: number): number {
    const { game, scope } = this
    const least = netOf(source.takes, source.yields, 'min')
    const gains = [...netOf(source.takes, source.yields, 'max')].filter(([tally, most]) => most > 0 && scope.tallies[tally])
    const units = gains.map(([tally]) => this.unitsToEnough(tally, Math.max(least.get(tally)!, toUnits(1))) * (game.tallies[tally]!.resets === 'place' ? this.timesAsked(tally, source, s) : 1))
    return Math.max(source.count, scope.askedUnits[s]!, this.timesCapped(source, s), ...units)
  }

  /** Units that give so much each, until there is enough of a tally and of what listens to it. */
  private unitsToEnough(t: number, each: number): number {
    const { min, listeners } = this.game.tallies[t]!
    if (min === -Infinity) return Infinity
    const heard = listeners.filter((c) => this.scope.characters[c]).map((c) => unitsToTop(this.game.characters[c]!, each))
    return Math.max(Math.ceil((this.amounts[t]! - min) / each), ...heard)
  }

  /** How often it can be of use to gather a tally anew where it has been lost: for each gate, and unit of another source, that asks for it. */
  private timesAsked(t: number, giver: GameSource, s: number): number {
    const asking = (this.asking[t] ??= this.sumOf((item, costs) => this.asks(item, costs, t), ({ live }) => (live ? Infinity : 1)))
    return 1 + asking.without(this.asks(giver, giver.takes, t) ? this.times[s]! : 0)
  }

  private asks({ requires: { reads } }: GameItem, costs: readonly GameCost[], t: number): boolean {
    return reads.tallies.includes(t) || reads.characters.some((c) => this.game.characters[c]?.tally === t) || costs.some(({ tally }) => tally === t)
  }

  /** How often a cap can be set to some use: again after each that others set to another level. */
  private timesCapped(setter: GameSource, s: number): number {
    const levels = this.levelsSet(setter)
    if (levels.size === 0) return 0
    const [level] = levels
    const alike = levels.size === 1 ? level! : null
    if (!this.capping.has(alike)) this.capping.set(alike, this.sumOf((item) => [...this.levelsSet(item)].some((other) => other !== alike), () => 1))
    return 1 + this.capping.get(alike)!.without(alike === null ? this.times[s]! : 0)
  }

  private levelsSet({ caps }: GameItem): Set<number> {
    const { characters } = this.scope
    return new Set(caps.filter(({ character }) => (character === null ? characters.some(Boolean) : characters[character])).map(({ level }) => level))
  }

  /** How often in all what something holds of can be of use. */
  private sumOf(isMeant: (item: GameItem, costs: readonly GameCost[]) => boolean, ofGate: (gate: GameGate) => number): Sum {
    const { game, scope, times } = this
    const sum = new Sum()
    game.gates.forEach((gate, g) => scope.gates[g] && isMeant(gate, gate.costs) && sum.add(ofGate(gate)))
    game.sources.forEach((source, s) => scope.sources[s] && isMeant(source, source.takes) && sum.add(times[s]!))
    return sum
  }
}

/** A sum from which one part can be taken, though some may be without end. */
class Sum {
  private finite = 0
  private endless = 0

  add(part: number): void {
    if (part === Infinity) this.endless++
    else this.finite += part
  }

  without(part: number): number {
    return this.endless > (part === Infinity ? 1 : 0) ? Infinity : this.finite - (part === Infinity ? 0 : part)
  }
}

/** By tally, what a unit comes to when all of it is paid and given, at the `min` or the `max` of what it yields. */
function netOf(costs: readonly GameCost[], yields: readonly GameYield[], end: 'min' | 'max'): Map<number, number> {
  const net = new Map<number, number>()
  const add = (tally: number, amount: number) => net.set(tally, (net.get(tally) ?? 0) + amount)
  for (const { tally, amount } of costs) add(tally, -amount)
  for (const y of yields) add(y.tally, y[end])
  return net
}

/** Units after which a character has all levels, even where each level-up loses what is over. */
function unitsToTop({ curve }: GameCharacter, each: number): number {
  return curve ? curve.values.reduce((sum, value) => sum + Math.floor(value / curve.grain / each) + 1, 0) : 0
}
