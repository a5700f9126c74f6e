import { toUnits } from '../../rules/compile.ts'
import type { Game, GameCharacter, GameCost, GameGate, GameItem, GameSource } from '../../rules/game.ts'
import { risesThroughout } from '../../rules/relaxed.ts'
import { greatestAsked, unbounded } from './asked.ts'
import { everHeld } from './ever-held.ts'
import { levelsEntered, timesLevelled } from './levels-entered.ts'
import { netOf } from './net-of.ts'
import type { Scope } from './scope.ts'
import { spentAgain } from './spent-again.ts'

/** Rounds after which amounts that still grow are taken to grow without end: two sources that exchange into each other. */
const mostRounds = 24
/** Amounts without end that are followed into each other: of many, each way through them would be. */
const mostEndless = 5

/** Amounts, by tally and in units, above which all are alike to free play: to hold more of it makes no difference. */
export interface EnoughOfAll {
  amounts: number[]
  /** The same where all is told apart of what can be used up again and again: there every way leads just where it seems to. */
  exact: number[]
  /** The same for who repeats nothing. */
  once: number[]
  /**
   * What is enough where it is not told apart how much more is held, though more can be used up: unlike `amounts` these have an
   * end, also where two sources exchange into each other. null: they are no other than `amounts`.
   */
  supposed: number[] | null
  /** By tally of which amounts above `supposed` are not alike, the step in which it is used up. */
  grains: ReadonlyMap<number, number>
  /** Whether it can do no harm to hold more of those. */
  isMoreNoHarm: boolean
}

/** By which of them a search goes. */
export type EnoughKind = 'amounts' | 'exact' | 'once' | 'supposed'

/**
 * What is enough: the greatest number that anything asks for, and above it all that can ever be spent or lost to some use.
 * `items`: all in scope.
 */
export function enoughOf(game: Game, scope: Scope, items: readonly GameItem[]): EnoughOfAll {
  const asked = game.tallies.map((_, t) => askedOf(game, items, t))
  const counts = game.sources.map(({ count }) => count)
  const nothing = new Enough(game, scope, game.tallies.map(() => 0), counts)
  const { amounts: useful, endless } = usefulOf(nothing, asked)
  const { grains, unlike } = spentAgain(game, scope, items)
  const isTold = (t: number) => endless.has(t) || unlike.has(t)
  const amounts = useful.map((amount, t) => (isTold(t) ? mostOf(game, t) : onGrain(game, t, amount, grains.get(t))))
  const told = [...amounts.keys()].filter((t) => isTold(t) && scope.tallies[t] && amounts[t]! > useful[t]!)
  const ends = told.length && endless.size <= mostEndless && told.every((t) => grains.has(t)) ? supposedOf(game, scope, asked, useful, endless) : null
  return {
    amounts,
    exact: amounts.map((amount, t) => (grains.has(t) ? mostOf(game, t) : amount)),
    once: nothing.amountsAfter(asked, counts),
    supposed: ends && amounts.map((amount, t) => (told.includes(t) ? Math.min(amount, onGrain(game, t, ends[t]!, grains.get(t))) : amount)),
    grains: new Map([...grains].filter(([t]) => told.includes(t))),
    isMoreNoHarm: isMoreNoHarm(game, scope, items, told),
  }
}

/** What is of any use, and what has no end then. */
function usefulOf(nothing: Enough, asked: readonly number[]): { amounts: number[]; endless: ReadonlySet<number> } {
  // What is repeated is of use until there is enough of all that it gives; that in turn can be spent.
  let found = nothing
  for (let round = 0; round < mostRounds; round++) {
    const next = found.next(asked)
    if (next.isAs(found)) return { amounts: found.amounts, endless: new Set() }
    found = next
  }
  const { amounts } = found.next(asked)
  return { amounts, endless: new Set([...amounts.keys()].filter((t) => amounts[t] !== found.amounts[t])) }
}

/** All that can ever be held; where some may be lost for want of room, there is never enough. */
function mostOf(game: Game, t: number): number {
  const { most } = everHeld(game)[t]!
  return most < game.tallies[t]!.max ? Math.min(unbounded, most) : unbounded
}

/** The next amount that can be held at all. */
function onGrain(game: Game, t: number, amount: number, grain: number | undefined): number {
  if (!grain || amount >= unbounded) return amount
  const { start } = game.tallies[t]!
  return start + Math.ceil((amount - start) / grain) * grain
}

/** What is of use of each, where none of what has no end is exchanged back, on whatever way, into what it came from. */
function supposedOf(game: Game, scope: Scope, asked: readonly number[], useful: readonly number[], endless: ReadonlySet<number>): number[] {
  const counts = game.sources.map(({ count }) => count)
  const supposed = (t: number, left: ReadonlySet<number>): number => {
    const others = new Set([...left].filter((u) => u !== t))
    const known = useful.map((amount, u) => (!endless.has(u) ? amount : others.has(u) ? supposed(u, others) : 0))
    return new Enough(game, scope, known, counts).next(asked).amounts[t]!
  }
  return useful.map((amount, t) => (endless.has(t) ? supposed(t, endless) : amount))
}

/** Whether more of some tallies never makes anything impossible. */
function isMoreNoHarm(game: Game, scope: Scope, items: readonly GameItem[], tallies: readonly number[]): boolean {
  const isHeard = tallies.some((t) => game.tallies[t]!.listeners.some((c) => scope.characters[c]))
  return !isHeard && items.every((item) => risesThroughout(game, item))
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
    return new Enough(game, scope, this.amountsAfter(asked, times), times)
  }

  /** What is asked for, and all that can be lost before. */
  amountsAfter(asked: readonly number[], times: readonly number[]): number[] {
    const lost = this.lost(times)
    return asked.map((amount, t) => Math.min(unbounded, amount + lost[t]!))
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
    const { least } = everHeld(this.game)[t]!
    if (least === -Infinity) return Infinity
    const { listeners } = this.game.tallies[t]!
    const heard = listeners.filter((c) => this.scope.characters[c]).map((c) => unitsToTop(this.game.characters[c]!, each))
    return Math.max(Math.ceil((this.amounts[t]! - least) / each), ...heard)
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

/** Units after which a character has all levels, even where each level-up loses what is over. */
function unitsToTop({ curve }: GameCharacter, each: number): number {
  return curve ? curve.values.reduce((sum, value) => sum + Math.floor(value / curve.grain / each) + 1, 0) : 0
}
