import type { Game } from '../../rules/game.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'

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

/** Branches that are alike from here on become one. */
export function merged(branches: Branch[]): Branch[] {
  if (branches.length < 2) return branches
  const byKey = new Map<string, Branch>()
  for (const branch of branches) {
    const key = keyOf(branch)
    const same = byKey.get(key)
    if (same) same.weight += branch.weight
    else byKey.set(key, branch)
  }
  return [...byKey.values()]
}

function keyOf({ state, wanted, notes, changed }: Branch): string {
  const { tallies, level, xp, cap, present, opened, taken } = state
  return [tallies, level, xp, cap, present, opened, taken, wanted, notes].map((part) => part.join()).join(';') + (changed ? '+' : '')
}
