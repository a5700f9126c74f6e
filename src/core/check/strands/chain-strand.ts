import { climb, gain, plainPlay } from '../../rules/gain.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { limitOf, newState, toStartLevel, type State } from '../../rules/state.ts'
import { binomial, everyOutcome } from '../chance.ts'

/** Levels with their XP are told apart by one number: level × `perLevel` + XP. */
const perLevel = 2 ** 40

/** Levels and XP that a character may have side by side; where there are more, walks are drawn. */
const mostStates = 4_000

/**
 * A character's level and XP where they are no mere sum (docs/model.md 2): XP lost at a cap, one level for each gain. How likely each
 * is, gain by gain, in the order in which they come to everybody.
 */
export class ChainStrand {
  private states = new Map<number, number>()
  private readonly state: State
  /** By amount: what each level and XP become with a gain of it. */
  private readonly gained = new Map<number, Map<number, number>>()
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
    this.states = new Map([[this.key(), 1]])
  }

  private key(): number {
    const [level, xp] = [this.state.level[this.character]!, this.state.xp[this.character]!]
    if (xp >= perLevel || xp < 0) this.isLost = true
    return level * perLevel + xp
  }

  private stand(key: number): void {
    const level = Math.floor(key / perLevel)
    this.state.level[this.character] = level
    this.state.xp[this.character] = key - level * perLevel
  }

  /** XP of `count` units, each of which comes with probability `share` and gives these yields one after another. */
  add(yields: readonly GameYield[], count: number, share: number): void {
    if (this.isLost || yields.length === 0 || share === 0) return
    if (share === 1) for (let unit = 0; unit < count; unit++) this.addUnit(yields)
    else this.addSome(yields, binomial(count, share))
    if (this.states.size > mostStates) this.isLost = true
  }

  private addUnit(yields: readonly GameYield[]): void {
    for (const y of yields) this.states = this.after(y, this.states)
  }

  /** `chances`: of how many units come. */
  private addSome(yields: readonly GameYield[], chances: readonly number[]): void {
    const all = new Map<number, number>()
    chances.forEach((chance, units) => {
      if (units > 0) this.addUnit(yields)
      for (const [key, weight] of this.states) put(all, key, weight * chance)
    })
    this.states = all
  }

  private after(y: GameYield, states: ReadonlyMap<number, number>): Map<number, number> {
    const after = new Map<number, number>()
    for (const [amount, chance] of everyOutcome.rolls((roll) => (y.min === y.max ? y.min : roll(y)))) {
      const known = this.gainedBy(amount)
      for (const [key, weight] of states) {
        let next = known.get(key)
        if (next === undefined) known.set(key, (next = this.gain(key, amount)))
        put(after, next, weight * chance)
      }
    }
    return after
  }

  private gainedBy(amount: number): Map<number, number> {
    let known = this.gained.get(amount)
    if (!known) this.gained.set(amount, (known = new Map()))
    return known
  }

  private gain(key: number, amount: number): number {
    const { game, character: c, state } = this
    const { curve } = game.characters[c]!
    if (!curve) return key
    this.stand(key)
    gain(state, c, c, curve, limitOf(game, state, c), amount, plainPlay, [])
    return this.key()
  }

  /** Its cap is set for everybody: who waited at a lower one climbs once. */
  setCap(level: number): void {
    const { game, character: c, state } = this
    const { curve } = game.characters[c]!
    const before = limitOf(game, state, c)
    state.cap[c] = level
    this.gained.clear()
    if (!curve || limitOf(game, state, c) <= before) return
    const after = new Map<number, number>()
    for (const [key, weight] of this.states) {
      this.stand(key)
      climb(state, c, c, curve, limitOf(game, state, c), plainPlay, [])
      put(after, this.key(), weight)
    }
    this.states = after
  }

  /** The lowest and the highest level it can have. */
  levels(): [low: number, high: number] {
    let [low, high] = [Infinity, -Infinity]
    for (const key of this.states.keys()) {
      const level = Math.floor(key / perLevel)
      low = Math.min(low, level)
      high = Math.max(high, level)
    }
    return [low, high]
  }

  /** Tells of every level and XP with its weight, read into a state, which is left as it was. */
  each(state: State, tell: (weight: number) => void): void {
    const c = this.character
    const before = [state.level[c]!, state.xp[c]!, state.cap[c]!] as const
    state.cap[c] = this.state.cap[c]!
    for (const [key, weight] of this.states) {
      this.stand(key)
      state.level[c] = this.state.level[c]!
      state.xp[c] = this.state.xp[c]!
      tell(weight)
    }
    ;[state.level[c], state.xp[c], state.cap[c]] = before
  }
}

function put(into: Map<number, number>, key: number, weight: number): void {
  into.set(key, (into.get(key) ?? 0) + weight)
}
