import type { Game, GameGate, GameItem, GameSource } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { Item } from './around.ts'
import type { Deed } from './going.ts'
import type { Fields, Packing } from './packing.ts'
import type { Safety } from './safety.ts'
import type { Scope } from './scope.ts'

/** A move that changes a few numbers, each by a fixed amount, and makes nothing possible that would be done at once. */
export interface QuietMove {
  /** What is paid and given, in order: in units, each held within the tally's bounds. */
  tally: Int32Array
  by: Float64Array
  /** Where the changed numbers stand in a packed state. */
  fields: Fields
  deeds: () => Deed[]
}

/** Such moves by item; null: it is none. `isRandom`: whether it leaves something to chance. */
export function quietMoves(game: Game, scope: Scope, safety: Safety, packing: Packing, isRandom: (item: Item) => boolean): { sources: (QuietMove | null)[]; gates: (QuietMove | null)[] } {
  const watched = safety.roams ? watchedBy(game, scope, safety) : null
  const moveOf = (item: GameSource | GameGate, index: Item, deed: Deed): QuietMove | null => {
    const costs = 'takes' in item ? item.takes : item.costs
    const changes = [...costs.map(({ tally, amount }) => ({ tally, by: -amount })), ...item.yields.map(({ tally, min }) => ({ tally, by: min }))].filter(({ tally }) => scope.tallies[tally])
    const isHeard = changes.some(({ tally }) => game.tallies[tally]!.listeners.some((c) => scope.characters[c]))
    if (isRandom(index) || item.caps.length > 0 || isHeard || isWatched(index, changes.flatMap(({ tally, by }) => (by > 0 ? [tally] : [])))) return null
    const tallies = [...new Set(changes.map(({ tally }) => tally))]
    const fields = packing.fieldsOf({ tallies, taken: index >= 0 ? [index] : [], opened: index < 0 ? [-1 - index] : [] })
    return { tally: Int32Array.from(changes, ({ tally }) => tally), by: Float64Array.from(changes, ({ by }) => by), fields, deeds: () => [{ ...deed }] }
  }
  function isWatched(index: Item, given: readonly number[]): boolean {
    if (!watched) return false
    const own = index >= 0 ? watched.sources.has(index) : watched.gates.has(-1 - index) || game.gates[-1 - index]!.guards !== null
    return own || given.some((tally) => watched.tallies.has(tally))
  }
  return {
    sources: game.sources.map((source, s) => (scope.sources[s] ? moveOf(source, s, { take: source.id }) : null)),
    gates: game.gates.map((gate, g) => (scope.gates[g] ? moveOf(gate, -1 - g, { open: gate.id }) : null)),
  }
}

/** Makes a quiet move on a state; `old` gets what `undoQuiet` needs. */
export function makeQuiet(game: Game, scope: Scope, state: State, move: QuietMove, old: Float64Array): void {
  const { tallies } = state
  const { tally, by } = move
  for (let i = 0; i < tally.length; i++) {
    const t = tally[i]!
    const before = tallies[t]!
    old[i] = before
    const { min, max } = game.tallies[t]!
    tallies[t] = Math.min(Math.max(before + by[i]!, min), max)
  }
  for (let i = 0; i < tally.length; i++) if (tallies[tally[i]!]! > scope.enough[tally[i]!]!) tallies[tally[i]!] = scope.enough[tally[i]!]!
}

export function undoQuiet(state: State, move: QuietMove, old: Float64Array): void {
  for (let i = move.tally.length - 1; i >= 0; i--) state.tallies[move.tally[i]!] = old[i]!
}

/** All that is asked for by what is done at once, and by what live bars ask. */
function watchedBy(game: Game, scope: Scope, safety: Safety): Record<'tallies' | 'gates' | 'sources', Set<number>> {
  const watching: GameItem[] = [
    ...game.sources.filter((_, s) => scope.sources[s] && safety.sources[s]),
    ...game.gates.filter((gate, g) => scope.gates[g] && (safety.gates[g] || (gate.live && gate.guards !== null))),
  ]
  const all = (kind: 'tallies' | 'gates' | 'sources') => new Set(watching.flatMap(({ requires }) => requires.reads[kind]))
  return { tallies: all('tallies'), gates: all('gates'), sources: all('sources') }
}
