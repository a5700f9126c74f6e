import type { Column, Marks } from '../../language/columns.ts'
import { climb, gain, giveRewards, playOf, type Entered, type Play } from '../../rules/gain.ts'
import type { Game, GameCap, GameCost, GameYield } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { rollDrawn, type Streams } from '../chance.ts'
import type { Itinerary } from '../route/itinerary.ts'
import { nothing, type Flock } from './flock.ts'

interface Given {
  game: Game
  itinerary: Itinerary
  flock: Flock
  streams: Streams
}

/** What a flock pays and is given, for all who are meant in one go; only who earns a reward plays on alone for a moment. */
export class FlockGains {
  /** What each gets of the yield that is being given. */
  private readonly amounts: Column
  /** By tally: the characters walked who listen to it. */
  private readonly heard: readonly (readonly number[])[]
  /** By character: levels with a reward that bears on what is walked; `every`: all have. */
  private readonly rewarded: { every: boolean; levels: ReadonlySet<number> }[]
  private readonly entered: Entered[] = []
  /** Whose turn it is, where one plays alone. */
  private turn = 0
  private readonly play: Play

  constructor(private readonly o: Given) {
    const { game, itinerary, flock, streams } = o
    const { matters, characters } = itinerary
    this.amounts = new Float64Array(flock.size)
    this.heard = game.tallies.map(({ kind, listeners }) => (kind === 'experience' ? listeners.filter((c) => characters.includes(c)) : []))
    this.rewarded = game.characters.map(({ rewards }) => {
      const levels = rewards.filter(({ yields }) => yields.some((y) => matters[y.tally])).map(({ level }) => level)
      return { every: levels.includes('every'), levels: new Set(levels.filter((level) => level !== 'every')) }
    })
    // What falls on tallies outside of what is walked makes no difference, and draws nothing.
    this.play = playOf((y) => (matters[y.tally] ? rollDrawn(y.min, y.max, streams.next(this.turn)) : y.min))
  }

  /** A new cap for all marked in `who`: whose limit rises climbs once, then rewards are given. */
  setCap({ character, level }: GameCap, who: Marks): void {
    const { game, flock, itinerary } = this.o
    const capped = itinerary.characters.filter((c) => character === null || character === c)
    for (let i = 0; i < who.length; i++) {
      if (!who[i]) continue
      for (const c of capped) {
        const { curve } = game.characters[c]!
        const before = flock.limit(c, i)
        flock.cap[c]![i] = level
        const limit = flock.limit(c, i)
        if (limit > before && curve) climb(flock.standing[c]!, i, c, curve, limit, this.play, this.entered)
        if (limit !== before) flock.notePlain(c, i)
      }
      this.giveEarned(i)
    }
  }

  /** Gives what the levels entered earn, one by one, where that bears on what is walked. */
  private giveEarned(i: number): void {
    const { entered } = this
    if (entered.length === 0) return
    if (entered.some(({ character, level }) => this.rewarded[character]!.every || this.rewarded[character]!.levels.has(level))) {
      this.playAlone(i, (state) => giveRewards(this.o.game, state, entered, this.play))
    }
    entered.length = 0
  }

  pay({ tally, amount }: GameCost, who: Marks): void {
    const { min, max } = this.o.game.tallies[tally]!
    const has = this.o.flock.tallies[tally]!
    for (let i = 0; i < who.length; i++) if (who[i]) has[i] = clamped(has[i]! - amount, min, max)
  }

  /** Gives each as many units of what an item yields as `units` says. */
  give(yields: readonly GameYield[], units: Column): void {
    for (const y of yields) {
      if (!this.o.itinerary.matters[y.tally]) continue
      this.roll(units, y)
      const heard = this.heard[y.tally]!
      if (heard.length === 0) this.add(y.tally, units)
      else if (heard.length === 1) this.giveToOne(y.tally, heard, units)
      else this.giveToAll(y.tally, heard, units)
    }
  }

  /** What each gets of one yield for all the units. */
  private roll(units: Column, { min, max }: GameYield): void {
    const { amounts } = this
    if (min === max) {
      for (let i = 0; i < amounts.length; i++) amounts[i] = min * units[i]!
      return
    }
    for (let i = 0; i < amounts.length; i++) {
      amounts[i] = 0
      for (let unit = 0; unit < units[i]!; unit++) amounts[i]! += rollDrawn(min, max, this.o.streams.next(i))
    }
  }

  private add(t: number, units: Column): void {
    const { min, max } = this.o.game.tallies[t]!
    const [has, amounts] = [this.o.flock.tallies[t]!, this.amounts]
    for (let i = 0; i < has.length; i++) if (units[i]) has[i] = clamped(has[i]! + amounts[i]!, min, max)
  }

  /** Gives each who gets any units their amount of a tally to which one character listens. */
  private giveToOne(t: number, listeners: readonly number[], units: Column): void {
    const { game, flock } = this.o
    const c = listeners[0]!
    const { min, max } = game.tallies[t]!
    const grain = game.characters[c]!.curve?.grain ?? 0
    const [has, xp, plainBelow, amounts] = [flock.tallies[t]!, flock.xp[c]!, flock.plainBelow[c]!, this.amounts]
    for (let i = 0; i < has.length; i++) {
      if (!units[i]) continue
      const after = xp[i]! + amounts[i]! * grain
      if (after < plainBelow[i]!) {
        xp[i] = after
        has[i] = clamped(has[i]! + amounts[i]!, min, max)
      } else this.giveOne(t, listeners, i)
    }
  }

  private giveToAll(t: number, listeners: readonly number[], units: Column): void {
    for (let i = 0; i < units.length; i++) if (units[i]) this.giveOne(t, listeners, i)
  }

  private giveOne(t: number, listeners: readonly number[], i: number): void {
    const { game, flock } = this.o
    const amount = this.amounts[i]!
    const { min, max } = game.tallies[t]!
    flock.tallies[t]![i] = clamped(flock.tallies[t]![i]! + amount, min, max)
    for (const c of listeners) {
      const { curve } = game.characters[c]!
      if (!curve || !flock.present[c]![i]) continue
      gain(flock.standing[c]!, i, c, curve, flock.limit(c, i), amount, this.play, this.entered)
      if (this.entered.length) flock.notePlain(c, i)
    }
    this.giveEarned(i)
  }

  private playAlone(i: number, move: (state: State) => void): void {
    this.turn = i
    move(this.o.flock.get(i, nothing))
    this.o.flock.put(i)
  }
}

function clamped(value: number, min: number, max: number): number {
  return value < min ? min : value > max ? max : value
}
