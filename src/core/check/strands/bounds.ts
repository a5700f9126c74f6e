import { truthOf, type Outcome } from '../../language/ranges.ts'
import { gain, plainPlay, type Entered } from '../../rules/gain.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameCap, GameCost, GameItem, GameProfile, GameYield } from '../../rules/game.ts'
import { cloneState, copyState, limitOf, newState, toStartLevel, type State } from '../../rules/state.ts'
import type { Itinerary } from '../route/itinerary.ts'
import { askedBy } from './asked.ts'
import type { Change, Changes } from './change.ts'

/**
 * How a change comes: `once`: now, for everybody. `may`: from now on it may have come, for some and not for others. `done`: it has come
 * for everybody, having been only possible before.
 */
export type Coming = 'once' | 'may' | 'done'

/** How many units come: at least, and at most. */
interface Units {
  least: number
  most: number
}
const one: Units = { least: 1, most: 1 }

/** What changes of bounds along the way, by tally or by character. */
const changing = ['least', 'most', 'pending', 'awaited', 'isHeld', 'isFree', 'isLost', 'isReckoned', 'topLimit', 'pendingCaps'] as const

/** Where bounds stood, to go on from there once more. */
export interface KeptBounds {
  low: State
  high: State
  lists: readonly (Float64Array | Int32Array | Uint8Array)[]
  rewards: ReadonlyMap<string, 'may' | 'done'>
}

export interface BoundsOptions {
  game: Game
  profile: GameProfile
  itinerary: Itinerary
  changes: Changes
  /** Told of a reward that everybody has been given by now. */
  rewarded: (changes: readonly Change[]) => void
}

/**
 * Between what bounds everything is, of all players of one kind who are at the same point of a route: nobody has less than `low`, nor
 * more than `high`, of anything. A tally is settled where all that has come to it has come to everybody: then it is a sum of independent
 * parts, and its bounds are reached.
 */
export class Bounds {
  readonly game: Game
  readonly low: State
  readonly high: State
  /** By tally: what its changes come to, where nothing holds it at its min or max. */
  private readonly least: Float64Array
  private readonly most: Float64Array
  /** By tally: changes that have come to some, perhaps, and not to others. */
  private readonly pending: Int32Array
  /** Those of them that are rewards. */
  private readonly awaited: Int32Array
  /** By tally: whether it may have been held at its min or max. */
  private readonly isHeld: Uint8Array
  /** By tally: whether rewards give of it that come nobody knows when. */
  private readonly isFree: Uint8Array
  /** By tally: whether nothing is known of it any more: 1: until it goes back to its start; 2: for good. */
  private readonly isLost: Uint8Array
  /** By character: whether the levels of those with least and most XP are bounds of its level. */
  private readonly isReckoned: Uint8Array
  /** By character: the highest limit there has been since its level was at its start. */
  private readonly topLimit: Int32Array
  private readonly capped: ReadonlySet<number>
  private readonly pendingCaps: Int32Array
  /** Rewards that some may have been given, by character and level. */
  private readonly rewards = new Map<string, 'may' | 'done'>()

  constructor(private readonly o: BoundsOptions) {
    const { game, itinerary } = o
    this.game = game
    this.low = newState(game)
    this.high = newState(game)
    this.least = this.low.tallies.slice()
    this.most = this.high.tallies.slice()
    const [tallies, characters] = [game.tallies.length, game.characters.length]
    this.pending = new Int32Array(tallies)
    this.awaited = new Int32Array(tallies)
    this.isHeld = new Uint8Array(tallies)
    this.isFree = new Uint8Array(tallies)
    this.isLost = new Uint8Array(tallies)
    this.isReckoned = new Uint8Array(characters)
    this.topLimit = new Int32Array(characters)
    this.pendingCaps = new Int32Array(characters)
    this.capped = cappedIn(game, itinerary)
    for (const c of itinerary.characters) this.isReckoned[c] = Number(this.isReckonable(c))
    this.freeRewards(itinerary.characters.filter((c) => !this.isReckoned[c]))
    for (const t of itinerary.tallies) this.refresh(t)
    for (const c of itinerary.characters) this.loosen(c)
  }

