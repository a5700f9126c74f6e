import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { LockoutPart, LockoutResult, Move } from '../result.ts'
import { stateAfter, withGoing } from './going.ts'
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
  move: Move
}

/** Every state that play can reach, found breadth first, with the moves that lead back. */
class StateGraph {
  /** How many there are, and those whose moves are still to be followed: the others are known by their keys alone. */
  size = 0
  private readonly waiting = new Map<number, State>()
  readonly won: boolean[] = []
  /** Moves into each state; the first is the one by which it was found. */
  readonly into: Edge[][] = []
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
    this.add(ids, space.start(), null)
    while (this.expanded < this.size && this.size < bound.states) {
      if (bound.now && this.expanded % 1024 === 1023 && bound.now() - started > bound.milliseconds) break
      const id = this.expanded++
      const state = this.waiting.get(id)!
      this.waiting.delete(id)
      if (this.won[id]) continue
      for (const step of space.steps(state)) this.add(ids, step.state, { from: id, repeat: step.repeat, move: step.move })
    }
    this.isWhole = this.expanded === this.size
  }

  private add(ids: Map<string, number>, state: State, edge: Edge | null): void {
    const key = this.space.key(state)
    let id = ids.get(key)
    if (id === undefined) {
      id = this.size++
      ids.set(key, id)
      this.waiting.set(id, state)
      this.won.push(this.space.isWon(state))
      this.into.push([])
    }
    if (edge) this.into[id]!.push(edge)
  }

  /** States from which a won one can be reached; those not followed yet count as if they could. */
  winning(repeats: boolean): Uint8Array {
    const wins = new Uint8Array(this.size)
    const queue: number[] = []
    for (let id = 0; id < this.size; id++) {
      if (!this.won[id] && id < this.expanded) continue
      wins[id] = 1
      queue.push(id)
    }
    for (const id of queue) {
      for (const { from, repeat } of this.into[id]!) {
        if (wins[from] || (repeat && !repeats)) continue
        wins[from] = 1
        queue.push(from)
      }
    }
    return wins
  }

  /** States that can be reached without a repeat, each with the move by which it was; undefined where it was not. */
  withoutRepeats(): (Edge | undefined)[] {
    const out: { to: number; move: Move }[][] = Array.from({ length: this.size }, () => [])
    this.into.forEach((edges, to) => edges.forEach(({ from, repeat, move }) => repeat || out[from]!.push({ to, move })))
    const cameBy: (Edge | undefined)[] = new Array<Edge | undefined>(this.size)
    const queue = [0]
    for (const from of queue) {
      for (const { to, move } of out[from]!) {
        if (to === 0 || cameBy[to]) continue
        cameBy[to] = { from, repeat: false, move }
        queue.push(to)
      }
    }
    return cameBy
  }

  /** The moves by which a state was found, which is the shortest way. */
  wayTo(id: number): Move[] {
    return this.wayBy(id, (at) => this.into[at]![0])
  }

  /** The moves back to the start along the given ones. */
  wayBy(id: number, cameBy: (id: number) => Edge | undefined): Move[] {
    const moves: Move[] = []
    for (let at = id; at !== 0; at = cameBy(at)!.from) moves.unshift(cameBy(at)!.move)
    return this.space.leavesOutGoing ? withGoing(this.game, moves) : moves
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
    return { result: this.graph.isWhole ? 'none' : 'undecided', states: this.graph.size, witness: null }
  }

  private found(witness: Move[]): LockoutPart {
    return { result: 'found', states: this.graph.size, witness, missing: missingText(this.game, stateAfter(this.game, witness)) }
  }

  private stuck(wins: Uint8Array): LockoutPart {
    const id = wins.indexOf(0)
    return id < 0 ? this.none() : this.found(this.graph.wayTo(id))
  }

  private forcedGrind(wins: Uint8Array): LockoutPart {
    const { graph } = this
    const winsAtOnce = graph.winning(false)
    // While some states are not followed, neither the start nor such a state is known for certain.
    if (!graph.isWhole || !winsAtOnce[0]) return this.none()
    const cameBy = graph.withoutRepeats()
    for (let id = 1; id < graph.size; id++) {
      if (cameBy[id] && !winsAtOnce[id] && wins[id]) return this.found(graph.wayBy(id, (at) => cameBy[at]))
    }
    return this.none()
  }
}
