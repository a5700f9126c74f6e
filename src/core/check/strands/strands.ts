import type { Game } from '../../rules/game.ts'
import type { LevelFold } from '../../rules/level-folds.ts'
import type { Asked } from './asked.ts'
import type { Bounds } from './bounds.ts'
import type { ChainStrand, KeptChain } from './chain-strand.ts'
import type { GateNotes } from './gate-notes.ts'
import type { KeptRewarded, RewardedSum } from './rewarded-sum.ts'
import type { KeptSum, SumStrand } from './sum-strand.ts'

/** What all strands have come to, to go on from there once more. */
export interface KeptStrands {
  sums: ReadonlyMap<number, KeptSum>
  chains: ReadonlyMap<number, KeptChain>
  rewarded: ReadonlyMap<number, KeptRewarded>
}

export type Strand = SumStrand | ChainStrand | RewardedSum

/** The strands that are followed, and which of them what is asked for rests on. */
export class Strands {
  /** By tally, and by character. */
  readonly sums = new Map<number, SumStrand>()
  readonly chains = new Map<number, ChainStrand>()
  /** By tally of which levels give: what it is while some have reached them. */
  readonly rewarded = new Map<number, RewardedSum>()
  /** By character: the sum that its level is read off. */
  readonly readOff = new Map<number, SumStrand>()

  constructor(
    private readonly game: Game,
    private readonly bounds: Bounds,
  ) {}

  /** What all have come to. `notesOf`: by gate notes, which go on changing, what is kept of them. */
  keep(notesOf: ReadonlyMap<GateNotes, GateNotes>): KeptStrands {
    const { sums, chains, rewarded } = this
    return {
      sums: new Map([...sums].map(([t, sum]) => [t, sum.keep(notesOf)])),
      chains: new Map([...chains].map(([c, chain]) => [c, chain.keep()])),
      rewarded: new Map([...rewarded].map(([t, sum]) => [t, sum.keep()])),
    }
  }

  /** Whether all are among strands that were kept. */
  areAmong({ sums, chains }: KeptStrands): boolean {
    const isAs = (sum: SumStrand, kept: KeptSum | undefined) => kept !== undefined && sum.isAs(kept)
    return [...this.sums].every(([t, sum]) => isAs(sum, sums.get(t))) && [...this.chains.keys()].every((c) => chains.has(c))
  }

  /** All stand as strands like them stood; levels that had nothing left to give are followed no more. */
  goOnFrom({ sums, chains, rewarded }: KeptStrands, notesOf: ReadonlyMap<GateNotes, GateNotes>): void {
    for (const [t, sum] of this.sums) sum.goOnFrom(sums.get(t)!, notesOf)
    for (const [c, chain] of this.chains) chain.goOnFrom(chains.get(c)!)
    for (const [t, sum] of this.rewarded) {
      const kept = rewarded.get(t)
      if (kept) sum.goOnFrom(kept)
      else this.rewarded.delete(t)
    }
  }

  /** All strands that what is asked for rests on now: none where it is the same for all. null: it rests on what is not known. */
  under(asked: Asked): ReadonlySet<Strand> | null {
    const { low, high } = this.bounds
    const found = new Set<Strand>()
    const isKnown = (strand: Strand | null) => {
      if (strand) found.add(strand)
      return strand !== null
    }
    const levels = [...asked.levels, ...asked.folds.flatMap((fold) => this.decisive(fold))]
    if (!asked.tallies.every((t) => this.bounds.isSame(t) || isKnown(this.amountOf(t)))) return null
    if (!levels.every((c) => low.level[c] === high.level[c] || isKnown(this.levelOf(c)))) return null
    if (!asked.caps.every((c) => low.cap[c] === high.cap[c])) return null
    if (!asked.gates.every((g) => low.opened[g] === high.opened[g])) return null
    return asked.sources.every((s) => low.taken[s] === high.taken[s]) ? found : null
  }

  /** What the amounts of a tally are; null: that is not known now. */
  amountOf(t: number): SumStrand | RewardedSum | null {
    return this.sumOf(t) ?? this.rewardedOf(t)
  }

  private rewardedOf(t: number): RewardedSum | null {
    const rewarded = this.rewarded.get(t)
    const isKnown = rewarded && !rewarded.isLost && this.bounds.isSettledButForRewards(t)
    return isKnown && this.sumOf(rewarded.xp.tally) ? rewarded : null
  }

  /** The sum that a tally is; null: it is none now. */
  sumOf(t: number): SumStrand | null {
    const sum = this.sums.get(t)
    return sum && !sum.isTooWide && this.bounds.isSettled(t) ? sum : null
  }

  /** What a character's level is read off. */
  levelOf(c: number): SumStrand | ChainStrand | null {
    const sum = this.readOff.get(c)
    if (sum) return this.sumOf(sum.tally)
    const chain = this.chains.get(c)
    return chain && !chain.isLost ? chain : null
  }

  /** The characters present that can bear on what all levels come to: the highest is never that of one who is below another for certain. */
  private decisive(fold: LevelFold): number[] {
    const { low, high } = this.bounds
    const present = [...this.game.characters.keys()].filter((c) => low.present[c])
    return present.filter((c) => decides[fold](c, present, low.level, high.level))
  }
}

type Decides = (c: number, present: readonly number[], low: Int32Array, high: Int32Array) => boolean
const decides: Record<LevelFold, Decides> = {
  // Among those who are always level one is enough.
  highest: (c, present, low, high) => !present.some((other) => other !== c && low[other]! >= high[c]!),
  lowest: (c, present, low, high) => !present.some((other) => other !== c && high[other]! <= low[c]!),
  average: () => true,
}
