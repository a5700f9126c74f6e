import { unitsPerOne } from '../../plan/basics.ts'
import { long, longest } from '../sums/fine-sum.ts'
import type { Change } from './change.ts'
import { mostValues } from './sum-strand.ts'

/** A sum is this many standard deviations from its mean where it is negligible (see Spread). */
const deviations = 10

/** What one item does to a tally: in how many units, each with what probability. */
export interface Part {
  change: Change
  count: number
  share: number
}

/** All that comes to one tally along a route, as far as its sum is to know of it beforehand: it is met part by part, and not kept. */
export class Inflow {
  /** Whether something is paid with it. */
  isPaid = false
  /** Whether nothing makes less of it. */
  grows = true
  private divisor = 0
  private units = 0
  private width = 0
  private range = 0
  private variance = 0

  add({ min, max, paid, yields }: Change, count: number, share: number): void {
    if (paid !== 0) this.isPaid = true
    if (min < 0) this.grows = false
    // No step is finer than one.
    if (this.divisor !== 1) this.divide(paid, yields)
    if (share === 0) return
    this.units += count
    this.width += count * (max - min)
    this.range += rangeOf(min, max, count, share)
    this.variance += varianceOf(min, max, count, share)
  }

  private divide(paid: number, yields: Change['yields']): void {
    let divisor = commonDivisor(this.divisor, paid)
    for (const { min, max } of yields) divisor = commonDivisor(commonDivisor(divisor, Math.abs(min)), max === min ? 0 : unitsPerOne)
    this.divisor = divisor
  }

  /** The units that all of it are multiples of. */
  get step(): number {
    return this.divisor || unitsPerOne
  }

  /** Whether its sum takes no more than so many multiplications. `parts`: all of it once more, for whom that cannot be seen without. */
  isWithin(effort: number, parts: () => Iterable<Part>): boolean {
    const values = Math.min(this.range, 2 * deviations * Math.sqrt(this.variance)) / this.step
    if (values > mostValues) return false
    // As if it had been as wide as at its end from the beginning on.
    const most = (this.width / this.step + this.units) * costOf(values)
    return most <= effort || expectedEffort(parts(), this.step) <= effort
  }
}

/** About how many multiplications a sum takes: it is as wide as what is not negligible of it, until it is followed by its waves. */
function expectedEffort(parts: Iterable<Part>, step: number): number {
  let effort = 0
  let range = 0
  let variance = 0
  for (const { change: { min, max }, count, share } of parts) {
    if (share === 0) continue
    range += rangeOf(min, max, count, share)
    variance += varianceOf(min, max, count, share)
    effort += count * ((max - min) / step + 1) * costOf(Math.min(range, 2 * deviations * Math.sqrt(variance)) / step)
  }
  return effort
}

/** What it takes to add one value to a sum of so many. */
function costOf(values: number): number {
  return values > longest ? values : Math.min(values, long)
}

function rangeOf(min: number, max: number, count: number, share: number): number {
  return count * (share < 1 ? Math.max(Math.abs(min), Math.abs(max)) : max - min)
}

function varianceOf(min: number, max: number, count: number, share: number): number {
  return count * share * ((max - min) ** 2 / 12 + (1 - share) * ((min + max) / 2) ** 2)
}

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b)
}
