import { labelOf } from '../plan/label-of.ts'
import { comesFrom } from '../plan/place.ts'
import { missingWords } from '../play/walk.ts'
import { fromUnits } from '../rules/compile.ts'
import { gatesOnWay, isOpen } from '../rules/engine.ts'
import type { Game } from '../rules/game.ts'
import type { State } from '../rules/state.ts'

/** A stage as a player sees it on the path: open or not, what was earned on it, and what it asks where it is locked. */
export interface StageView {
  place: number
  name: string
  isOpen: boolean
  isHere: boolean
  visited: boolean
  /** What its sources give of collectibles, scores and flags: so far, and in all without repeats. */
  earned: { tally: string; has: number; most: number }[]
  /** What the player reads and how far it is; '' where it is open. */
  asks: string
}

/** Kinds of tally that are earned on a stage. */
const earnedKinds: ReadonlySet<string> = new Set(['collectible', 'score', 'flag'])

/** The stages of a plan in its order, as they stand in a walk (docs/model.md 3). A stage is open when some way into it is. */
export function stagesOf(game: Game, state: State): StageView[] {
  return game.places.flatMap((place, p): StageView[] => {
    if (place.kind !== 'stage') return []
    const ways = game.passages.flatMap((ends, passage) => (comesFrom(ends, p) === null ? [] : [gatesOnWay(game, passage, p).filter((g) => !isOpen(game, state, g))]))
    const closed = ways.sort((a, b) => a.length - b.length)[0] ?? []
    const open = state.visited[p] === 1 || (ways.length > 0 && closed.length === 0)
    return [{ place: p, name: labelOf(place), isOpen: open, isHere: state.place === p, visited: state.visited[p] === 1, earned: earnedOn(game, state, p), asks: open ? '' : asksOf(game, state, closed) }]
  })
}

/** What the sources of a place give of what is earned on a stage: so far, as a state has it (null: nothing yet), and at the most. */
export function earnedOn(game: Game, state: State | null, p: number): StageView['earned'] {
  const sums = new Map<number, { has: number; most: number }>()
  for (const { source: s } of game.places[p]!.contents) {
    if (s === null) continue
    const source = game.sources[s]!
    for (const y of source.yields) {
      if (!earnedKinds.has(game.tallies[y.tally]!.kind) || y.max <= 0) continue
      const sum = sums.get(y.tally) ?? { has: 0, most: 0 }
      sum.has += Math.min(state?.taken[s] ?? 0, source.count) * y.max
      sum.most += source.count * y.max
      sums.set(y.tally, sum)
    }
  }
  // What is collected there names a stage better than how well it was run.
  const rank = ([t]: [number, unknown]) => ['collectible', 'flag', 'score'].indexOf(game.tallies[t]!.kind)
  return [...sums].sort((a, b) => rank(a) - rank(b)).map(([t, { has, most }]) => ({ tally: labelOf(game.tallies[t]!), has: fromUnits(has), most: fromUnits(most) }))
}

function asksOf(game: Game, state: State, closed: readonly number[]): string {
  const [g] = closed
  if (g === undefined) return 'no way leads here'
  return missingWords(game, state, g) || `${labelOf(game.gates[g]!)} can be opened`
}
