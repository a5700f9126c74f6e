import type { Game } from '../../rules/game.ts'
import { cloneState, type State } from '../../rules/state.ts'
import { timer, type LockoutBound } from './bound.ts'
import type { Deed } from './going.ts'
import { isHopeless } from './hope.ts'
import type { Fields } from './packing.ts'
import { NumberList, RowTable } from './row-table.ts'
import type { Space, Visit } from './space.ts'

/** Sources and gates passed in asking so. */
const hopeEffort = 600_000

/** Every state that play can reach, found breadth first, with the moves between them. */
export class StateGraph {
  private readonly table: RowTable
  /** Steps: from which state to which; repeats stand as −1 − the state that they come from. */
  private readonly from = new NumberList()
  private readonly to = new NumberList()
  readonly won: NumberList = new NumberList()
  /** By state: the step by which it was found; −1 for the start. */
  private readonly foundBy = new NumberList()
  /** States whose moves have been followed. */
  expanded = 0
  private readonly isLate: () => boolean
  /** One state for all that are looked at, and the row that it holds. */
  private readonly lent: State
  private readonly known: Int32Array
  private readonly visit: Visit

  constructor(
    private readonly space: Space,
    readonly bound: LockoutBound,
    /** Whether units past a source's count are followed. */
    private readonly repeats: boolean,
  ) {
    this.table = new RowTable(space.packing.words)
    this.isLate = timer(bound)
    this.lent = space.start()
    this.known = space.packing.rowOf(this.lent)
    this.add(this.lent, -1, null)
    this.visit = (next, repeat, _deeds, changed) => {
      this.from.push(repeat ? -1 - this.expanded : this.expanded)
      this.to.push(this.add(next, this.from.length - 1, changed))
    }
  }

  /** Goes on until there are so many states, or no more, or time is up. */
  grow(states: number): this {
    const { space, bound } = this
    const most = Math.min(states, bound.states)
    for (; this.expanded < this.size && this.size < most; this.expanded++) {
      if (this.expanded % 1024 === 1023 && this.isLate()) break
      if (!this.won.at(this.expanded)) space.steps(this.lend(this.expanded), this.visit, this.repeats)
    }
    return this
  }

  get isWhole(): boolean {
    return this.expanded === this.size && !this.space.isCutShort
  }

  /** The first state found, of those from which there is more than one step on, from which there is no hope; −1: none was seen. */
  firstHopeless(game: Game, repeats: boolean): number {
    const { space } = this
    let left = Math.ceil(hopeEffort / (game.sources.length + game.gates.length + 1))
    const steps = this.stepsBy((step) => this.source(step)).first
    for (let id = 0; id < this.expanded && left > 0 && !this.isLate(); id++) {
      if (this.won.at(id) || steps[id + 1]! - steps[id]! === 1) continue
      left--
      if (isHopeless(game, space.scope, this.lend(id), repeats)) return this.earliest(id, steps)
    }
    return -1
  }

  /** The first state on the way to one without hope from which all goes there: there is no hope from it, either. */
  private earliest(id: number, steps: Int32Array): number {
    for (let at = id; at !== 0; ) {
      at = this.source(this.foundBy.at(at))
      if (this.won.at(at) || steps[at + 1]! - steps[at]! !== 1) return id
      id = at
    }
    return id
  }

  get size(): number {
    return this.table.size
  }

  /** `changed`: in what it differs from the one whose steps are followed; null: maybe in anything. */
  private add(state: State, step: number, changed: Fields | null): number {
    const { table, space } = this
    const before = table.size
    if (changed) {
      const { words } = space.packing
      table.rows.copyWithin(table.next, this.expanded * words, (this.expanded + 1) * words)
      space.packing.repack(state, changed, table.rows, table.next)
    } else space.packing.pack(state, table.rows, table.next)
    const id = table.add()
    if (table.size > before) {
      this.won.push(Number(space.isWon(state)))
      this.foundBy.push(step)
    }
    return id
  }

  /** A state that is lent until the next is. */
  private lend(id: number): State {
    this.space.packing.unpack(this.table.rows, id * this.space.packing.words, this.lent, this.known)
    return this.lent
  }

  stateOf(id: number): State {
    return cloneState(this.lend(id))
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
    return [...this.space.deedsAtStart, ...ids.slice(1).flatMap((to, i) => this.deedsBetween(ids[i]!, to))]
  }

  private deedsBetween(from: number, to: number): Deed[] {
    const { packing } = this.space
    const wanted = this.table.rows.slice(to * packing.words, (to + 1) * packing.words)
    let found: Deed[] | null = null
    this.space.steps(this.lend(from), (next, _repeat, deeds) => {
      if (!found && packing.rowOf(next).every((word, i) => word === wanted[i])) found = deeds()
    })
    return found ?? []
  }
}
