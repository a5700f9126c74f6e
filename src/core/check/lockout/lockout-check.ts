import type { Game } from '../../rules/game.ts'
import type { LockoutPart, LockoutResult, Move } from '../result.ts'
import { defaultBound, type LockoutBound } from './bound.ts'
import { type Deed, stateAfter, withGoing } from './going.ts'
import { stuckGoingOn } from './going-on.ts'
import { findsWin } from './hope.ts'
import { missingText } from './missing.ts'
import { withoutNeedless } from './needless.ts'
import { withPlenty } from './plenty.ts'
import { Space } from './space.ts'
import { StateGraph } from './state-graph.ts'

/** Whether a player who plays freely can end up stuck, or forced to grind (docs/checks.md 3). */
export function checkLockouts(game: Game, bound = defaultBound): LockoutResult {
  if (game.start < 0) {
    const none: LockoutPart = { result: 'none', states: 0, witness: null }
    return { stuck: { result: 'found', states: 0, witness: [], missing: 'the start of the plan does not exist' }, forcedGrind: none }
  }
  const roaming = lockoutsIn(game, bound, false, null)
  const isOpen = (part: LockoutPart) => part.result === 'undecided'
  if (!roaming.leavesBehind || (!isOpen(roaming.stuck) && !isOpen(roaming.forcedGrind))) return roaming
  const known = isOpen(roaming.stuck) ? stuckGoingOn(game, bound) : roaming.stuck
  // Where there are too many states already, there are more when it is told apart what was left behind.
  if (roaming.isLarge) return { stuck: known ?? roaming.stuck, forcedGrind: roaming.forcedGrind }
  const placed = lockoutsIn(game, bound, true, known)
  return { stuck: placed.stuck, forcedGrind: isOpen(roaming.forcedGrind) ? placed.forcedGrind : roaming.forcedGrind }
}

/**
 * The same, in a space of one make (Space, `placed`). `leavesBehind`: what was not found there can be all the same, by going
 * on with less than can be had. `isLarge`: whether not all states were looked at. `known`: whether one can get stuck, where it is
 * known already.
 */
function lockoutsIn(game: Game, bound: LockoutBound, placed: boolean, known: LockoutPart | null): LockoutResult & { leavesBehind: boolean; isLarge: boolean } {
  const searched: { space: Space; graph: StateGraph }[] = []
  const search = (freeRepeats: boolean, repeats = true) => {
    const played = freeRepeats ? withPlenty(game) : game
    const space = new Space(played, freeRepeats, placed)
    const graph = new StateGraph(space, bound, repeats)
    searched.push({ space, graph })
    return new Search(game, played, space, graph)
  }
  const told = (stuck: LockoutPart, forcedGrind: LockoutPart) => ({
    stuck, forcedGrind, leavesBehind: searched.some(({ space }) => space.leavesBehind), isLarge: searched.some(({ graph }) => !graph.isWhole),
  })
  // Whoever asks only whether one can get stuck need not count how often something was repeated.
  const free = search(true)
  const stuck = known ?? free.stuck()
  const isLostAtStart = stuck.result === 'found' && stuck.witness!.length === 0
  if (isLostAtStart || !game.sources.some(({ respawns }) => respawns)) return told(stuck, { result: 'none', states: stuck.states, witness: null })
  const once = search(false, false)
  // Where nobody gets stuck, whoever cannot win at once can by repeats; else what repeats lead to has to be looked at too.
  const allWin = stuck.result === 'none'
  const early = once.forcedGrindEarly(allWin)
  if (early) return told(stuck, early)
  const isPlain = allWin || once.winsWheneverItCan()
  return told(stuck, (isPlain ? once : search(false)).forcedGrind(isPlain))
}

class Search {
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

  none(): LockoutPart {
    return { result: this.graph.isWhole && !this.space.leavesBehind ? 'none' : 'undecided', states: this.graph.size, witness: null }
  }

  private found(deeds: Deed[]): LockoutPart {
    const { game, space } = this
    const witness = space.leavesOutGoing ? this.playedOut(deeds) : (deeds as Move[])
    return { result: 'found', states: this.graph.size, witness, missing: missingText(game, stateAfter(game, witness)) }
  }

  /** The deeds as a player's moves, without those that were only made because they spoil nothing. */
  private playedOut(deeds: Deed[]): Move[] {
    const { game, space } = this
    const going = (some: readonly Deed[]) => withGoing(game, some, (state, source) => space.isEnough(state, source))
    const safe = deeds.filter((deed) => space.isSafe(deed))
    return going(withoutNeedless(deeds, safe, (fewer) => going(fewer) !== null)) ?? []
  }

  stuck(): LockoutPart {
    const early = this.isLarge ? this.graph.firstHopeless(this.played, true) : -1
    if (early >= 0) return this.found(this.graph.wayTo(early))
    const id = this.graph.grow(Infinity).winning(true).indexOf(0)
    return id < 0 ? this.none() : this.found(this.graph.wayTo(id))
  }

  /**
   * A forced grind that is seen without looking at all states: one without hope but by repeats, where a new game can be won without.
   * Of a search that follows no repeats. null: none is seen so.
   */
  forcedGrindEarly(allWin: boolean): LockoutPart | null {
    const { game, space, graph } = this
    const id = this.isLarge ? graph.firstHopeless(game, false) : -1
    if (id < 0 || !findsWin(game, space, space.start(), false)) return null
    return allWin || findsWin(game, space, graph.stateOf(id), true) ? this.found(graph.wayTo(id)) : null
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
    const cameBy = graph.withoutRepeats()
    for (let id = 1; id < graph.size; id++) {
      if (cameBy[id]! >= 0 && !winsAtOnce[id] && (allWin || wins[id])) return this.found(graph.wayTo(id, (at) => cameBy[at]!))
    }
    return this.none()
  }
}
