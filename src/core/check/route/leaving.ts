import { sameList } from '../../plan/same-list.ts'
import { Histogram } from '../histogram.ts'

const none: readonly undefined[] = []

/** What was gathered on leaving a stop of every tally, or of every character: distributions, made where something is added to them. */
export class Leaving {
  constructor(
    private readonly all: (Histogram | undefined)[],
    /** How finely whole values are divided, and whether each walk that is gathered weighs 1. */
    private readonly parts: number,
    private readonly counts: boolean,
    /** What an earlier walk left the stop with. */
    private was: readonly (Histogram | undefined)[] = none,
  ) {}

  /** The same of a walk that comes after: that of which `stands` is true stands as it is. */
  next(stands: (i: number) => boolean): Leaving {
    return new Leaving(this.all.map((left, i) => (stands(i) ? left : undefined)), this.parts, this.counts, this.all)
  }

  /** What the earlier walk had stands as it is. */
  stay(i: number): void {
    this.all[i] = this.was[i]
  }

  at(i: number): Histogram {
    return (this.all[i] ??= new Histogram(this.parts, this.counts))
  }

  /** Adds a value with its weight. Where that is all, and was all before, it is the very same distribution. */
  add(i: number, value: number, weight: number): void {
    const [known, was] = [this.all[i], this.was[i]]
    if (!known && weight === 1 && was?.isOnly(value, weight)) this.all[i] = was
    else this.at(i).add(value, weight)
  }

  /** Keeps no more than the quantiles. */
  settle(i: number): void {
    this.all[i]?.settle()
  }

  clear(i: number): void {
    this.all[i] = undefined
  }

  /** Nothing more is added: what came out as it was before is what was there; no more than the quantiles is kept. */
  close(): void {
    for (let i = 0; i < this.all.length; i++) {
      const [left, was] = [this.at(i), this.was[i]]
      left.settle()
      if (was && left.isAs(was)) this.all[i] = was
    }
    this.was = none
  }

  isSame(other: Leaving): boolean {
    return sameList(this.all, other.all)
  }
}
