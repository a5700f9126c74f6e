import type { CheckBefore, KeptCheck } from '../../core/check/route/kept-check.ts'
import type { Touched } from '../../core/rules/recompile.ts'

/** The numbers of sources and gates that were made anew. */
class TouchedSince implements Touched {
  readonly sources = new Set<number>()
  readonly gates = new Set<number>()

  constructor(...all: readonly Touched[]) {
    for (const touched of all) this.add(touched)
  }

  add({ sources, gates }: Touched): void {
    for (const s of sources) this.sources.add(s)
    for (const g of gates) this.gates.add(g)
  }
}

/** Checks by route and kind of player, with what of the plan was made anew since each: the next check goes on from them. */
export class KeptChecks {
  private readonly kept = new Map<string, { check: KeptCheck; since: TouchedSince }>()

  /** What was made anew has been checked by none of them. */
  touch(touched: Touched): void {
    for (const { since } of this.kept.values()) since.add(touched)
  }

  put(key: string, check: KeptCheck): void {
    this.kept.set(key, { check, since: new TouchedSince() })
  }

  get(key: string): KeptCheck | null {
    return this.kept.get(key)?.check ?? null
  }

  /** What a check goes on from, with what is made anew besides; null: there is none. */
  before(key: string, also: Touched | null): CheckBefore | null {
    const known = this.kept.get(key)
    return known ? { kept: known.check, touched: new TouchedSince(known.since, ...(also ? [also] : [])) } : null
  }

  get isAnyDrawn(): boolean {
    return [...this.kept.values()].some(({ check }) => check.check.isDrawn)
  }

  clear(): void {
    this.kept.clear()
  }
}
