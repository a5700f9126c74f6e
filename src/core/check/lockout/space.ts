import { fromUnits } from '../../rules/compile.ts'
import { canOpen, canTake, enter, gatesOnWay, holds, isOpen, open, standsAt, take } from '../../rules/engine.ts'
import { plainPlay, type Play } from '../../rules/gain.ts'
import { giveWithoutEnd } from '../../rules/relaxed.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { copyState, limitOf, newState, type State } from '../../rules/state.ts'
import { everyOutcome } from '../chance.ts'
import type { Deed } from './going.ts'
import { Packing } from './packing.ts'
import { safetyOf, type Safety } from './safety.ts'
import { scopeOf, type Scope } from './scope.ts'
import { wastes } from './wastes.ts'

/** Told of each step: the state that it leads to is only lent. `repeat`: a unit past its source's count. */
export type Visit = (next: State, repeat: boolean, deeds: () => Deed[]) => void

/** Nowhere in particular: anywhere that can be gone to, freshly entered. */
const free = -1

/** The states of free play and the moves between them, with what cannot matter left out. */
export class Space {
  readonly scope: Scope
  readonly packing: Packing
  private readonly safety: Safety
  /** By source: units past which more are alike; 0 for what is out of scope. */
  private readonly enoughTaken: Float64Array
  /** Places that nobody asks whether they were visited. */
  private readonly unreadPlaces: Int32Array
  private readonly mostXp: number[]
  private readonly random: boolean
  /** Tallies that matter and start anew in each place, and the characters that listen to them. */
  private readonly local: number[]
  private readonly localCharacters: number[]
  private readonly hasLiveWays: boolean
  private readonly next: State

  /** Whether something was left out of the search that may matter. */
  isCutShort = false

  /** `freeRepeats`: units past a source's count are not told apart from the others, where that makes fewer states. */
  constructor(
    private readonly game: Game,
    freeRepeats = false,
  ) {
    this.scope = scopeOf(game)
    this.safety = safetyOf(game, this.scope)
    // What is safe is taken first, and needs to be counted to come to an end.
    if (freeRepeats) game.sources.forEach(({ respawns }, s) => respawns && !this.safety.sources[s] && (this.scope.enoughUnits[s] = this.scope.askedUnits[s]!))
    this.mostXp = game.characters.map(({ curve }) => (curve ? (curve.counts === 'total' ? curve.values.at(-1)! : curve.values.reduce((sum, v) => sum + v, 0)) + 1 : 0))
    this.enoughTaken = Float64Array.from(game.sources, (_, s) => (this.scope.sources[s] ? this.scope.enoughUnits[s]! : 0))
    this.unreadPlaces = Int32Array.from(game.places.flatMap((_, p) => (this.scope.places[p] ? [] : [p])))
    this.packing = new Packing(game, this.scope, this.mostXp)
    this.random = game.characters.some((c) => c.rewards.some((r) => r.yields.some(isRanged)))
    this.local = game.tallies.flatMap(({ resets }, t) => (resets === 'place' && this.scope.tallies[t] ? [t] : []))
    this.localCharacters = this.local.flatMap((t) => game.tallies[t]!.listeners.filter((c) => this.scope.characters[c]))
    this.hasLiveWays = game.gates.some((gate) => gate.live && gate.guards !== null)
    this.next = newState(game)
  }

  start(): State {
    const state = newState(this.game)
    enter(this.game, state, this.game.start, plainPlay)
    this.settle(state, true)
    return state
  }

  isWon(state: State): boolean {
    const { places, gates } = this.scope.goal
    return places.every((p) => state.visited[p]) && gates.every((g) => state.opened[g])
  }

  /** Whether where the player stands is left out, but for where something starts anew in each place. */
  get leavesOutGoing(): boolean {
    return this.safety.returns
  }

  /**
   * Every step from a state, in every way that chance can fall. Where the player can always return, moves of all places that can
   * be gone to count, one that can never spoil anything is made before all others, and what is only spent is spent at the end.
   */
  steps(state: State, visit: Visit): void {
    if (!this.safety.returns || (state.place !== free && !this.safety.home[state.place])) this.stepsHere(state, visit)
    else if (state.place === free) this.stepsFrom(state, this.reached(state), visit)
    else {
      this.stepsFrom(state, [state.place], visit)
      this.leave(state, visit)
    }
  }

  private stepsFrom(state: State, places: readonly number[], visit: Visit): void {
    if (this.safeStep(state, places, visit)) return
    for (const p of places) {
      for (const item of this.game.places[p]!.items) {
        if (item >= 0) this.addTake(state, item, p, visit)
        else this.addOpen(state, -1 - item, p, visit)
      }
    }
    for (const g of this.game.anywhere) {
      const p = places.find((place) => standsAt(this.game, this.game.gates[g]!, place))
      if (p !== undefined) this.addOpen(state, g, p, visit)
    }
    if (state.place !== free) return
    this.cross(state, places, visit)
    this.waste(state, places, visit)
  }

