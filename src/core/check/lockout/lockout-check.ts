import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { LockoutPart, LockoutResult, Move } from '../result.ts'
import { type Deed, stateAfter, withGoing } from './going.ts'
import { missingText } from './missing.ts'
import { NumberList, RowTable } from './row-table.ts'
import { withPlenty } from './plenty.ts'
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
  const search = (freeRepeats: boolean) => {
    const space = new Space(freeRepeats ? withPlenty(game) : game, freeRepeats)
    return new Verdict(game, space, new StateGraph(space, bound))
  }
  // Whoever asks only whether one can get stuck need not count how often something was repeated.
  const free = search(true)
  const stuck = free.stuck()
  if (stuck.result === 'found' && stuck.witness!.length === 0) return { stuck, forcedGrind: free.none() }
  const told = game.sources.some(({ respawns }) => respawns) ? search(false) : free
  return { stuck, forcedGrind: told.forcedGrind() }
}

/** Every state that play can reach, found breadth first, with the moves between them. */
class StateGraph {
  private readonly table: RowTable
  /** Steps: from which state to which; repeats stand as −1 − the state that they come from. */
  private readonly from = new NumberList()
  private readonly to = new NumberList()
  readonly won: NumberList = new NumberList()
  /** By state: the step by which it was found; −1 for the start. */
  private readonly foundBy = new NumberList()
  /** States whose moves have been followed. */
  expanded = 0
  readonly isWhole: boolean

  constructor(
    private readonly space: Space,
    bound: LockoutBound,
  ) {
    this.table = new RowTable(space.packing.words)
    const started = bound.now?.() ?? 0
    const start = space.start()
    this.add(start, -1)
    const visit = (next: State, repeat: boolean) => {
      this.from.push(repeat ? -1 - this.expanded : this.expanded)
      this.to.push(this.add(next, this.from.length - 1))
    }
    for (; this.expanded < this.size && this.size < bound.states; this.expanded++) {
      if (bound.now && this.expanded % 1024 === 1023 && bound.now() - started > bound.milliseconds) break
      if (!this.won.at(this.expanded)) space.steps(this.stateOf(this.expanded, start), visit)
    }
    this.isWhole = this.expanded === this.size && !space.isCutShort
  }

  get size(): number {
    return this.table.size
  }

  private add(state: State, step: number): number {
    const { table, space } = this
    const before = table.size
    space.packing.pack(state, table.rows, table.next)
    const id = table.add()
    if (table.size > before) {
      this.won.push(Number(space.isWon(state)))
      this.foundBy.push(step)
    }
    return id
  }

  private stateOf(id: number, into: State): State {
    this.space.packing.unpack(this.table.rows, id * this.space.packing.words, into)
    return into
  }

  private source(step: number): number {
    const from = this.from.at(step)
    return from < 0 ? -1 - from : from
  }

  private isRepeat(step: number): boolean {
    return this.from.at(step) < 0
  }

  /** Steps into, or out of, each state, side by side. */
  private stepsBy(end: (step: number) => number): { first: Int32Array; steps: Int32Array } {
    const first = new Int32Array(this.size + 1)
    const count = this.to.length
    for (let step = 0; step < count; step++) first[end(step) + 1]! += 1
    for (let id = 0; id < this.size; id++) first[id + 1]! += first[id]!
    const at = first.slice()
    const steps = new Int32Array(count)
    for (let step = 0; step < count; step++) steps[at[end(step)]!++] = step
    return { first, steps }
  }

  /** States from which a won one can be reached; those not followed yet count as if they could. */
  winning(repeats: boolean): Uint8Array {
    const wins = new Uint8Array(this.size)
    const queue: number[] = []
    for (let id = 0; id < this.size; id++) {
      if (!this.won.at(id) && id < this.expanded) continue
      wins[id] = 1
      queue.push(id)
    }
    const { first, steps } = this.stepsBy((step) => this.to.at(step))
    for (const id of queue) {
      for (let i = first[id]!; i < first[id + 1]!; i++) {
        const from = this.source(steps[i]!)
        if (wins[from] || (!repeats && this.isRepeat(steps[i]!))) continue
        wins[from] = 1
        queue.push(from)
      }
    }
    return wins
  }

