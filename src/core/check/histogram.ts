import type { Quantiles } from './result.ts'

/** A distribution of a number, gathered value by value with weights that sum to 1 (or to the number of walks). */
export class Histogram {
  private readonly weights = new Map<number, number>()
  private total = 0
  /** The value added last, not yet in the map: most that are added again and again are the same. */
  private last = Number.NaN
  private lastWeight = 0

  add(value: number, weight: number): void {
    if (Number.isNaN(value)) return
    this.total += weight
    if (value === this.last) {
      this.lastWeight += weight
      return
    }
    this.settle()
    this.last = value
    this.lastWeight = weight
  }

  private settle(): void {
    if (this.lastWeight > 0) this.weights.set(this.last, (this.weights.get(this.last) ?? 0) + this.lastWeight)
    this.last = Number.NaN
    this.lastWeight = 0
  }

  private sorted(): number[] {
    this.settle()
    return [...this.weights.keys()].sort((a, b) => a - b)
  }

  get isEmpty(): boolean {
    return this.total === 0
  }

  /** min, 5 %, median, 95 % and max; null where nothing was added. */
  quantiles(): Quantiles | null {
    if (this.isEmpty) return null
    const values = this.sorted()
    const at = (q: number) => this.quantile(values, q)
    return { min: values[0]!, q05: at(0.05), median: at(0.5), q95: at(0.95), max: values.at(-1)! }
  }

  /** The smallest x with P(X ≤ x) ≥ q; null where nothing was added. */
  median(): number | null {
    return this.isEmpty ? null : this.quantile(this.sorted(), 0.5)
  }

  private quantile(sorted: number[], q: number): number {
    // Sums of weights are off by rounding; a hair less than q counts as q.
    const wanted = q * this.total * (1 - 1e-12)
    let sum = 0
    for (const value of sorted) {
      sum += this.weights.get(value)!
      if (sum >= wanted) return value
    }
    return sorted.at(-1)!
  }
}
