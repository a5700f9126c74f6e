import { remembered } from '../../plan/remembered.ts'
import type { Game } from '../../rules/game.ts'
import { newState, type State } from '../../rules/state.ts'
import { binomial } from '../chance.ts'
import { mixture, type Portioned } from '../sums/mixture.ts'
import { RunningSum } from '../sums/running-sum.ts'
import { Spread } from '../sums/spread.ts'
import { changesOf, type Change } from './change.ts'
import type { SumStrand } from './sum-strand.ts'

/** Values that XP and the tally may have together; where there are more, walks are drawn. */
const mostTogether = 50_000
/** The same of those that the units of a source make, before what is alike becomes one. */
const mostMade = 500_000

/** Levels that earn the same, from so many steps of XP on. */
interface Earning {
  from: number
  gift: Spread
}

/** What has come of XP and of the tally, to go on from there once more. */
export interface KeptRewarded {
  together: ReadonlyMap<number, Spread>
  xpApart: RunningSum
  sumApart: RunningSum
  isLost: boolean
}

/** What a level of a character gives of the tally. */
interface Reward {
  character: number
  at: number | 'every'
  change: Change
}

/**
 * A tally of which levels give that some have reached and others have not: no sum of independent parts, for what gives of it may bring
 * XP as well. What such units bring is followed together, all else of both apart; then each amount of XP earns what it earns.
 */
export class RewardedSum {
  /** Whether it could not be followed, and nothing is known of it any more. */
  isLost = false
  /** By steps of XP that came with steps of the tally: how likely those are. */
  private together: ReadonlyMap<number, Spread> = new Map([[0, Spread.at(0)]])
  private xpApart = new RunningSum()
  private sumApart = new RunningSum()
  private now: Spread | null = null
  private readonly state: State
  private readonly gifts = new Map<string, Spread>()
  private readonly rewards: readonly Reward[]

  constructor(
    private readonly game: Game,
    readonly sum: SumStrand,
    readonly xp: SumStrand,
    /** Whose levels give of it: their levels are read off the XP. */
    characters: readonly number[],
  ) {
    this.state = newState(game)
    this.rewards = characters.flatMap((character) => game.characters[character]!.rewards.flatMap(({ level, yields }) =>
      changesOf(yields, []).filter(({ tally }) => tally === sum.tally).map((change) => ({ character, at: level, change }))))
  }

  keep(): KeptRewarded {
    const { together, xpApart, sumApart, isLost } = this
    return { together, xpApart: xpApart.copy(), sumApart: sumApart.copy(), isLost }
  }

  /** Stands as one of the same tally stood. */
  goOnFrom({ together, xpApart, sumApart, isLost }: KeptRewarded): void {
    this.together = together
    this.xpApart = xpApart.copy()
    this.sumApart = sumApart.copy()
    this.isLost = isLost
    this.now = null
  }

  /** Adds what a change in `count` units, each of which comes with probability `share`, makes of the tally and of the XP. */
  add(changes: readonly Change[], count: number, share: number): void {
    const [own, xp] = [this.sum, this.xp].map(({ tally }) => changes.find((change) => change.tally === tally))
    if (this.isLost || share === 0 || !(own ?? xp)) return
    this.isLost = this.sum.isTooWide || this.xp.isTooWide
    if (this.isLost) return
    this.now = null
    if (own && xp && share < 1) return this.addTogether(own, xp, count, share)
    if (own) this.sumApart.add(this.sum.kernelOf(own, count, share))
    if (xp) this.xpApart.add(this.xp.kernelOf(xp, count, share))
  }

  private addTogether(own: Change, xp: Change, count: number, share: number): void {
    const units = binomial(count, share).map((chance, n) => ({ chance, ofSum: this.sum.kernelOf(own, n, 1), ofXp: this.xp.kernelOf(xp, n, 1) }))
    const made = units.reduce((sum, { ofSum, ofXp }) => sum + ofSum.points * ofXp.points, 0)
    // Who has most of both is who takes all, and who has least takes nothing, as long as nothing takes away. What would take too long is not begun.
    this.isLost = own.min < 0 || own.paid > 0 || this.values * made > mostMade
    if (this.isLost) return
    const after = new Map<number, Portioned[]>()
    // What is negligible is left out of a spread; of some nothing is left.
    const put = (steps: number, part: Portioned) => {
      if (part.share > 0 && part.spread.weights.length > 0) remembered(after, steps, () => []).push(part)
    }
    for (const [steps, spread] of this.together) for (const { chance, ofSum, ofXp } of units) {
      const more = spread.plus(ofSum)
      ofXp.weights.forEach((weight, i) => put(steps + ofXp.from + i, { spread: more, share: chance * weight }))
    }
    this.together = new Map([...after].map(([steps, parts]) => [steps, mixture(parts)]))
    this.isLost = this.values > mostTogether
  }

  /** How many values XP and the tally may have together. */
  private get values(): number {
    let values = 0
    for (const { weights } of this.together.values()) values += weights.length
    return values
  }

  /** Whether levels have nothing left to give, even to those with the lowest. */
  isOver({ level }: State): boolean {
    return this.rewards.every(({ character, at }) => at !== 'every' && at <= level[character]!)
  }

  /** Tells of every amount with its weight, read into a state; and of the ends, without weight. */
  each(state: State, ends: readonly number[], tell: (weight: number) => void): void {
    const { sum } = this
    sum.eachAmount((this.now ??= this.mixed()), state, tell)
    sum.eachPossible(ends.map((amount) => sum.stepsOf(amount)), state, tell)
  }

  /** The parts apart, with those together and what the XP that goes with each of them earns. */
  private mixed(): Spread {
    const earnings = this.earnings()
    const ends = [...earnings.map(({ from }) => from), Infinity]
    const apart = this.xpApart.whole()
    const below = apart.cumulated()
    // Those who earn the same are put together first.
    const earning = earnings.map((): Portioned[] => [])
    for (const [steps, spread] of this.together) {
      Spread.at(steps).likelihoodsWith(apart.from, below, ends).forEach((share, i) => {
        if (share > 0) earning[i]!.push({ spread, share })
      })
    }
    const parts = earning.flatMap((own, i) => (own.length ? [{ spread: mixture(own).plus(earnings[i]!.gift), share: 1 }] : []))
    return this.sumApart.whole().plus(mixture(parts))
  }

  /** What the XP there may be earns, as it rises. */
  private earnings(): Earning[] {
    const { xpApart, xp, together } = this
    const end = xpApart.end + Math.max(...together.keys())
    const earnings: Earning[] = []
    for (let from = xpApart.from + Math.min(...together.keys()); from < end; from = xp.endOfLevel(from)) {
      const gift = this.giftAt(from)
      if (earnings.at(-1)?.gift !== gift) earnings.push({ from, gift })
    }
    return earnings
  }

  /** All that the levels reached with so many steps of XP have given. */
  private giftAt(steps: number): Spread {
    this.xp.read(steps, this.state)
    const times = this.rewards.map((reward) => this.timesGiven(reward))
    const all = () => this.rewards.reduce((sum, { change }, i) => (times[i] === 0 ? sum : sum.plus(this.sum.kernelOf(change, times[i]!, 1))), Spread.at(0))
    return remembered(this.gifts, times.join(), all)
  }

  private timesGiven({ character, at }: Reward): number {
    const { startLevel } = this.game.characters[character]!
    const level = this.state.level[character]!
    if (at === 'every') return level - startLevel
    return at > startLevel && at <= level ? 1 : 0
  }
}
