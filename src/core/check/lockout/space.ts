import { canOpen, canTake, enter, holds, open, take } from '../../rules/engine.ts'
import { plainPlay, type Play } from '../../rules/gain.ts'
import { giveWithoutEnd } from '../../rules/relaxed.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import { indexOf } from '../../rules/ids.ts'
import { cloneState, copyState, limitOf, newState, startXpOf, type State } from '../../rules/state.ts'
import { everyOutcome, isRanged } from '../chance.ts'
import { Surroundings, type Around, type Item } from './around.ts'
import type { EnoughKind } from './enough.ts'
import { fallOf, mostFalls, outcomeOf, TooManyFalls } from './falls.ts'
import { Following } from './following.ts'
import type { Deed } from './going.ts'
import { Packing, type Fields } from './packing.ts'
import { makeQuiet, quietMoves, undoQuiet, type QuietMove } from './quiet.ts'
import { safetyOf, type Safety } from './safety.ts'
import { scopeOf, type Scope } from './scope.ts'
import { wastes } from './wastes.ts'
import { leadsBack } from './ways-back.ts'

/**
 * Told of each step: the state that it leads to is only lent. `repeat`: a unit past its source's count. `changed`: all in which
 * the state differs from the one that the step comes from, and its place; null: it may differ in anything.
 */
export type Visit = (next: State, repeat: boolean, deeds: () => Deed[], changed: Fields | null) => void

/** The states of free play and the moves between them, with what cannot matter left out. */
export class Space {
  readonly scope: Scope
  readonly packing: Packing
  private readonly safety: Safety
  private readonly surroundings: Surroundings
  private readonly quiet: { sources: (QuietMove | null)[]; gates: (QuietMove | null)[] }
  /** By source: units past which more are alike; 0 for what is out of scope. */
  private readonly enoughTaken: Float64Array
  private readonly mattering: Record<'tallies' | 'characters', number[]>
  private readonly mostXp: number[]
  private readonly random: boolean
  /** Tallies that matter and start anew in each place, and the characters that listen to them. */
  private readonly local: number[]
  private readonly localFields: Fields
  private readonly localCharacters: number[]
  /** By tally of which it is not told apart how much more than enough is held, in what steps it is used up. */
  readonly unlike: ReadonlyMap<number, number> = new Map()
  private repeats = true
  private readonly next: State
  /** What was done at once after the last move, and after the start. */
  private followed: readonly Item[] = []
  private readonly followedAtStart: readonly Item[]
  private readonly begun: State
  private readonly following: Following
  private readonly old: Float64Array

  /** Whether something was left out of the search that may matter. */
  isCutShort = false
  /** Whether somebody may go where no way leads back, and all that can spoil nothing is done before: who goes with less is left out. */
  readonly leavesBehind: boolean

  /**
   * `freeRepeats`: units past a source's count are not told apart from the others, where that makes fewer states. `placed`: where
   * the player stands is told apart in any case, and nothing is done before it is chosen. `enough`: which amounts
   * count as alike (EnoughOfAll).
   */
  constructor(
    private readonly game: Game,
    freeRepeats = false,
    placed = false,
    enough: EnoughKind = 'amounts',
  ) {
    const scope = scopeOf(game)
    this.scope = { ...scope, enough: scope.enoughOfAll[enough] ?? scope.enough, enoughUnits: [...scope.enoughUnits] }
    if (enough === 'supposed') this.unlike = scope.enoughOfAll.grains
    this.safety = safetyOf(game, this.scope, placed)
    // What is safe is taken first, and needs to be counted to come to an end.
    if (freeRepeats) game.sources.forEach(({ respawns }, s) => respawns && !this.safety.sources[s] && (this.scope.enoughUnits[s] = this.scope.askedUnits[s]!))
    this.mostXp = game.characters.map(({ curve }) => (curve ? (curve.counts === 'total' ? curve.values.at(-1)! : curve.values.reduce((sum, v) => sum + v, 0)) + 1 : 0))
    this.enoughTaken = Float64Array.from(game.sources, (_, s) => (this.scope.sources[s] ? this.scope.enoughUnits[s]! : 0))
    const flagged = (flags: readonly boolean[]) => flags.flatMap((is, i) => (is ? [i] : []))
    this.mattering = { tallies: flagged(this.scope.tallies), characters: flagged(this.scope.characters) }
    this.packing = new Packing(game, this.scope, this.mostXp)
    this.random = game.characters.some((c) => c.rewards.some((r) => r.yields.some(isRanged)))
    this.local = game.tallies.flatMap(({ resets }, t) => (resets === 'place' && this.scope.tallies[t] ? [t] : []))
    this.localCharacters = this.local.flatMap((t) => game.tallies[t]!.listeners.filter((c) => this.scope.characters[c]))
    this.leavesBehind = this.safety.roams && !leadsBack(game, this.scope)
    const isRandom = (item: Item) => this.isRandomMove((item >= 0 ? game.sources[item]! : game.gates[-1 - item]!).yields)
    this.surroundings = new Surroundings(game, this.scope, this.safety, isRandom)
    this.quiet = quietMoves(game, this.scope, this.safety, this.packing, isRandom)
    this.localFields = this.packing.fieldsOf({ tallies: this.local, taken: [], opened: [] })
    this.old = new Float64Array(Math.max(this.local.length, ...[...this.quiet.sources, ...this.quiet.gates].map((move) => move?.tally.length ?? 0)))
    this.next = newState(game)
    this.following = new Following(game, this.surroundings)
    this.begun = newState(game)
    enter(game, this.begun, game.start, plainPlay)
    this.settle(this.begun, true)
    this.followedAtStart = this.followed
  }

