import type { Game } from '../../rules/game.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'
import type { Itinerary } from './itinerary.ts'

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
export function merged(branches: Branch[], keyOf: (branch: Branch) => string): Branch[] {
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

/**
 * What of a branch can bear on how it goes on from a stop: two with the same are alike. Of a source only the units still
 * wanted count, and only where the route can still come to them. `waiting`: gates of which something is still to be noted, in several lists.
 */
export function branchKey(itinerary: Itinerary, stop: number, waiting: readonly (readonly number[])[]): (branch: Branch) => string {
  const { tallies, characters, counted } = itinerary
  return ({ state, wanted, notes, changed }) => {
    const { sources, gates } = itinerary.openAt(stop)
    let key = changed ? '+' : '-'
    for (const t of tallies) key += `${state.tallies[t]!},`
    for (const c of characters) key += `${state.level[c]!},${state.xp[c]!},${state.cap[c]!},`
    for (const s of counted) key += `${state.taken[s]!},`
    for (const s of sources) key += wanted[s] === -1 ? 'x' : `${wanted[s]! - state.taken[s]!},`
    for (const g of gates) key += `${state.opened[g]!}${outstanding(notes[g]!)}`
    for (const list of waiting) for (const g of list) key += String.fromCharCode(97 + outstanding(notes[g]!))
    return key
  }
}

/** Notes that still make a difference: once the due moment is past, whether it could have been bought does not. */
function outstanding(notes: number): number {
  return notes & noted.due ? notes & ~noted.couldBuy : notes
}