  /** The first move that can never spoil anything, alone; false where there is none. */
  private safeStep(state: State, places: readonly number[], visit: Visit): boolean {
    const { game, safety, scope } = this
    for (const p of places) {
      for (const item of game.places[p]!.items) {
        const g = -1 - item
        if (item >= 0) {
          if (!scope.sources[item] || !safety.sources[item] || this.isRandomMove(game.sources[item]!.yields)) continue
          if (state.taken[item]! >= game.sources[item]!.count || !canTake(game, state, item)) continue
          this.addTake(state, item, p, visit)
          return true
        }
        if (!scope.gates[g] || !safety.gates[g] || this.isRandomMove(game.gates[g]!.yields) || !canOpen(game, state, g)) continue
        this.addOpen(state, g, p, visit)
        return true
      }
    }
    return false
  }

  /** Places that can be gone to through what is open. */
  private reached(state: State): number[] {
    const { game } = this
    const found = [game.start]
    const seen = new Uint8Array(game.places.length)
    seen[game.start] = 1
    for (const p of found) {
      for (const { passage, to } of game.places[p]!.ways) {
        if (seen[to] || !this.safety.home[to] || !this.isWayOpen(state, passage, to)) continue
        seen[to] = 1
        found.push(to)
      }
    }
    return found
  }

  private isWayOpen(state: State, passage: number, to: number): boolean {
    return gatesOnWay(this.game, passage, to).every((g) => isOpen(this.game, state, g))
  }

  /** Out of a place where something was earned that starts anew elsewhere. */
  private leave(state: State, visit: Visit): void {
    const { game, next } = this
    const way = game.places[state.place]!.ways.find(({ passage, to }) => this.safety.home[to] && this.isWayOpen(state, passage, to))
    if (!way) return
    copyState(state, next)
    enter(game, next, way.to, plainPlay)
    this.settle(next, false)
    visit(next, false, () => [{ go: game.passages[way.passage]!.id }])
  }

  /** Through passages by which nobody comes back. */
  private cross(state: State, places: readonly number[], visit: Visit): void {
    for (const p of places) {
      for (const { passage, to } of this.game.places[p]!.ways) if (!this.safety.home[to]) this.go(state, passage, to, visit)
    }
  }

  private go(state: State, passage: number, to: number, visit: Visit): void {
    if (!this.isWayOpen(state, passage, to)) return
    copyState(state, this.next)
    enter(this.game, this.next, to, plainPlay)
    this.settle(this.next, true)
    visit(this.next, false, () => [{ go: this.game.passages[passage]!.id }])
  }

  /** All that can be spent on what gives nothing, in every sum that leaves another amount; after that no more is. */
  private waste(state: State, places: readonly number[], visit: Visit): void {
    const { game, next } = this
    const { sinks } = this.safety
    if (sinks.length === 0 || state.opened[sinks[0]!]) return
    const open = sinks.filter((g) => places.some((p) => standsAt(game, game.gates[g]!, p)) && holds(game.gates[g]!, state))
    const all = wastes(game, state, open)
    if (!all) this.isCutShort = true
    for (const { spent, gates } of all ?? []) {
      copyState(state, next)
      for (const g of sinks) next.opened[g] = 1
      for (const [tally, amount] of spent) next.tallies[tally]! -= amount
      visit(next, false, () => gates.map((g) => ({ open: game.gates[g]!.id })))
    }
  }

  /** Moves of the place where the player stands, and the ways on. */
  stepsHere(state: State, visit: Visit): void {
    const { game } = this
    const place = game.places[state.place]!
    for (const item of place.items) {
      if (item >= 0) this.addTake(state, item, state.place, visit)
      else this.addOpen(state, -1 - item, state.place, visit)
    }
    for (const g of game.anywhere) if (standsAt(game, game.gates[g]!, state.place)) this.addOpen(state, g, state.place, visit)
    for (const { passage, to } of place.ways) this.go(state, passage, to, visit)
  }

  private addTake(state: State, s: number, place: number, visit: Visit): void {
    if (!this.scope.sources[s] || !canTake(this.game, state, s)) return
    const source = this.game.sources[s]!
    const repeat = state.taken[s]! >= source.count
    if (repeat && this.safety.returns && this.safety.sources[s]) return this.addRepeats(state, s, place, visit)
    this.moved(state, place, source.yields, (play) => take(this.game, this.next, s, play), false, (rolled) => visit(this.next, repeat, () => [{ take: source.id, ...outcomeOf(this.game, rolled) }]))
  }

  /** What can never spoil anything is repeated until there is enough of all that it gives. */
  private addRepeats(state: State, s: number, place: number, visit: Visit): void {
    const { game, next } = this
    copyState(state, next)
    if (next.place !== place) enter(game, next, place, plainPlay)
    giveWithoutEnd(game, next, game.sources[s]!)
    this.settle(next, false)
    visit(next, true, () => [{ take: game.sources[s]!.id, untilEnough: true }])
  }