  start(): State {
    return cloneState(this.begun)
  }

  /** A player's state made one of this space. */
  asSeen(state: State): State {
    this.settle(state, true)
    return state
  }

  /** Whether a player is just where a way through the space is said to lead: one who holds more than enough may have to use up more on it. */
  isSame(state: State, player: State): boolean {
    const { enough, enoughOfAll } = this.scope
    if (enoughOfAll.exact.every((amount, t) => amount === enough[t])) return true
    const rowOf = (one: State) => {
      // What is only spent is put off to the end, all at once.
      for (const g of this.safety.sinks) one.opened[g] = 1
      return this.packing.rowOf(one)
    }
    const row = rowOf(cloneState(state))
    return rowOf(this.asSeen(cloneState(player))).every((word, i) => word === row[i])
  }

  /** What is done at once at the start. */
  get deedsAtStart(): Deed[] {
    return this.followedAtStart.map((item) => this.deedOf(item))
  }

  isWon(state: State): boolean {
    const { places, gates } = this.scope.goal
    return places.every((p) => state.visited[p]) && gates.every((g) => state.opened[g])
  }

  /** Whether where the player stands is left out, but for where something starts anew in each place. */
  get leavesOutGoing(): boolean {
    return this.safety.roams
  }

  /**
   * Every step from a state, in every way that chance can fall. Where the player roams, moves of all places that can be gone to and
   * come back from count, all that can never spoil anything follows each step at once, and what is only spent is spent at the end.
   * The state is changed meanwhile, and as it was when this returns true; false: chance falls in too many ways, and what comes after was
   * left out. `repeats`: whether to tell of those.
   */
  steps(state: State, visit: Visit, repeats = true): boolean {
    this.repeats = repeats
    try {
      this.stepsFrom(state, visit)
      return true
    } catch (error) {
      if (!(error instanceof TooManyFalls)) throw error
      this.isCutShort = true
      return false
    }
  }

  private stepsFrom(state: State, visit: Visit): void {
    if (this.safety.roams && this.isFresh(state)) {
      const around = this.surroundings.of(state)
      this.movesAround(state, around, visit)
      this.cross(state, around, visit)
      this.waste(state, around.places, visit)
      return
    }
    this.movesAround(state, this.surroundings.at(state.place), visit)
    if (!this.safety.roams) for (const { passage, to } of this.game.places[state.place]!.ways) this.go(state, passage, to, visit)
    else if (!this.leave(state, visit)) this.cross(state, this.surroundings.of(state), visit)
  }

  private movesAround(state: State, { others, at }: Around, visit: Visit): void {
    for (let i = 0; i < others.length; i++) {
      const item = others[i]!
      if (item >= 0) this.addTake(state, item, at[i]!, visit)
      else this.addOpen(state, -1 - item, at[i]!, visit)
    }
  }

  /** Out of a place where something was earned that starts anew elsewhere, to where one can come back from; false: there is no such way. */
  private leave(state: State, visit: Visit): boolean {
    const around = this.surroundings.of(state)
    const way = around.onward.get(state.place)
    if (!way) return false
    if (!this.addFresh(state, way.passage, around, visit)) this.goThrough(state, way.passage, way.to, visit)
    return true
  }

  /** Going on where it does nothing but start anew what does so in each place; false: more would follow. */
  private addFresh(state: State, passage: number, { places, safe }: Around, visit: Visit): boolean {
    if (this.localCharacters.length > 0 || this.surroundings.hasLiveWays) return false
    // Where nobody has been yet, going there is more than that.
    if (places.some((p) => this.surroundings.isNew(state, p))) return false
    const { tallies, place } = state
    const { old, local, game } = this
    for (let i = 0; i < local.length; i++) {
      old[i] = tallies[local[i]!]!
      tallies[local[i]!] = game.tallies[local[i]!]!.start
    }
    state.place = places[0]!
    const isQuiet = !this.isAnyToFollow(state, safe)
    if (isQuiet) visit(state, false, () => [{ go: game.passages[passage]!.id }], this.localFields)
    state.place = place
    for (let i = 0; i < local.length; i++) tallies[local[i]!] = old[i]!
    return isQuiet
  }

