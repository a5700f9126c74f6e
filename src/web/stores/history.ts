import type { Diff } from '../../core/change/diff.ts'
import type { Step } from '../../core/contract/api.ts'

/** What can be undone and what redone, newest last: made again from the steps that a plan has had. */
export class History {
  readonly undoable: Diff[] = []
  readonly redoable: Diff[] = []

  add(step: Pick<Step, 'kind' | 'diff'>): void {
    if (step.kind === 'do') {
      this.undoable.push(step.diff)
      this.redoable.length = 0
    } else if (step.kind === 'undo') {
      const undone = this.undoable.pop()
      if (undone) this.redoable.push(undone)
    } else {
      const redone = this.redoable.pop()
      if (redone) this.undoable.push(redone)
    }
  }

  static of(steps: readonly Pick<Step, 'kind' | 'diff'>[]): History {
    const history = new History()
    for (const step of steps) history.add(step)
    return history
  }
}
