import type { Game } from '../../rules/game.ts'
import { cloneState, type State } from '../../rules/state.ts'
import { timer, type LockoutBound } from './bound.ts'
import type { Deed } from './going.ts'
import { isHopeless } from './hope.ts'
import type { Fields } from './packing.ts'
import { NumberList, RowTable } from '../row-table.ts'
import type { Space, Visit } from './space.ts'

/** Sources and gates passed in asking so. */
const hopeEffort = 600_000

/** Steps that may be, at most: of several amounts that fall at once, each can be left with each. */
const mostMaybe = 5_000_000

/** Every state that play can reach, found breadth first, with the moves between them. */
export class StateGraph {
  private readonly table: RowTable
  /** Steps: from which state to which; repeats stand as −1 − the state that they come from. */
  private readonly from = new NumberList()
  private readonly to = new NumberList()
  /** The same that may be, where it is not told apart how much more than enough is held (Space, `unlike`). */
  private readonly mayFrom = new NumberList()
  private readonly mayTo = new NumberList()
  readonly won: NumberList = new NumberList()
  /** By state: the step by which it was found; −1 for the start, −2 where it is not known that it can be reached. */
  private readonly foundBy = new NumberList()
  /** States whose moves have been followed. */
  expanded = 0
  /** One state for all that are looked at, and the row that it holds. */
  private readonly lent: State
  private readonly known: Int32Array
  private readonly visit: Visit
  /** Of what there is enough in the state whose steps are followed, and maybe more. */
  private full: number[] = []

  constructor(
    private readonly space: Space,
    readonly bound: LockoutBound,
    /** Whether units past a source's count are followed. */
    private readonly repeats: boolean,
    /** Whether time is up. */
    readonly isLate = timer(bound),
  ) {
    this.table = new RowTable(space.packing.words)
    this.lent = space.start()
    this.known = space.packing.rowOf(this.lent)
    this.add(this.lent, -1, null)
    this.visit = (next, repeat, _deeds, changed) => {
      this.from.push(repeat ? -1 - this.expanded : this.expanded)
      this.to.push(this.add(next, this.from.length - 1, changed))
      if (this.full.length) this.addWhatMayBe(next, this.full.filter((t) => next.tallies[t]! < space.scope.enough[t]!))
    }
  }

  /** Goes on until there are so many states, or no more, or time is up. */
  grow(states: number): this {
    const { space, bound } = this
    const most = Math.min(states, bound.states)
    if (this.isLate()) return this
    for (; this.expanded < this.size && this.size < most && this.mayFrom.length < mostMaybe; this.expanded++) {
      if (this.expanded % 1024 === 1023 && this.isLate()) break
      if (this.won.at(this.expanded)) continue
      const state = this.lend(this.expanded)
      if (space.unlike.size) this.full = [...space.unlike.keys()].filter((t) => state.tallies[t] === space.scope.enough[t])
      if (!space.steps(state, this.visit, this.repeats)) break
    }
    return this
  }

  /** Where more was held than enough, more than the least can be left: all that it may be. */
  private addWhatMayBe(state: State, fallen: readonly number[], isLeast = true): void {
    if (this.mayFrom.length >= mostMaybe) return
    const [t, ...others] = fallen
    if (t === undefined) {
      if (isLeast) return
      this.mayFrom.push(this.expanded)
      this.mayTo.push(this.add(state, -2, null))
      return
    }
    const least = state.tallies[t]!
    for (let amount = least; amount <= this.space.scope.enough[t]!; amount += this.space.unlike.get(t)!) {
      state.tallies[t] = amount
      this.addWhatMayBe(state, others, isLeast && amount === least)
    }
    state.tallies[t] = least
  }

  get isWhole(): boolean {
    return this.expanded === this.size && !this.space.isCutShort && this.mayFrom.length < mostMaybe
  }

  /** The first state found, of those from which there is more than one step on, from which there is no hope; −1: none was seen. */
  firstHopeless(game: Game, repeats: boolean): number {
    let left = Math.ceil(hopeEffort / (game.sources.length + game.gates.length + 1))
    const steps = this.stepsBy((step) => this.source(step)).first
    for (let id = 0; id < this.expanded && left > 0 && !this.isLate(); id++) {
      if (this.won.at(id) || steps[id + 1]! - steps[id]! === 1) continue
      left--
      if (isHopeless(game, this.lend(id), repeats)) return this.earliest(id, steps)
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
  private stepsBy(end: (step: number) => number): SideBySide {
    return sideBySide(this.size, { length: this.to.length, at: end })
  }

  /** States from which a won one can be reached; those not followed yet count as if they could. `may`: also by what may be. */
  winning(repeats: boolean, may = false): Uint8Array {
    const wins = new Uint8Array(this.size)
    const queue: number[] = []
    for (let id = 0; id < this.size; id++) {
      if (!this.won.at(id) && id < this.expanded) continue
      wins[id] = 1
      queue.push(id)
    }
    const { first, steps } = this.stepsBy((step) => this.to.at(step))
    const maybe = may ? sideBySide(this.size, this.mayTo) : null
    const win = (from: number) => {
      if (wins[from]) return
      wins[from] = 1
      queue.push(from)
    }
    for (const id of queue) {
      for (let i = first[id]!; i < first[id + 1]!; i++) if (repeats || !this.isRepeat(steps[i]!)) win(this.source(steps[i]!))
      if (maybe) for (let i = maybe.first[id]!; i < maybe.first[id + 1]!; i++) win(this.mayFrom.at(maybe.steps[i]!))
    }
    return wins
  }

  /** By state the step by which it can be reached for certain, with repeats or without; −1 where it cannot, and for the start. */
  cameBy(repeats: boolean): Int32Array {
    const { first, steps } = this.stepsBy((step) => this.source(step))
    const cameBy = new Int32Array(this.size).fill(-1)
    const queue = [0]
    for (const from of queue) {
      for (let i = first[from]!; i < first[from + 1]!; i++) {
        const to = this.to.at(steps[i]!)
        if (to === 0 || cameBy[to]! >= 0 || (!repeats && this.isRepeat(steps[i]!))) continue
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

/** Steps by state: those of state s stand from first[s] to first[s + 1]. */
interface SideBySide {
  first: Int32Array
  steps: Int32Array
}

/** `ends`: of each step the state by which it is looked up. */
function sideBySide(states: number, ends: { length: number; at: (step: number) => number }): SideBySide {
  const first = new Int32Array(states + 1)
  for (let step = 0; step < ends.length; step++) first[ends.at(step) + 1]! += 1
  for (let id = 0; id < states; id++) first[id + 1]! += first[id]!
  const at = first.slice()
  const steps = new Int32Array(ends.length)
  for (let step = 0; step < ends.length; step++) steps[at[ends.at(step)]!++] = step
  return { first, steps }
}