  keep(): KeptBounds {
    const { low, high, rewards } = this
    return { low: cloneState(low), high: cloneState(high), lists: changing.map((list) => this[list].slice()), rewards: new Map(rewards) }
  }

  /** Stand where others of the same portion stood. */
  goOnFrom({ low, high, lists, rewards }: KeptBounds): void {
    copyState(low, this.low)
    copyState(high, this.high)
    changing.forEach((list, i) => this[list].set(lists[i]!))
    for (const [name, coming] of rewards) this.rewards.set(name, coming)
  }

  /** Whether a tally goes back to its start at each stop. */
  readonly resetsOn = (t: number): boolean => {
    const { resets } = this.game.tallies[t]!
    return resets === 'place' || (resets === 'retry' && this.o.profile.retries > 0)
  }

  /** Whether more XP never makes less of a level, in whatever parts it comes. */
  isReckonable(c: number): boolean {
    const { curve, tally } = this.game.characters[c]!
    if (!curve || tally < 0) return true
    return !this.capped.has(c) && curve.remainder === 'carry' && curve.levelsPerGain === 'many' && !this.resetsOn(tally)
  }

  /** Of rewards of levels that are not reckoned nobody knows when they come: neither of what they give, nor of levels by that. */
  private freeRewards(characters: readonly number[]): void {
    const left = [...characters]
    const gone = new Set(left)
    for (const c of left) {
      for (const { tally, min } of this.game.characters[c]!.rewards.flatMap(({ yields }) => yields)) {
        if (min < 0 || this.game.tallies[tally]!.listeners.length) this.isLost[tally] = 2
        this.isFree[tally] = 1
        for (const listener of this.game.tallies[tally]!.listeners) {
          this.isReckoned[listener] = 0
          if (!gone.has(listener)) left.push(listener)
          gone.add(listener)
        }
      }
    }
    for (const t of this.o.itinerary.tallies) {
      if (!this.isFree[t]) continue
      this.isHeld[t] = 1
      this.refresh(t)
    }
  }

  /** Whether everybody has the same of a tally. */
  isSame(t: number): boolean {
    return this.low.tallies[t] === this.high.tallies[t]
  }

  /** Whether everybody has the same level, and has made the same way into the next. */
  isLevelSame(c: number): boolean {
    const { low, high } = this
    if (low.level[c] !== high.level[c]) return false
    const isAtLimit = low.level[c]! >= limitOf(this.game, high, c)
    return isAtLimit || !high.present[c] || (this.isReckoned[c] === 1 && low.xp[c] === high.xp[c])
  }

  /** Whether a tally is a sum of what has come to everybody. */
  isSettled(t: number): boolean {
    return this.pending[t] === 0 && !this.isHeld[t] && !this.isLost[t]
  }

  /** Whether a tally is such a sum but for what levels give that some have reached, and others have not. */
  isSettledButForRewards(t: number): boolean {
    return this.pending[t] === this.awaited[t] && !this.isHeld[t] && !this.isLost[t]
  }

  /** The least and the most that anybody has of a tally. */
  endsOf(t: number): [number, number] {
    return [this.low.tallies[t]!, this.high.tallies[t]!]
  }

  /** Whether some of what comes to a tally may have come to some players only. */
  isPending(t: number): boolean {
    return this.pending[t]! > 0
  }

  isCapPending(c: number): boolean {
    return this.pendingCaps[c]! > 0
  }

  /** All enter a place: the tallies that go back to their start. */
  enter(place: number): number[] {
    const { game, itinerary } = this.o
    for (const state of [this.low, this.high]) {
      state.place = place
      state.visited[place] = 1
    }
    const reset = itinerary.tallies.filter(this.resetsOn)
    for (const t of reset) this.reset(t)
    for (const c of itinerary.characters) {
      if (game.characters[c]!.joins !== place) continue
      for (const state of [this.low, this.high]) state.present[c] = 1
      this.join(c)
    }
    return reset
  }