  private isAnyToFollow(state: State, safe: readonly Item[]): boolean {
    for (const item of safe) if (this.following.isToDo(state, item)) return true
    return false
  }

  /** Through passages by which nobody comes back. */
  private cross(state: State, { crossings }: Around, visit: Visit): void {
    for (const { passage, to } of crossings) this.goThrough(state, passage, to, visit)
  }

  private go(state: State, passage: number, to: number, visit: Visit): void {
    if (this.surroundings.isWayOpen(state, passage, to)) this.goThrough(state, passage, to, visit)
  }

  private goThrough(state: State, passage: number, to: number, visit: Visit): void {
    this.moved(state, state.place, () => enter(this.game, this.next, to, plainPlay), true)
    this.tell(false, { go: this.game.passages[passage]!.id }, visit)
  }

  /** All that can be spent on what gives nothing, in every sum that leaves another amount; after that no more is. */
  private waste(state: State, places: readonly number[], visit: Visit): void {
    const { game, next } = this
    const { sinks } = this.safety
    if (sinks.length === 0 || state.opened[sinks[0]!]) return
    const open = sinks.filter((g) => places.some((p) => game.gates[g]!.place === p || game.gates[g]!.place === null) && holds(game.gates[g]!, state))
    const all = wastes(game, state, open)
    if (!all) this.isCutShort = true
    for (const { spent, gates } of all ?? []) {
      copyState(state, next)
      for (const g of sinks) next.opened[g] = 1
      for (const [tally, amount] of spent) next.tallies[tally]! -= amount
      visit(next, false, () => gates.map((g) => ({ open: game.gates[g]!.id })), null)
    }
  }

  private addTake(state: State, s: number, place: number, visit: Visit): void {
    const { game, next } = this
    const source = game.sources[s]!
    const repeat = state.taken[s]! >= source.count
    if ((repeat && !this.repeats) || !canTake(game, state, s)) return
    if (this.safety.roams && this.safety.sources[s] && !this.isRandomMove(source.yields)) {
      if (repeat) this.addRepeats(state, s, place, visit)
      return
    }
    const quiet = this.quiet.sources[s]
    if (quiet && this.addQuiet(state, s, place, quiet, repeat, visit)) return
    this.chance(state, place, source.yields, (play) => this.takeOne(next, s, play), false, (rolled) => this.tell(repeat, { take: source.id, ...outcomeOf(game, rolled), ...fallOf(rolled) }, visit))
  }

  private takeOne(state: State, s: number, play: Play): void {
    take(this.game, state, s, play)
    state.taken[s] = Math.min(state.taken[s]!, this.enoughTaken[s]!)
  }

  /** What can never spoil anything is repeated until there is enough of all that it gives, and of its units. */
  private addRepeats(state: State, s: number, place: number, visit: Visit): void {
    const repeatWithoutEnd = () => {
      giveWithoutEnd(this.game, this.next, this.game.sources[s]!)
      this.next.taken[s] = Math.max(this.next.taken[s]!, this.enoughTaken[s]!)
    }
    this.moved(state, place, repeatWithoutEnd, false)
    this.tell(true, { take: this.game.sources[s]!.id, untilEnough: true }, visit)
  }

  private addOpen(state: State, g: number, place: number, visit: Visit): void {
    if (!canOpen(this.game, state, g)) return
    const gate = this.game.gates[g]!
    const quiet = this.quiet.gates[g]
    if (quiet && this.addQuiet(state, -1 - g, place, quiet, false, visit)) return
    this.chance(state, place, gate.yields, (play) => open(this.game, this.next, g, play), true, (rolled) => this.tell(false, { open: gate.id, ...fallOf(rolled) }, visit))
  }

  /** Makes a quiet move on the state itself and takes it back; false: something would follow it after all. */
  private addQuiet(state: State, item: Item, place: number, quiet: QuietMove, repeat: boolean, visit: Visit): boolean {
    const before = state.place
    const wasFresh = this.safety.roams && this.isFresh(state)
    const taken = item >= 0 ? state.taken[item]! : 0
    makeQuiet(this.game, this.scope, state, quiet, this.old)
    const isFresh = this.safety.roams && this.isFresh(state)
    // What was put off in a place where something starts anew is done once nothing of it is held.
    const isQuiet = !isFresh || wasFresh
    state.place = isFresh ? before : place
    if (isQuiet) {
      if (item >= 0) state.taken[item] = Math.min(taken + 1, this.enoughTaken[item]!)
      else state.opened[-1 - item] = 1
      visit(state, repeat, quiet.deeds, quiet.fields)
      if (item >= 0) state.taken[item] = taken
      else state.opened[-1 - item] = 0
    }
    state.place = before
    undoQuiet(state, quiet, this.old)
    return isQuiet
  }

