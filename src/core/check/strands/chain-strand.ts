import { climb, gain, plainPlay } from '../../rules/gain.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { limitOf, newState, toStartLevel, type State } from '../../rules/state.ts'
import { binomial, everyOutcome } from '../chance.ts'
import { whereReached } from '../quantiles.ts'
import type { Quantiles } from '../result.ts'
import { Odds } from './odds.ts'

/** Levels with their XP are told apart by one number: level × `perLevel` + XP. */
const perLevel = 2 ** 40

/** Levels and XP that a character may have side by side; where there are more, walks are drawn. */
const mostAtOnce = 4_000

/** So many are numbered along the way, before those that nobody has any more are forgotten. */
const mostNumbered = 50_000

/** What a character has come to, to go on from there once more: how likely it is to be at each standing. */
export interface KeptChain {
  cap: number
  odds: readonly [standing: number, weight: number][]
  isLost: boolean
}

/**
 * A character's level and XP where they are no mere sum (docs/model.md 2): XP lost at a cap, one level for each gain. How likely each
 * is, gain by gain, in the order in which they come to everybody.
 */
export class ChainStrand {
  /** All that it has been in, by number: level × `perLevel` + XP; and the numbers of these. */
  private standings: number[] = []
  private readonly numbers = new Map<number, number>()
  /** How likely it is to stand at each; and room for how likely it is after a gain, and after units of which some may come. */
  private now = new Odds()
  private next = new Odds()
  private some = new Odds()
  /** By amount, and by number: where a gain of it leads. */
  private readonly led = new Map<number, number[]>()
  private known: { levels?: [low: number, high: number]; inOrder?: number[] } = {}
  private readonly state: State
  /** Whether it could not be followed, and nothing is known of it any more. */
  isLost = false

  constructor(
    private readonly game: Game,
    readonly character: number,
  ) {
    this.state = newState(game)
    this.reset()
  }

  reset(): void {
    toStartLevel(this.game, this.state, this.character)
    this.now.clear()
    this.now.add(this.numberNow(), 1)
    this.known = {}
  }

  keep(): KeptChain {
    const { character, now, standings, state, isLost } = this
    return { cap: state.cap[character]!, odds: now.listed.map((n) => [standings[n]!, now.of(n)]), isLost }
  }

  /** Stands as one of the same character stood. */
  goOnFrom({ cap, odds, isLost }: KeptChain): void {
    this.state.cap[this.character] = cap
    this.isLost = isLost
    this.now.clear()
    for (const [standing, weight] of odds) this.now.add(this.numberOf(standing), weight)
    this.led.clear()
    this.known = {}
  }

  /** The number of where the state stands. */
  private numberNow(): number {
    const [level, xp] = [this.state.level[this.character]!, this.state.xp[this.character]!]
    if (xp >= perLevel || xp < 0) this.isLost = true
    return this.numberOf(level * perLevel + xp)
  }

  private numberOf(standing: number): number {
    const known = this.numbers.get(standing)
    if (known !== undefined) return known
    this.numbers.set(standing, this.standings.push(standing) - 1)
    return this.standings.length - 1
  }

  private levelAt(n: number): number {
    return Math.floor(this.standings[n]! / perLevel)
  }

  private stand(n: number): void {
    const level = this.levelAt(n)
    this.state.level[this.character] = level
    this.state.xp[this.character] = this.standings[n]! - level * perLevel
  }

  /** XP of `count` units, each of which comes with probability `share` and gives these yields one after another. */
  add(yields: readonly GameYield[], count: number, share: number): void {
    if (this.isLost || yields.length === 0 || share === 0) return
    if (share === 1) for (let unit = 0; unit < count; unit++) this.addUnit(yields)
    else this.addSome(yields, binomial(count, share))
    if (this.now.listed.length > mostAtOnce) this.isLost = true
    if (this.standings.length > mostNumbered) this.numberAnew()
    this.known = {}
  }

  private addUnit(yields: readonly GameYield[]): void {
    for (const y of yields) this.gainEach(y)
  }

