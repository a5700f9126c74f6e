import { canTake, open, standsAt, take, takeAtOnce } from '../../rules/engine.ts'
import { plainPlay, type Play } from '../../rules/gain.ts'
import type { Game, GameYield } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import type { EveryWay } from '../chance.ts'
import { AlikeBranches } from './alike-branches.ts'
import { cloneBranch, copyBranch, noted, type Branch } from './branch.ts'
import type { Itinerary } from './itinerary.ts'
import { RouteWalk, type WalkOptions } from './route-walk.ts'
import type { Cause } from './watcher.ts'

/** Thrown when following every branch takes more than the effort allowed: the caller samples instead. */
export class TooManyBranches extends Error {
  override readonly name = 'TooManyBranches'
}

/** Making a branch and telling it from others, against passing an item in one; and so many sources and gates copied for it. */
const splitEffort = 8
const copiedAsFast = 100

/** Where there are more, there are soon far more. Each holds all sources and gates of the plan; a few fit into memory for any. */
const mostBranches = 3_000
const mostHeld = 500_000
const alwaysFit = 64
/** So many times as many may come of one move, before those that are alike become one. */
const madeAtOnce = 8

/** Stops after which branches are compared anyway. */
const stopsApart = 8

type Ways = ReturnType<EveryWay['units']>

/** All branches of chance side by side; those that are alike from some point on become one. */
export class BranchWalk extends RouteWalk {
  private effort: number
  private readonly mostBranches: number
  private readonly mostAtOnce: number
  private readonly splitEffort: number
  private readonly alike: AlikeBranches
  /** Branches that no longer go on: their room is used again, for to make it takes longer than to write into it. */
  private readonly spare: Branch[] = []
  private readonly end = (branch: Branch) => void this.spare.push(branch)
  /** The stop at which some branch last went several ways. */
  private partedAt = 0
  /** By source and gate: whether it needs no branches, once it was asked. */
  private readonly certain: { sources: Uint8Array; gates: Uint8Array }
  private readonly isTold: boolean
  private readonly rewardsAreFixed: boolean

  constructor(
    options: WalkOptions,
    private readonly chance: EveryWay,
  ) {
    super(options)
    const { game, watcher, effort } = options
    this.effort = effort ?? Infinity
    this.alike = new AlikeBranches(options.itinerary)
    this.splitEffort = splitEffort + (game.sources.length + game.gates.length) / copiedAsFast
    this.isTold = Boolean(watcher.moved ?? watcher.events)
    this.certain = { sources: new Uint8Array(game.sources.length), gates: new Uint8Array(game.gates.length) }
    this.rewardsAreFixed = game.characters.every((c) => c.rewards.every((r) => isFixed(r.yields)))
    this.mostBranches = effort === undefined ? Infinity : Math.min(mostBranches, Math.max(alwaysFit, mostHeld / (game.sources.length + game.gates.length + 1)))
    this.mostAtOnce = this.mostBranches * madeAtOnce
  }

  protected passUntilQuiet(place: number): void {
    this.alike.begin(this.stop, [...this.waiting, ...this.dueForSome()])
    let active = this.branches
    const settled: Branch[] = []
    while (active.length) {
      for (const branch of active) branch.changed = false
      active = this.pass(active, place)
      for (const branch of active) if (!branch.changed) settled.push(branch)
      active = active.filter((branch) => branch.changed)
    }
    this.branches = this.mayMeet() ? this.alike.merged(settled, this.end) : settled
  }

  /** Gates that are due on leaving this stop or a later one, and were not yet in some branch: who has opened one goes on otherwise than who has not. */
  private dueForSome(): number[] {
    // What parts at this stop differs in what stands here, which is told apart anyway.
    if (this.branches.length < 2) return []
    const { targets } = this.o.itinerary
    return this.dueOnLeaving.slice(this.stop).flat().filter((g) => targets.gates[g] && this.branches.some(({ notes }) => !(notes[g]! & noted.due)))
  }

  /** Whether branches may have become alike that were not: soon after they have parted, and now and then. */
  private mayMeet(): boolean {
    return this.stop - this.partedAt <= 1 || this.stop % stopsApart === 0
  }

  private pass(branches: Branch[], place: number): Branch[] {
    let all = branches
    for (const item of this.o.itinerary.items[place]!) {
      all = item >= 0 ? this.passSource(all, item) : this.passGate(all, -1 - item)
    }
    for (const g of this.o.itinerary.anywhere) {
      if (standsAt(this.o.game, this.o.game.gates[g]!, place)) all = this.passGate(all, g)
    }
    return all
  }

  private passSource(branches: Branch[], s: number): Branch[] {
    // Most passes come to a source of which all that is wanted is taken.
    if (branches.every(({ wanted, state }) => wanted[s] === state.taken[s])) return this.narrowed(branches, branches.length)
    if (this.isCertain('sources', s) && this.isWantedWhole(s)) return this.takeEverywhere(branches, s)
    const after: Branch[] = []
    let ways: Ways | null = null
    for (const branch of branches) {
      if (branch.wanted[s] === branch.state.taken[s]) after.push(branch)
      else if (branch.wanted[s] !== -1) this.takeWanted(branch, s, after)
      else for (const drawn of this.withWanted(branch, s, (ways ??= this.waysOf(s)))) this.takeWanted(drawn, s, after)
    }
    return this.narrowed(after, branches.length)
  }

  /** Whether nobody leaves units of a source to chance. */
  private isWantedWhole(s: number): boolean {
    const share = this.shareOf(s)
    return share === 0 || share === 1
  }

  private takeEverywhere(branches: Branch[], s: number): Branch[] {
    const wanted = this.o.game.columns.count[s]! * this.shareOf(s)
    for (const branch of branches) {
      branch.wanted[s] = wanted
      this.takeCertain(branch, s)
    }
    return this.narrowed(branches, branches.length)
  }

