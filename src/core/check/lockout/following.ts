import { canOpen, canTake, open, take } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { Item, Surroundings } from './around.ts'

/** A way that may be open later, from a place that can be gone to. */
interface ClosedWay {
  passage: number
  from: number
  to: number
}

/** Does in a state all at once that can spoil nothing, and what that makes possible, as far as one can go and come back. */
export class Following {
  /** By source, by gate and by place: the last round in which it was seen. */
  private readonly seen: Record<'sources' | 'gates' | 'places', Int32Array>
  private round = 0
  private done: Item[] = []
  /** What can be done as soon as more is held. */
  private waiting: Item[] = []
  private closed: ClosedWay[] = []
  /** Whether ways may have been opened that were not looked through. */
  private isWider = false

  constructor(
    private readonly game: Game,
    private readonly surroundings: Surroundings,
  ) {
    this.seen = { sources: new Int32Array(game.sources.length), gates: new Int32Array(game.gates.length), places: new Int32Array(game.places.length) }
  }

  /** What was done, in order. `here`: in the place where the player stands alone. */
  follow(state: State, here: boolean): readonly Item[] {
    this.round++
    this.done = []
    this.waiting = []
    this.closed = []
    if (here) this.see(state, this.surroundings.at(state.place).safe)
    else this.lookAround(state)
    this.isWider = false
    for (;;) {
      const before = this.done.length
      this.doWaiting(state)
      this.isWider ||= this.surroundings.hasLiveWays && this.done.length > before
      if (!here && this.isWider && this.widen(state)) continue
      if (this.done.length > before) continue
      // Ways that lead back only together are found by looking at all of them, once nothing else is left.
      if (here || !this.isWider) return this.done
      this.isWider = false
      this.lookAround(state)
    }
  }

  isToDo(state: State, item: Item): boolean {
    return !this.isDone(state, item) && (item >= 0 ? canTake(this.game, state, item) : canOpen(this.game, state, -1 - item))
  }

  private isDone(state: State, item: Item): boolean {
    return item >= 0 ? state.taken[item]! >= this.game.sources[item]!.count : state.opened[-1 - item] === 1
  }

  private see(state: State, items: readonly Item[]): void {
    const { sources, gates } = this.seen
    for (const item of items) {
      const [list, i] = item >= 0 ? [sources, item] : [gates, -1 - item]
      if (list[i] === this.round) continue
      list[i] = this.round
      if (!this.isDone(state, item)) this.waiting.push(item)
    }
  }

  private doWaiting(state: State): void {
    const { game } = this
    let left = 0
    for (const item of this.waiting) {
      for (; this.isToDo(state, item); this.done.push(item)) {
        if (item >= 0) take(game, state, item, plainPlay)
        else open(game, state, -1 - item, plainPlay)
        this.isWider ||= item < 0 && game.gates[-1 - item]!.guards !== null
      }
      if (!this.isDone(state, item)) this.waiting[left++] = item
    }
    this.waiting.length = left
  }

  private lookAround(state: State): void {
    const { places, safe } = this.surroundings.of(state)
    for (const p of places) this.arrive(state, p)
    this.see(state, safe)
  }

  private arrive(state: State, place: number): void {
    if (this.seen.places[place] === this.round) return
    this.seen.places[place] = this.round
    this.surroundings.arrive(state, place)
    for (const { passage, to } of this.game.places[place]!.ways) {
      if (this.seen.places[to] !== this.round && this.game.passages[passage]!.twoWay) this.closed.push({ passage, from: place, to })
    }
  }

  /** Goes through ways that are open now and lead back; whether there were any. */
  private widen(state: State): boolean {
    const before = this.closed.length
    for (let i = 0; i < this.closed.length; ) {
      const { passage, from, to } = this.closed[i]!
      const isOpen = this.surroundings.isWayOpen(state, passage, to) && this.surroundings.isWayOpen(state, passage, from)
      if (!isOpen && this.seen.places[to] !== this.round) {
        i++
        continue
      }
      this.closed.splice(i, 1)
      if (this.seen.places[to] === this.round) continue
      this.arrive(state, to)
      this.see(state, this.surroundings.at(to).safe)
    }
    return this.closed.length !== before
  }
}