  private join(c: number): void {
    // What may have come to some before this one was there, may come to others now that it is.
    if (this.isReckoned[c] && this.pending[this.game.characters[c]!.tally]) {
      this.isReckoned[c] = 0
      this.freeRewards([c])
    }
    this.loosen(c)
  }

  private reset(t: number): void {
    const { game } = this
    // Of what has come to some before, and may come to others yet, nobody knows how much is left.
    if (this.pending[t]) this.isLost[t] = 2
    if (this.isLost[t] === 1) this.isLost[t] = 0
    this.isHeld[t] = this.isFree[t]!
    this.least[t] = this.most[t] = game.tallies[t]!.start
    this.refresh(t)
    for (const c of game.tallies[t]!.listeners) {
      toStartLevel(game, this.low, c)
      toStartLevel(game, this.high, c)
      this.topLimit[c] = 0
      this.loosen(c)
    }
  }

  /** Whether what an item requires holds: for everybody, for nobody, or for some. */
  truth(item: GameItem): Outcome {
    if (item.error) return 'no'
    return item.requires.node ? truthOf(askedBy(this.game, item).range(this)) : 'yes'
  }

  /** Whether all costs together can be paid. */
  canPay(costs: readonly GameCost[]): Outcome {
    let outcome: Outcome = 'yes'
    for (const { tally } of costs) {
      const { min } = this.game.tallies[tally]!
      const asked = askedOf(costs, tally)
      if (min === -Infinity || this.low.tallies[tally]! - asked >= min) continue
      if (this.high.tallies[tally]! - asked < min) return 'no'
      outcome = 'maybe'
    }
    return outcome
  }

  /** Whether everybody can pay for all units that may come, when they have been counted in already. */
  canPayAll(costs: readonly GameCost[], changes: readonly Change[]): boolean {
    return changes.every(({ tally, paid, min }) => {
      const floor = this.game.tallies[tally]!.min
      if (paid === 0 || floor === -Infinity) return true
      return !this.isHeld[tally] && !this.isLost[tally] && this.least[tally]! + Math.max(0, -min) - askedOf(costs, tally) >= floor
    })
  }

  /** Changes that come to players in `units`. */
  change(changes: readonly Change[], coming: Coming, units = one): void {
    for (const change of changes) this.changeOne(change, coming, units)
    for (const { tally, yields } of changes) if (this.game.tallies[tally]!.kind === 'experience') this.gain(tally, yields, coming, units)
  }

  private changeOne(change: Change, coming: Coming, { least, most }: Units): void {
    const { tally: t, min, max } = change
    if (coming === 'may') this.pending[t]! += 1
    if (coming !== 'done') this.hold(change, most)
    const low = Math.min(least * min, most * min)
    const high = Math.max(least * max, most * max)
    const lowest = Math.min(0, most * min)
    const highest = Math.max(0, most * max)
    if (this.isHeld[t]) this.changeHeld(change, coming, low, high)
    else {
      this.least[t]! += coming === 'once' ? low : coming === 'may' ? lowest : low - lowest
      this.most[t]! += coming === 'once' ? high : coming === 'may' ? highest : high - highest
    }
    if (coming === 'done') this.pending[t]! -= 1
    this.refresh(t)
  }

  private hold({ tally: t, paid, dips, climbs }: Change, units: number): void {
    const { min, max } = this.game.tallies[t]!
    if (this.most[t]! + units * climbs > max || (dips < 0 && this.least[t]! + units * (dips - paid) < min)) this.isHeld[t] = 1
  }

  /** What is held at an end forgets by how much it went past it: what came when makes a difference. */
  private changeHeld({ tally: t, paid, dips, climbs }: Change, coming: Coming, low: number, high: number): void {
    const tally = this.game.tallies[t]!
    const isOneWay = (dips === 0 && paid === 0) || climbs === 0
    if (coming !== 'once' || this.pending[t] || !isOneWay) this.isLost[t] ||= 1
    this.least[t] = Math.min(this.least[t]! + low, tally.max)
    this.most[t] = Math.max(this.most[t]! + high, tally.min)
  }