  private narrowed(branches: Branch[], before: number): Branch[] {
    if (branches.length > 1) this.effort -= branches.length > before ? branches.length * this.splitEffort : branches.length
    if (branches.length > before) this.partedAt = this.stop
    const fewer = branches.length > before ? this.alike.merged(branches, this.end) : branches
    if (this.effort < 0 || fewer.length > this.mostBranches) throw new TooManyBranches()
    return fewer
  }

  /** How many units of a source may be wanted. */
  private waysOf(s: number): Ways {
    const ways = this.chance.units(this.o.game.columns.count[s]!, this.shareOf(s))
    // Of very many units very many numbers can be wanted.
    if (ways.length > this.mostAtOnce) throw new TooManyBranches()
    return ways
  }

  /** Draws how many units of a source are wanted, once in the whole route. */
  private withWanted(branch: Branch, s: number, ways: Ways): Branch[] {
    const { weight } = branch
    return ways.map(([units, probability], i) => {
      const next = i === ways.length - 1 ? branch : this.copyOf(branch)
      next.weight = weight * probability
      next.wanted[s] = units
      return next
    }).reverse()
  }

  /**
   * Whether no chance falls on an item, and nobody wants to be told of it: then it needs no branches. A yield with a range on a tally
   * that does not matter gives its least, without a branch: that is left to the slow way.
   */
  private isCertain(kind: 'sources' | 'gates', i: number): boolean {
    const known = this.certain[kind]
    if (known[i] === 0) known[i] = !this.isTold && this.rewardsAreFixed && isFixed(this.o.game[kind][i]!.yields) ? 1 : 2
    return known[i] === 1
  }

  private takeWanted(branch: Branch, s: number, done: Branch[]): void {
    const { game } = this.o
    if (this.isCertain('sources', s)) {
      this.takeCertain(branch, s)
      done.push(branch)
      return
    }
    const cause: Cause = { type: 'source', index: s }
    let going = [branch]
    while (going.length) {
      const next: Branch[] = []
      for (const b of going) {
        if (b.state.taken[s]! >= b.wanted[s]! || !canTake(game, b.state, s)) done.push(b)
        else this.moved(b, cause, (state, play) => take(game, state, s, play), next)
      }
      going = this.narrowed(next, 1)
    }
  }

  /** Units on which no chance falls, one after another in the same branch. */
  private takeCertain(branch: Branch, s: number): void {
    const { game } = this.o
    const { state } = branch
    const left = branch.wanted[s]! - state.taken[s]!
    if (left === 0) return
    if (game.columns.atOnce[s]) {
      branch.changed = true
      return takeAtOnce(game, state, s, left, plainPlay)
    }
    while (state.taken[s]! < branch.wanted[s]! && canTake(game, state, s)) {
      branch.changed = true
      take(game, state, s, plainPlay)
    }
  }

  private passGate(branches: Branch[], g: number): Branch[] {
    const gate = this.o.game.gates[g]!
    const isCertain = this.isCertain('gates', g)
    const after: Branch[] = []
    for (const branch of branches) {
      this.come(branch, g, gate)
      const opens = !gate.live && this.opensNow(branch, g, gate)
      if (opens && !isCertain) {
        this.moved(branch, { type: 'gate', index: g }, (state, play) => open(this.o.game, state, g, play), after)
        continue
      }
      if (opens) {
        branch.changed = true
        open(this.o.game, branch.state, g, plainPlay)
      }
      after.push(branch)
    }
    return this.narrowed(after, branches.length)
  }

  /** Makes a move in a branch, in every way that chance can fall. */
  private moved(branch: Branch, cause: Cause, move: (state: State, play: Play) => void, after: Branch[]): void {
    branch.changed = true
    this.o.watcher.moved?.(cause, this.stop, 1, branch.state)
    let made = 0
    const before = this.isRandom(cause) ? this.copyOf(branch) : null
    const ways = this.chance.rolls((roll) => {
      // One roll alone can fall in a million ways.
      if (made > this.mostAtOnce) throw new TooManyBranches()
      const target = before && made > 0 ? this.copyOf(before) : branch
      made++
      move(target.state, this.playing(this.rollsThatMatter(roll)))
      this.tell(cause)
      return target
    })
    const weight = branch.weight
    for (const [target, probability] of ways) {
      target.weight = weight * probability
      after.push(target)
    }
    if (before) this.end(before)
  }

  private copyOf(branch: Branch): Branch {
    const room = this.spare.pop()
    if (!room) return cloneBranch(branch, branch.weight)
    copyBranch(branch, room)
    return room
  }

  /** Whether a move can go several ways. */
  private isRandom(cause: Cause): boolean {
    const { game, itinerary } = this.o
    const item = cause.type === 'source' ? game.sources[cause.index]! : cause.type === 'gate' ? game.gates[cause.index]! : null
    return item !== null && isRandomMove(game, itinerary, item.yields)
  }

  /** What falls on tallies outside of what is walked makes no difference, and no branches. */
  private rollsThatMatter(roll: Play['roll']): Play['roll'] {
    const { matters } = this.o.itinerary
    return (y) => (matters[y.tally] ? roll(y) : y.min)
  }
}

function isRandomMove(game: Game, { matters }: Itinerary, yields: readonly GameYield[]): boolean {
  const ranged = (some: readonly GameYield[]) => some.some((y) => y.min !== y.max && matters[y.tally])
  return ranged(yields) || game.characters.some((c) => c.rewards.some((r) => ranged(r.yields)))
}

function isFixed(yields: readonly GameYield[]): boolean {
  return yields.every((y) => y.min === y.max)
}
