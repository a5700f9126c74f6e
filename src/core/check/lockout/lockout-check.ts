import type { Game } from '../../rules/game.ts'
import type { LockoutPart, LockoutResult } from '../result.ts'
import { defaultBound, type LockoutBound, timer } from './bound.ts'
import type { EnoughKind } from './enough.ts'
import { stuckGoingOn } from './going-on.ts'
import { withPlenty } from './plenty.ts'
import { Search } from './search.ts'
import { Space } from './space.ts'
import { StateGraph } from './state-graph.ts'
import { withinReach } from './within-reach.ts'

/** Whether a player who plays freely can end up stuck, or forced to grind (docs/checks.md 3). */
export function checkLockouts(game: Game, bound = defaultBound): LockoutResult {
  if (game.start < 0) {
    const none: LockoutPart = { result: 'none', states: 0, witness: null }
    return { stuck: { result: 'found', states: 0, witness: [], missing: 'the start of the plan does not exist' }, forcedGrind: none }
  }
  const clocks: Clocks = { stuck: timer(bound), grind: timer(bound) }
  const roaming = lockoutsIn(game, bound, clocks, false, null)
  const isOpen = (part: LockoutPart) => part.result === 'undecided'
  if (!roaming.leavesBehind || (!isOpen(roaming.stuck) && !isOpen(roaming.forcedGrind))) return { stuck: roaming.stuck, forcedGrind: roaming.forcedGrind }
  const known = isOpen(roaming.stuck) ? stuckGoingOn(game, bound) : roaming.stuck
  // Where there are too many states already, there are more when it is told apart what was left behind.
  if (roaming.isLarge) return { stuck: known ?? roaming.stuck, forcedGrind: roaming.forcedGrind }
  const placed = lockoutsIn(game, bound, clocks, true, known)
  return { stuck: placed.stuck, forcedGrind: isOpen(roaming.forcedGrind) ? placed.forcedGrind : roaming.forcedGrind }
}

/** For each of the two questions, whether time is up: however many searches it takes, they share it. */
type Clocks = Record<'stuck' | 'grind', () => boolean>

/**
 * The same, in a space of one make (Space, `placed`). `leavesBehind`: what was not found there can be all the same, by going
 * on with less than can be had. `isLarge`: whether not all states were looked at. `known`: whether one can get stuck, where it is
 * known already.
 */
function lockoutsIn(game: Game, bound: LockoutBound, clocks: Clocks, placed: boolean, known: LockoutPart | null): LockoutResult & { leavesBehind: boolean; isLarge: boolean } {
  const searched: { space: Space; graph: StateGraph }[] = []
  const reached = withinReach(game)
  const search = (clock: keyof Clocks, freeRepeats: boolean, repeats = true, enough: EnoughKind = 'amounts') => {
    const played = freeRepeats ? withPlenty(reached) : reached
    const space = new Space(played, freeRepeats, placed, enough)
    const graph = new StateGraph(space, bound, repeats, clocks[clock])
    searched.push({ space, graph })
    return new Search(game, played, space, graph)
  }
  const told = (stuck: LockoutPart, forcedGrind: LockoutPart) => ({
    stuck, forcedGrind, leavesBehind: searched.some(({ space }) => space.leavesBehind), isLarge: searched.some(({ space, graph }) => !graph.isWhole && !space.scope.enoughOfAll.supposed),
  })
  // Whoever asks only whether one can get stuck need not count how often something was repeated.
  const free = search('stuck', true)
  const stuck = known ?? free.stuck(() => search('stuck', true, true, 'supposed').stuckSupposing(), () => search('stuck', true, true, 'exact').stuckExactly())
  const isLostAtStart = stuck.result === 'found' && stuck.witness!.length === 0
  if (isLostAtStart || !game.sources.some(({ respawns }) => respawns)) return told(stuck, { result: 'none', states: stuck.states, witness: null })
  const once = search('grind', false, false, 'once')
  // Where nobody gets stuck, whoever cannot win at once can by repeats; else what repeats lead to has to be looked at too.
  const allWin = stuck.result === 'none'
  const repeating = () => new Space(reached, false, placed)
  const early = once.forcedGrindEarly(allWin, repeating)
  if (early) return told(stuck, early)
  const isPlain = allWin || once.winsWheneverItCan()
  const one = isPlain ? null : once.forcedGrindOneByOne(repeating())
  return told(stuck, one ?? (isPlain ? once : search('grind', false)).forcedGrind(isPlain))
}