  /** By state the step by which it can be reached without a repeat; −1 where it cannot, and for the start. */
  withoutRepeats(): Int32Array {
    const { first, steps } = this.stepsBy((step) => this.source(step))
    const cameBy = new Int32Array(this.size).fill(-1)
    const queue = [0]
    for (const from of queue) {
      for (let i = first[from]!; i < first[from + 1]!; i++) {
        const to = this.to.at(steps[i]!)
        if (to === 0 || cameBy[to]! >= 0 || this.isRepeat(steps[i]!)) continue
        cameBy[to] = steps[i]!
        queue.push(to)
      }
    }
    return cameBy
  }

  /** The deeds by which a state was found, which is the shortest way; or back along the given steps. */
  wayTo(id: number, cameBy: (id: number) => number = (at) => this.foundBy.at(at)): Deed[] {
    const ids = [id]
    for (let at = id; at !== 0; ) ids.unshift((at = this.source(cameBy(at))))
    const from = this.space.start()
    return ids.slice(1).flatMap((to, i) => this.deedsBetween(this.stateOf(ids[i]!, from), to))
  }

  private deedsBetween(from: State, to: number): Deed[] {
    const { packing } = this.space
    const wanted = this.table.rows.slice(to * packing.words, (to + 1) * packing.words)
    const row = wanted.slice()
    let found: Deed[] | null = null
    this.space.steps(from, (next, _repeat, deeds) => {
      if (found) return
      packing.pack(next, row, 0)
      if (row.every((word, i) => word === wanted[i])) found = deeds()
    })
    return found ?? []
  }
}

class Verdict {
  private readonly wins: Uint8Array

  constructor(
    private readonly game: Game,
    private readonly space: Space,
    private readonly graph: StateGraph,
  ) {
    this.wins = graph.winning(true)
  }

  none(): LockoutPart {
    return { result: this.graph.isWhole ? 'none' : 'undecided', states: this.graph.size, witness: null }
  }

  private found(deeds: Deed[]): LockoutPart {
    const { game, space } = this
    const witness = space.leavesOutGoing ? this.played(deeds) : (deeds as Move[])
    return { result: 'found', states: this.graph.size, witness, missing: missingText(game, stateAfter(game, witness)) }
  }

  /** The deeds as a player's moves, without those that were only made first because they spoil nothing. */
  private played(deeds: Deed[]): Move[] {
    const going = (some: readonly Deed[]) => withGoing(this.game, some, (state, source) => this.space.isEnough(state, source))
    let kept = deeds
    for (let i = deeds.length - 1; i >= 0; i--) {
      if (!this.space.isSafe(deeds[i]!)) continue
      const fewer = [...kept.slice(0, i), ...kept.slice(i + 1)]
      if (going(fewer)) kept = fewer
    }
    return going(kept) ?? []
  }

  stuck(): LockoutPart {
    const id = this.wins.indexOf(0)
    return id < 0 ? this.none() : this.found(this.graph.wayTo(id))
  }

  forcedGrind(): LockoutPart {
    const { graph, wins } = this
    const winsAtOnce = graph.winning(false)
    // While some states are not followed, neither the start nor such a state is known for certain.
    if (!graph.isWhole || !winsAtOnce[0]) return this.none()
    const cameBy = graph.withoutRepeats()
    for (let id = 1; id < graph.size; id++) {
      if (cameBy[id]! >= 0 && !winsAtOnce[id] && wins[id]) return this.found(graph.wayTo(id, (at) => cameBy[at]!))
    }
    return this.none()
  }
}