  /** XP for all who listen, of players with the least and with the most of it. */
  private gain(t: number, yields: readonly GameYield[], coming: Coming, { least, most }: Units): void {
    for (const { min, max } of yields) {
      const below: Entered[] = []
      const above: Entered[] = []
      for (const c of this.game.tallies[t]!.listeners) {
        const { curve } = this.game.characters[c]!
        if (!curve || !this.isReckoned[c] || !this.low.present[c]) continue
        if (coming !== 'may') gain(this.low, c, c, curve, limitOf(this.game, this.low, c), least * min, plainPlay, below)
        if (coming !== 'done') gain(this.high, c, c, curve, limitOf(this.game, this.high, c), most * max, plainPlay, above)
      }
      if (below.length || above.length) this.reward(below, above)
    }
  }

  private reward(below: readonly Entered[], above: readonly Entered[]): void {
    const names = new Set(below.map(nameOf))
    for (const entered of above) {
      if (this.rewards.has(nameOf(entered))) continue
      const isSure = names.has(nameOf(entered))
      this.rewards.set(nameOf(entered), isSure ? 'done' : 'may')
      this.giveReward(entered, isSure ? 'once' : 'may')
    }
    for (const entered of below) {
      if (this.rewards.get(nameOf(entered)) === 'done') continue
      this.rewards.set(nameOf(entered), 'done')
      this.giveReward(entered, 'done')
    }
  }

  private giveReward({ character, level }: Entered, coming: Coming): void {
    for (const reward of this.game.characters[character]!.rewards) {
      if (reward.level !== 'every' && reward.level !== level) continue
      const changes = this.o.changes.ofReward(reward)
      this.change(changes, coming)
      if (coming !== 'once') for (const { tally } of changes) this.awaited[tally]! += coming === 'may' ? 1 : -1
      if (coming !== 'may') this.o.rewarded(changes)
    }
  }

  /** Caps set, one after another. */
  setCaps(caps: readonly GameCap[], coming: Coming): void {
    for (const { character, level } of caps) for (const c of this.o.itinerary.characters) {
      if (character !== null && character !== c) continue
      if (coming === 'once' && this.pendingCaps[c] === 0) this.low.cap[c] = this.high.cap[c] = level
      else if (coming !== 'done') {
        this.low.cap[c] = Math.min(this.low.cap[c]!, level)
        this.high.cap[c] = Math.max(this.high.cap[c]!, level)
      }
      if (coming !== 'once') this.pendingCaps[c]! += coming === 'may' ? 1 : -1
      this.loosen(c)
    }
  }

  /** The levels that a character can have, as they have been worked out apart. */
  setLevels(c: number, low: number, high: number): void {
    if (this.isReckoned[c]) return
    this.low.level[c] = low
    this.high.level[c] = high
  }

  private refresh(t: number): void {
    const { min, max } = this.game.tallies[t]!
    if (this.isFree[t]) this.most[t] = Infinity
    if (this.isLost[t]) [this.least[t], this.most[t]] = [min, max]
    this.low.tallies[t] = Math.min(Math.max(this.least[t]!, min), max)
    this.high.tallies[t] = Math.min(Math.max(this.most[t]!, min), max)
  }

  /** Of a level that is not reckoned only the limits are known: a cap that is set lower takes no level back. */
  loosen(c: number): void {
    if (this.isReckoned[c] || !this.high.present[c]) return
    const { curve, startLevel } = this.game.characters[c]!
    this.topLimit[c] = Math.max(this.topLimit[c]!, curve ? limitOf(this.game, this.high, c) : startLevel)
    this.low.level[c] = startLevel
    this.high.level[c] = Math.max(startLevel, this.topLimit[c]!)
  }
}

function nameOf({ character, level }: Entered): string {
  return `${character} ${level}`
}

/** Characters whose cap something sets, of those that are walked. */
function cappedIn(game: Game, { items, anywhere, characters }: Itinerary): Set<number> {
  const found = new Set<number>()
  const look = (item: number) => {
    const { caps } = item >= 0 ? game.sources[item]! : game.gates[-1 - item]!
    for (const { character } of caps) for (const c of character === null ? characters : [character]) found.add(c)
  }
  for (const list of items) list.forEach(look)
  for (const g of anywhere) look(-1 - g)
  return found
}
