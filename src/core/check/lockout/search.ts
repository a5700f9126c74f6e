import type { Game } from '../../rules/game.ts'
import type { LockoutPart, Move } from '../result.ts'
import { type Deed, type PlayedMove, stateAfter, withGoing } from './going.ts'
import { findsWin, isHopeless } from './hope.ts'
import { missingText } from './missing.ts'
import { withoutNeedless } from './needless.ts'
import type { Space } from './space.ts'
import type { StateGraph } from './state-graph.ts'

/** States of which it is tried whether who gets there just so can be told how. */
const mostTried = 10
/** States that are looked at one by one, and steps in which a win is looked for from each. */
const mostAsked = 300
const fewSteps = 200

/** How much more than enough is gathered where a repeat is written out, until all that follows can be paid. */
const generous = [1, 10, 1000]

/** What is found in one graph of states, and how a player gets there. */
export class Search {
  constructor(
    private readonly game: Game,
    /** The game as the space has it. */
    private readonly played: Game,
    private readonly space: Space,
    private readonly graph: StateGraph,
  ) {}

  /** Whether there are too many states for all to be looked at soon. */
  private get isLarge(): boolean {
    return !this.graph.grow(this.graph.bound.few).isWhole
  }

  private none(): LockoutPart {
    return { result: this.graph.isWhole && !this.space.leavesBehind ? 'none' : 'undecided', states: this.graph.size, witness: null }
  }

  private found(moves: readonly PlayedMove[]): LockoutPart {
    const { game } = this
    const witness = moves.map(({ rolls: _, ...move }): Move => move)
    return { result: 'found', states: this.graph.size, witness, missing: missingText(game, stateAfter(game, moves)) }
  }

  /** The deeds as a player's moves, without those that were only made because they spoil nothing; null: they cannot be written out. */
  private playedOut(deeds: Deed[]): PlayedMove[] | null {
    const { game, space } = this
    const safe = space.leavesOutGoing ? deeds.filter((deed) => space.isSafe(deed)) : []
    for (const times of generous) {
      const going = (some: readonly Deed[]) => withGoing(game, some, (state, source) => space.isEnough(state, source, times))
      if (going(deeds)) return going(withoutNeedless(deeds, safe, (fewer) => going(fewer) !== null))
    }
    return null
  }

  /**
   * `supposing`: told by another search, if at all, where amounts have no end or too many are told apart; `exactly`: by one that
   * tells all amounts apart, where it cannot be written out how to get there.
   */
  stuck(supposing: () => LockoutPart | null, exactly: () => LockoutPart | null): LockoutPart {
    const { played, space, graph } = this
    const early = this.isLarge ? graph.firstHopeless(played, true) : -1
    // Where it is not known that the start can be won, it may be from there that there is no hope.
    const isKnown = early === 0 || (early > 0 && findsWin(played, space, space.start(), true, graph.isLate))
    const quick = isKnown ? this.foundAt(early) : null
    if (quick) return quick
    const supposed = this.isLarge && space.scope.enoughOfAll.supposed ? supposing() : null
    if (supposed) return supposed
    const first = graph.grow(Infinity).winning(true).indexOf(0)
    const id = first < 0 ? early : first
    return id < 0 ? this.none() : (this.foundAt(id) ?? exactly() ?? this.undecided())
  }

  stuckExactly(): LockoutPart | null {
    const id = this.graph.grow(Infinity).winning(true).indexOf(0)
    return id < 0 ? null : this.foundAt(id)
  }

  /** Stuck in a state, by the way on which it was found, or another; null: played, that does not lead just there. */
  private foundAt(id: number, cameBy?: (id: number) => number): LockoutPart | null {
    const { game, space, graph } = this
    const witness = this.playedOut(graph.wayTo(id, cameBy))
    return witness && space.isSame(graph.stateOf(id), stateAfter(game, witness)) ? this.found(witness) : null
  }

  private undecided(): LockoutPart {
    return { result: 'undecided', states: this.graph.size, witness: null }
  }

