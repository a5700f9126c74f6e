import { apply } from '../../core/change/diff.ts'
import type { DoneStep } from '../../core/contract/api.ts'
import type { Records } from '../../core/plan/records.ts'

interface Recent {
  revision: number
  records: Records
}

/** Plans that were read last, kept up with their steps, so that opening one again does not read it again. */
export class RecentPlans {
  private readonly plans = new Map<string, Recent>()

  constructor(private readonly most: number) {}

  /** The records at a revision, if they are at hand. */
  at(id: string, revision: number): Records | undefined {
    const found = this.plans.get(id)
    return found?.revision === revision ? found.records : undefined
  }

  keep(id: string, revision: number, records: Records): void {
    // Who is put in last goes last.
    this.plans.delete(id)
    this.plans.set(id, { revision, records })
    for (const oldest of this.plans.keys()) if (this.plans.size > this.most) this.plans.delete(oldest)
  }

  /** A step was taken: what it was made on goes on with it, anything else is forgotten. */
  follow(id: string, { revision, diff }: DoneStep): void {
    const records = this.at(id, revision - 1)
    if (records) this.keep(id, revision, apply(records, diff))
    else this.forget(id)
  }

  forget(id: string): void {
    this.plans.delete(id)
  }
}