  /** Whether a deed can spoil nothing: without it, nothing is possible that was not, for it can still be done. */
  isSafe(deed: Deed): boolean {
    if ('take' in deed) return this.safety.sources[this.game.sources.findIndex(({ id }) => id === deed.take)]!
    return 'open' in deed && this.safety.gates[this.game.gates.findIndex(({ id }) => id === deed.open)]!
  }

  /** Whether another unit of a source would make no difference. */
  isEnough(state: State, id: string): boolean {
    const { yields } = this.game.sources.find((source) => source.id === id)!
    return yields.every(({ tally }) => !this.scope.tallies[tally] || (state.tallies[tally]! >= this.scope.enough[tally]! && this.game.tallies[tally]!.listeners.every((c) => !this.scope.characters[c] || state.level[c]! >= Math.min(this.scope.enoughLevel[c]!, limitOf(this.game, state, c)))))
  }

  private addOpen(state: State, g: number, place: number, visit: Visit): void {
    if (!this.scope.gates[g] || (this.safety.returns && this.safety.sinks.includes(g)) || !canOpen(this.game, state, g)) return
    const gate = this.game.gates[g]!
    this.moved(state, place, gate.yields, (play) => open(this.game, this.next, g, play), true, () => visit(this.next, false, () => [{ open: gate.id }]))
  }

  private isRandomMove(yields: readonly GameYield[]): boolean {
    return this.random || yields.some(isRanged)
  }

  /** Makes a move in a copy of the state, in every way that chance can fall, and tells of each. */
  private moved(state: State, place: number, yields: readonly GameYield[], move: (play: Play) => void, opens: boolean, tell: (rolled: [GameYield, number][]) => void): void {
    const { game, next } = this
    const begin = () => {
      copyState(state, next)
      if (next.place !== place) enter(game, next, place, plainPlay)
    }
    if (!this.isRandomMove(yields)) {
      begin()
      move(plainPlay)
      this.settle(next, opens)
      return tell([])
    }
    everyOutcome.rolls((roll) => {
      const rolled: [GameYield, number][] = []
      begin()
      move({
        ...plainPlay,
        roll: (y) => {
          const amount = roll(y)
          rolled.push([y, amount])
          return amount
        },
      })
      this.settle(next, opens)
      tell(rolled)
    })
  }

  /** Leaves out what cannot matter, and makes amounts above everything that is asked for alike. */
  private settle(state: State, opened: boolean): void {
    const { scope, game } = this
    if (this.safety.returns) {
      if (opened || this.hasLiveWays) this.arrive(state)
      if (this.isFresh(state) && (state.place === free || this.safety.home[state.place])) state.place = free
    }
    for (let t = 0; t < game.tallies.length; t++) {
      if (!scope.tallies[t]) state.tallies[t] = game.tallies[t]!.start
      else if (state.tallies[t]! > scope.enough[t]!) state.tallies[t] = scope.enough[t]!
    }
    for (let c = 0; c < game.characters.length; c++) {
      if (!scope.characters[c]) state.level[c] = state.xp[c] = 0
      else if (state.level[c]! >= scope.enoughLevel[c]!) {
        state.level[c] = scope.enoughLevel[c]!
        state.xp[c] = 0
      } else if (state.xp[c]! > this.mostXp[c]!) state.xp[c] = this.mostXp[c]!
    }
    const { taken, visited } = state
    const { enoughTaken, unreadPlaces } = this
    for (let s = 0; s < taken.length; s++) if (taken[s]! > enoughTaken[s]!) taken[s] = enoughTaken[s]!
    for (let i = 0; i < unreadPlaces.length; i++) visited[unreadPlaces[i]!] = 0
  }

  /** Whoever can go to a place and come back has as good as been there, and who joins there has joined. */
  private arrive(state: State): void {
    const reached = this.reached(state)
    for (const p of reached) state.visited[p] = 1
    this.game.characters.forEach(({ joins }, c) => {
      if (joins !== null && state.visited[joins]) state.present[c] = 1
    })
  }

  /** Whether nothing is held that going on would lose. */
  private isFresh(state: State): boolean {
    const { game } = this
    return (
      this.local.every((t) => state.tallies[t] === game.tallies[t]!.start) &&
      this.localCharacters.every((c) => state.level[c] === game.characters[c]!.startLevel && state.xp[c] === this.startXp(c))
    )
  }

  private startXp(c: number): number {
    const { curve, startLevel } = this.game.characters[c]!
    return curve && curve.counts === 'total' && startLevel > curve.firstLevel ? curve.values[startLevel - 1 - curve.firstLevel]! : 0
  }
}

function isRanged(y: GameYield): boolean {
  return y.min !== y.max
}

function outcomeOf(game: Game, rolled: readonly [GameYield, number][]): { outcome?: Record<string, number> } {
  if (rolled.length === 0) return {}
  return { outcome: Object.fromEntries(rolled.map(([y, amount]) => [game.tallies[y.tally]!.id, fromUnits(amount)])) }
}
