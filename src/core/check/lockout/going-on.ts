import { closedOnWay } from '../../rules/engine.ts'
import type { Game } from '../../rules/game.ts'
import { cloneState, type State } from '../../rules/state.ts'
import type { LockoutPart, Move } from '../result.ts'
import { stateAfter, withGoing } from './going.ts'
import { isHopeless } from './hope.ts'
import { timer, type LockoutBound } from './bound.ts'
import { missingText } from './missing.ts'
import { withoutNeedless } from './needless.ts'
import { withTheRest } from './the-rest.ts'

/** Ways gone at most. */
const mostWays = 300

/** Where a player stands who has just gone on, and how it came to that. */
interface Stage {
  state: State
  moves: readonly Move[]
}

/**
 * A player who gets stuck by going on, where no way leads back, with as little as going on asks for; null: none was found, which
 * says nothing. The shortest of such plays comes first; each costs nothing and repeats nothing.
 */
export function stuckGoingOn(game: Game, bound: LockoutBound): LockoutPart | null {
  const isLate = timer(bound)
  const stages: Stage[] = [{ state: stateAfter(game, []), moves: [] }]
  const gone = new Set<string>()
  for (const stage of stages) {
    for (const next of waysOn(game, stage)) {
      if (gone.size >= mostWays || isLate()) return null
      if (isHopeless(game, next.state, true)) return { result: 'found', states: gone.size + 1, witness: [...next.moves], missing: missingText(game, next.state) }
      const key = `${next.state.place} ${next.state.bytes.join()}`
      if (gone.has(key)) continue
      gone.add(key)
      stages.push(next)
    }
  }
  return null
}

/** Through each way on from which nothing leads back at once, with no more than it asks for. */
function* waysOn(game: Game, { state, moves }: Stage): Generator<Stage> {
  const rest = withTheRest(game, state)
  for (const p of rest.places) {
    for (const { passage, to } of game.places[p]!.ways) {
      if (rest.places.includes(to) || closedOnWay(game, rest.state, passage, to).length > 0) continue
      const all = [...rest.fetched, { go: game.passages[passage]!.id }]
      const going = (some: readonly Move[], from = cloneState(state)) => withGoing(game, some, () => true, from)
      const least = withoutNeedless(all, rest.fetched, (fewer) => going(fewer) !== null)
      const after = cloneState(state)
      const made = going(least, after)
      if (made) yield { state: after, moves: [...moves, ...made] }
    }
  }
}
