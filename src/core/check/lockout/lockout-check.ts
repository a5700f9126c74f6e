import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { LockoutPart, LockoutResult, Move } from '../result.ts'
import { withGoing } from './going.ts'
import { missingText } from './missing.ts'
import { Space } from './space.ts'

/** How far the search may look; past either bound it says that it has not decided. */
export interface LockoutBound {
  states: number
  milliseconds: number
  /** A clock in milliseconds; null: only the states are counted. */
  now: (() => number) | null
}

export const defaultBound: LockoutBound = { states: 2_000_000, milliseconds: 10_000, now: null }

/** Whether a player who plays freely can end up stuck, or forced to grind (docs/checks.md 3). */
export function checkLockouts(game: Game, bound = defaultBound): LockoutResult {
  if (game.start < 0) {
    const none: LockoutPart = { result: 'none', states: 0, witness: null }
    return { stuck: { result: 'found', states: 0, witness: [], missing: 'the start of the plan does not exist' }, forcedGrind: none }
  }
  const graph = new StateGraph(game, new Space(game), bound)
  return new Verdict(game, graph).result()
}

interface Edge {
  from: number
  repeat: boolean
}

/** Every state that play can reach, found breadth first, with the moves that lead back. */
class StateGraph {
  readonly states: State[] = []
  readonly won: boolean[] = []
  /** Moves into each state; the first is the one by which it was found. */
  readonly into: Edge[][] = []
  readonly moves: (Move | null)[] = []
  /** States whose moves have been followed. */
  expanded = 0
  readonly isWhole: boolean

  constructor(
    private readonly game: Game,
    private readonly space: Space,
    bound: LockoutBound,
  ) {
    const ids = new Map<string, number>()
    const started = bound.now?.() ?? 0
    this.add(ids, space.start(), null, null)
    while (this.expanded < this.states.length && this.states.length < bound.states) {
      if (bound.now && this.expanded % 1024 === 1023 && bound.now() - started > bound.milliseconds) break
      const id = this.expanded++
      if (this.won[id]) continue
      for (const step of space.steps(this.states[id]!)) this.add(ids, step.state, { from: id, repeat: step.repeat }, step.move)
    }
    this.isWhole = this.expanded === this.states.length
  }

  private add(ids: Map<string, number>, state: State, edge: Edge | null, move: Move | null): void {
    const key = this.space.key(state)
    let id = ids.get(key)
    if (id === undefined) {
      id = this.states.length
      ids.set(key, id)
      this.states.push(state)
      this.won.push(this.space.isWon(state))
      this.into.push([])
      this.moves.push(move)
    }
    if (edge) this.into[id]!.push(edge)
  }

  /** States from which a won one can be reached; those not followed yet count as if they could. */
  winning(repeats: boolean): Uint8Array {
    const wins = new Uint8Array(this.states.length)
    const queue: number[] = []
    this.states.forEach((_, id) => {
      if (!this.won[id] && id < this.expanded) return
      wins[id] = 1
      queue.push(id)
    })
    for (const id of queue) {
      for (const { from, repeat } of this.into[id]!) {
        if (wins[from] || (repeat && !repeats)) continue
        wins[from] = 1
        queue.push(from)
      }
    }
    return wins
  }

  /** States that can be reached without a repeat, each with the state it was reached from; −2 where it was not. */
  withoutRepeats(): Int32Array {
    const out: number[][] = this.states.map(() => [])
    this.into.forEach((edges, to) => edges.forEach(({ from, repeat }) => repeat || out[from]!.push(to)))
    const cameFrom = new Int32Array(this.states.length).fill(-2)
    cameFrom[0] = -1
    const queue = [0]
    for (const id of queue) {
      for (const to of out[id]!) {
        if (cameFrom[to] !== -2) continue
        cameFrom[to] = id
        queue.push(to)
      }
    }
    return cameFrom
  }

  /** The moves by which a state was found, which is the shortest way. */
  wayTo(id: number): Move[] {
    const moves: Move[] = []
    for (let at = id; at !== 0; at = this.into[at]![0]!.from) moves.unshift(this.moves[at]!)
    return this.walkable(moves)
  }

  /** The moves along given predecessors. */
  wayBy(id: number, cameFrom: Int32Array): Move[] {
    const moves: Move[] = []
    for (let at = id; at !== 0; at = cameFrom[at]!) moves.unshift(this.moveBetween(cameFrom[at]!, at))
    return this.walkable(moves)
  }

  private walkable(moves: Move[]): Move[] {
    return this.space.leavesOutGoing ? withGoing(this.game, moves) : moves
  }

  private moveBetween(from: number, to: number): Move {
    const key = this.space.key(this.states[to]!)
    return this.space.steps(this.states[from]!).find((step) => !step.repeat && this.space.key(step.state) === key)!.move
  }
}

class Verdict {
  constructor(
    private readonly game: Game,
    private readonly graph: StateGraph,
  ) {}

  result(): LockoutResult {
    const wins = this.graph.winning(true)
    return { stuck: this.stuck(wins), forcedGrind: this.forcedGrind(wins) }
  }

  private none(): LockoutPart {
    return { result: this.graph.isWhole ? 'none' : 'undecided', states: this.graph.states.length, witness: null }
  }

  private stuck(wins: Uint8Array): LockoutPart {
    const id = wins.indexOf(0)
    if (id < 0) return this.none()
    return { result: 'found', states: this.graph.states.length, witness: this.graph.wayTo(id), missing: missingText(this.game, this.graph.states[id]!) }
  }

  private forcedGrind(wins: Uint8Array): LockoutPart {
    const { graph } = this
    const winsAtOnce = graph.winning(false)
    if (graph.isWhole && !winsAtOnce[0]) return this.none()
    const cameFrom = graph.withoutRepeats()
    const id = graph.states.findIndex((_, s) => cameFrom[s] !== -2 && !winsAtOnce[s] && wins[s])
    // While some states are not followed, neither the start nor such a state is known for certain.
    if (id < 0 || !graph.isWhole) return this.none()
    return { result: 'found', states: graph.states.length, witness: graph.wayBy(id, cameFrom), missing: missingText(this.game, graph.states[id]!) }
  }
}
