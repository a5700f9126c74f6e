import type { Quantiles } from './result.ts'

/** A distribution of a number, gathered value by value with weights that sum to 1 (or to the number of walks). */
export class Histogram {
  private readonly weights = new Map<number, number>()
  private total = 0

  add(value: number, weight: number): void {
    if (Number.isNaN(value)) return
    this.weights.set(value, (this.weights.get(value) ?? 0) + weight)
    this.total += weight
  }

  get isEmpty(): boolean {
    return this.weights.size === 0
  }

  /** min, 5 %, median, 95 % and max; null where nothing was added. */
  quantiles(): Quantiles | null {
    if (this.isEmpty) return null
    const values = [...this.weights.keys()].sort((a, b) => a - b)
    const at = (q: number) => this.quantile(values, q)
    return { min: values[0]!, q05: at(0.05), median: at(0.5), q95: at(0.95), max: values.at(-1)! }
  }

  /** The smallest x with P(X ≤ x) ≥ q; null where nothing was added. */
  median(): number | null {
    return this.isEmpty ? null : this.quantile([...this.weights.keys()].sort((a, b) => a - b), 0.5)
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
