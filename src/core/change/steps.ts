import type { Records } from '../plan/records.ts'
import { apply, squash, type Diff } from './diff.ts'

/** Diffs that build on each other, made one after another and undone as one. */
export class Steps {
  private readonly diffs: Diff[] = []

  /** `records`: the plan as it is after the diffs so far. */
  constructor(public records: Records) {}

  add(diff: Diff): void {
    this.diffs.push(diff)
    this.records = apply(this.records, diff)
  }

  as(name: string): Diff {
    return squash(this.diffs, name)
  }
}
