import type { Records } from '../plan/records.ts'
import { apply, squash, type Diff } from './diff.ts'

/** Diffs that build on each other, made one after another and undone as one. */
export class Steps {
  private readonly diffs: Diff[] = []
  /** Those that nobody has had to see applied yet: in a large plan that takes a while. */
  private waiting: Diff[] = []

  constructor(private applied: Records) {}

  /** The plan as it is after the diffs so far. */
  get records(): Records {
    for (const diff of this.waiting) this.applied = apply(this.applied, diff)
    this.waiting = []
    return this.applied
  }

  add(diff: Diff): void {
    this.diffs.push(diff)
    this.waiting.push(diff)
  }

  as(name: string): Diff {
    return squash(this.diffs, name)
  }
}