  private tell(repeat: boolean, deed: Deed, visit: Visit): void {
    const { followed } = this
    visit(this.next, repeat, () => [deed, ...followed.map((item) => this.deedOf(item))], null)
  }

  private deedOf(item: Item): Deed {
    return item >= 0 ? { take: this.game.sources[item]!.id } : { open: this.game.gates[-1 - item]!.id }
  }

  /** Whether a deed can spoil nothing: without it, nothing is possible that was not, for it can still be done. */
  isSafe(deed: Deed): boolean {
    if ('take' in deed) return this.safety.sources[indexOf(this.game, 'sources', deed.take)]!
    return 'open' in deed && this.safety.gates[indexOf(this.game, 'gates', deed.open)]!
  }

  /** Whether another unit of a source would make no difference; `times` as much counts as enough. */
  isEnough(state: State, id: string, times = 1): boolean {
    const s = indexOf(this.game, 'sources', id)
    if (state.taken[s]! < this.enoughTaken[s]!) return false
    const { enough, enoughOfAll } = this.scope
    const wanted = (t: number) => Math.min(enough[t]!, times * (enoughOfAll.supposed ?? enough)[t]!)
    const hasLevels = (t: number) => this.game.tallies[t]!.listeners.every((c) => !this.scope.characters[c] || state.level[c]! >= Math.min(this.scope.enoughLevel[c]!, limitOf(this.game, state, c)))
    return this.game.sources[s]!.yields.every(({ tally }) => !this.scope.tallies[tally] || (state.tallies[tally]! >= Math.min(wanted(tally), this.game.tallies[tally]!.max) && hasLevels(tally)))
  }

  private isRandomMove(yields: readonly GameYield[]): boolean {
    return this.random || yields.some(isRanged)
  }

  /** Makes a move in a copy of the state, in every way that chance can fall, and tells of each. */
  private chance(state: State, place: number, yields: readonly GameYield[], move: (play: Play) => void, opens: boolean, tell: (rolled: [GameYield, number][]) => void): void {
    if (!this.isRandomMove(yields)) {
      this.moved(state, place, () => move(plainPlay), opens)
      return tell([])
    }
    let falls = 0
    everyOutcome.rolls((roll) => {
      if (++falls > mostFalls) throw new TooManyFalls()
      const rolled: [GameYield, number][] = []
      const play: Play = {
        ...plainPlay,
        roll: (y) => {
          const amount = roll(y)
          rolled.push([y, amount])
          return amount
        },
      }
      this.moved(state, place, () => move(play), opens)
      tell(rolled)
    })
  }

  /** Makes a move in a place in a copy of the state, and all that follows it at once. */
  private moved(state: State, place: number, move: () => void, opens: boolean): void {
    const { next } = this
    copyState(state, next)
    if (next.place !== place) enter(this.game, next, place, plainPlay)
    move()
    this.settle(next, opens)
  }

  /** Does at once what can spoil nothing, leaves out what cannot matter, and makes amounts above everything that is asked for alike. */
  private settle(state: State, opened: boolean): void {
    if (this.safety.roams) {
      if (opened || this.surroundings.hasLiveWays) for (const p of this.surroundings.of(state).places) this.surroundings.arrive(state, p)
      this.followed = this.following.follow(state, !this.isFresh(state))
      state.place = this.placeAfter(state, state.place)
    }
    this.saturate(state)
  }

  private saturate(state: State): void {
    const { scope, mattering } = this
    for (const t of mattering.tallies) if (state.tallies[t]! > scope.enough[t]!) state.tallies[t] = scope.enough[t]!
    for (const c of mattering.characters) {
      if (state.level[c]! >= scope.enoughLevel[c]!) {
        state.level[c] = scope.enoughLevel[c]!
        state.xp[c] = 0
      } else if (state.xp[c]! > this.mostXp[c]!) state.xp[c] = this.mostXp[c]!
    }
  }

  /** Where a player counts as standing: of all places that can be gone to and come back from one, if nothing is held that going on would lose. */
  private placeAfter(state: State, place: number): number {
    state.place = place
    return this.safety.roams && this.isFresh(state) ? this.surroundings.of(state).places[0]! : place
  }

  private isFresh(state: State): boolean {
    const { game } = this
    return (
      this.local.every((t) => state.tallies[t] === game.tallies[t]!.start) &&
      this.localCharacters.every((c) => state.level[c] === game.characters[c]!.startLevel && state.xp[c] === startXpOf(game, c))
    )
  }
}