  /**
   * The same in a space in which it is only supposed how much is enough: whoever holds more can have more left. Nobody gets stuck
   * where all win with the least that may be left and more does no harm; somebody does who gets for certain to where nobody wins
   * with whatever may be left. null: neither is so.
   */
  stuckSupposing(): LockoutPart | null {
    const { space, graph } = this
    const wins = graph.grow(Infinity).winning(true)
    if (!graph.isWhole) return null
    if (!wins.includes(0)) return space.leavesBehind || !space.scope.enoughOfAll.isMoreNoHarm ? null : this.none()
    const mayWin = graph.winning(true, true)
    const cameBy = graph.cameBy(true)
    const lost = [...mayWin.keys()].filter((id) => !mayWin[id] && (id === 0 || cameBy[id]! >= 0)).slice(0, mostTried)
    for (const id of lost) {
      const part = this.foundAt(id, (at) => cameBy[at]!)
      if (part) return part
    }
    return null
  }

  /**
   * A forced grind that is seen without looking at all states: one without hope but by repeats, where a new game can be won without.
   * Of a search that follows no repeats. null: none is seen so. `repeating`: a space of who repeats.
   */
  forcedGrindEarly(allWin: boolean, repeating: () => Space): LockoutPart | null {
    const { game, played, space, graph } = this
    const id = this.isLarge ? graph.firstHopeless(played, false) : -1
    if (id < 0 || !findsWin(played, space, space.start(), false, graph.isLate)) return null
    const witness = this.playedOut(graph.wayTo(id))
    const wins = (moves: readonly PlayedMove[], other = repeating()) => findsWin(played, other, other.asSeen(stateAfter(game, moves)), true, graph.isLate)
    return witness && (allWin || wins(witness)) ? this.found(witness) : null
  }

  /**
   * The same state by state of those that cannot be won without repeats: from each there is no hope, or from one a win is found.
   * null: neither is known. `repeating`: a space of who repeats.
   */
  forcedGrindOneByOne(repeating: Space): LockoutPart | null {
    const { game, played, space } = this
    const graph = this.graph.grow(Infinity)
    if (!graph.isWhole) return null
    const wins = graph.winning(false)
    if (!wins[0]) return null
    const left = [...wins.keys()].filter((id) => !wins[id])
    let isKnown = left.length <= mostAsked && !space.leavesBehind
    for (const id of left.slice(0, mostAsked)) {
      if (graph.isLate()) return null
      const witness = this.playedOut(graph.wayTo(id))
      const state = witness && stateAfter(game, witness)
      if (state && isHopeless(played, state, true)) continue
      if (state && findsWin(played, repeating, repeating.asSeen(state), true, graph.isLate, fewSteps)) return this.found(witness)
      isKnown = false
    }
    return isKnown ? this.none() : null
  }

  /** Whether no state that is reached without repeats needs them, or none can be won without: then there is no forced grind. */
  winsWheneverItCan(): boolean {
    const winsAtOnce = this.graph.grow(Infinity).winning(false)
    return this.graph.isWhole && !this.space.leavesBehind && (!winsAtOnce[0] || !winsAtOnce.includes(0))
  }

  /** `allWin`: from every state the goal can be reached by repeats, which need not have been followed. */
  forcedGrind(allWin: boolean): LockoutPart {
    const graph = this.graph.grow(Infinity)
    const winsAtOnce = graph.winning(false)
    // While some states are not followed, neither the start nor such a state is known for certain.
    if (!graph.isWhole || !winsAtOnce[0]) return this.none()
    const wins = graph.winning(true)
    const cameBy = graph.cameBy(false)
    for (let id = 1; id < graph.size; id++) {
      if (cameBy[id]! < 0 || winsAtOnce[id] || !(allWin || wins[id])) continue
      const witness = this.playedOut(graph.wayTo(id, (at) => cameBy[at]!))
      return witness ? this.found(witness) : this.undecided()
    }
    return this.none()
  }
}
