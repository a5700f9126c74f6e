import type { Game } from '../../rules/game.ts'
import { cloneState, copyState, newState, type State } from '../../rules/state.ts'

/** One way the walk can have gone so far, with its probability and what must be remembered of it. */
export interface Branch {
  weight: number
  state: State
  /** By source: units that the player wants of it in the whole route; −1 before they are drawn. */
  wanted: Int32Array
  /** By gate: bits of `noted`. */
  notes: Uint8Array
  /** Whether the pass that is under way changed anything. */
  changed: boolean
}

/** What has been noted of a gate in a branch. */
export const noted = { ready: 1, couldBuy: 2, opened: 4, due: 8 } as const

export function firstBranch(game: Game): Branch {
  return {
    weight: 1,
    state: newState(game),
    wanted: new Int32Array(game.sources.length).fill(-1),
    notes: new Uint8Array(game.gates.length),
    changed: false,
  }
}

export function cloneBranch(branch: Branch, weight: number): Branch {
  return {
    weight,
    state: cloneState(branch.state),
    wanted: branch.wanted.slice(),
    notes: branch.notes.slice(),
    changed: branch.changed,
  }
}

/** Makes one branch equal to another, of the same game. */
export function copyBranch(from: Branch, to: Branch): void {
  to.weight = from.weight
  to.changed = from.changed
  copyState(from.state, to.state)
  to.wanted.set(from.wanted)
  to.notes.set(from.notes)
}