  /** `chances`: of how many units come. */
  private addSome(yields: readonly GameYield[], chances: readonly number[]): void {
    const { some } = this
    some.clear()
    chances.forEach((chance, units) => {
      if (units > 0) this.addUnit(yields)
      for (const n of this.now.listed) some.add(n, this.now.of(n) * chance)
    })
    ;[this.now, this.some] = [some, this.now]
  }

  private numberAnew(): void {
    const { now, standings } = this
    const anew = new Odds()
    this.standings = []
    this.numbers.clear()
    this.led.clear()
    for (const n of now.listed) anew.add(this.numberOf(standings[n]!), now.of(n))
    this.now = anew
  }

  private gainEach(y: GameYield): void {
    const { now, next } = this
    for (const [amount, chance] of everyOutcome.rolls((roll) => (y.min === y.max ? y.min : roll(y)))) {
      const led = this.ledBy(amount)
      for (const n of now.listed) next.add((led[n] ??= this.leadsTo(n, amount)), now.of(n) * chance)
    }
    this.moveOn()
  }

  /** What comes next is what there is now. */
  private moveOn(): void {
    this.now.clear()
    ;[this.now, this.next] = [this.next, this.now]
  }

  private ledBy(amount: number): number[] {
    let known = this.led.get(amount)
    if (!known) this.led.set(amount, (known = []))
    return known
  }

  private leadsTo(n: number, amount: number): number {
    const { game, character: c, state } = this
    const { curve } = game.characters[c]!
    if (!curve) return n
    this.stand(n)
    gain(state, c, c, curve, limitOf(game, state, c), amount, plainPlay, [])
    return this.numberNow()
  }

  /** Its cap is set for everybody: who waited at a lower one climbs once. */
  setCap(level: number): void {
    const { game, character: c, state, now, next } = this
    const { curve } = game.characters[c]!
    const before = limitOf(game, state, c)
    state.cap[c] = level
    this.led.clear()
    if (!curve || limitOf(game, state, c) <= before) return
    for (const n of now.listed) {
      this.stand(n)
      climb(state, c, c, curve, limitOf(game, state, c), plainPlay, [])
      next.add(this.numberNow(), now.of(n))
    }
    this.moveOn()
    this.known = {}
  }

  /** The lowest and the highest level it can have. */
  levels(): [low: number, high: number] {
    return (this.known.levels ??= this.lowestAndHighest())
  }

  private lowestAndHighest(): [low: number, high: number] {
    let [low, high] = [Infinity, -Infinity]
    for (const n of this.now.listed) {
      const standing = this.standings[n]!
      if (standing < low) low = standing
      if (standing > high) high = standing
    }
    return [Math.floor(low / perLevel), Math.floor(high / perLevel)]
  }

  /** Tells of every level and XP with its weight, read into a state, which is left as it was. */
  each(state: State, tell: (weight: number) => void): void {
    this.reading(state, (readAt) => {
      for (const n of this.now.listed) {
        readAt(n)
        tell(this.now.of(n))
      }
    })
  }

  /** What is read at its least, its quantiles and its most, where it is never less of a higher level or of more XP. */
  quantilesOf(state: State, read: () => number): Quantiles {
    const inOrder = (this.known.inOrder ??= [...this.now.listed].sort((a, b) => this.standings[a]! - this.standings[b]!))
    const weights = inOrder.map((n) => this.now.of(n))
    const total = weights.reduce((sum, weight) => sum + weight)
    const last = inOrder.length - 1
    const reached = whereReached(weights, [0.05, 0.5, 0.95].map((share) => share * total))
    return this.reading(state, (readAt) => {
      const [min, q05, median, q95, max] = [0, ...reached, last].map((i) => {
        readAt(inOrder[i]!)
        return read()
      }) as [number, number, number, number, number]
      return { min, q05, median, q95, max }
    })
  }

  /** Runs something that reads where it stands into a state, and leaves the state as it was. */
  private reading<T>(state: State, run: (readAt: (n: number) => void) => T): T {
    const c = this.character
    const before = [state.level[c]!, state.xp[c]!, state.cap[c]!] as const
    state.cap[c] = this.state.cap[c]!
    const result = run((n) => {
      this.stand(n)
      state.level[c] = this.state.level[c]!
      state.xp[c] = this.state.xp[c]!
    })
    ;[state.level[c], state.xp[c], state.cap[c]] = before
    return result
  }
}
