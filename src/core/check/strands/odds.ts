/** How likely each of some whole numbers from 0 on is. Those that are listed are possible, though their weight may be too small to be told from 0. */
export class Odds {
  readonly listed: number[] = []
  private weights = new Float64Array(16)
  private isListed = new Uint8Array(16)

  add(n: number, weight: number): void {
    if (n >= this.weights.length) this.widen(n + 1)
    if (this.isListed[n] === 0) {
      this.isListed[n] = 1
      this.listed.push(n)
    }
    this.weights[n]! += weight
  }

  private widen(least: number): void {
    const [{ weights, isListed }, length] = [this, Math.max(least, 2 * this.weights.length)]
    this.weights = new Float64Array(length)
    this.weights.set(weights)
    this.isListed = new Uint8Array(length)
    this.isListed.set(isListed)
  }

  of(n: number): number {
    return this.weights[n] ?? 0
  }

  clear(): void {
    for (const n of this.listed) this.weights[n] = this.isListed[n] = 0
    this.listed.length = 0
  }
}
