import { mostUnits as mostOfSource } from '../../plan/basics.ts'
import { remembered } from '../../plan/remembered.ts'
import { canTake, hasWhatItAsks, take, takeAtOnce } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game, GameComparison, GameSource, GameYield } from '../../rules/game.ts'
import { climbAll, giveWithoutEnd, raiseCaps, rises, risesThroughout } from '../../rules/relaxed.ts'
import type { State } from '../../rules/state.ts'
import { fromUnits } from '../../rules/compile.ts'
import { leastOf } from '../least-of.ts'
import type { DebtEntry } from '../result.ts'
import { comparisonHolds } from './comparison.ts'
import { addSourceNeeds, bears, relevanceOf, type Relevance } from './relevance.ts'

/** Bounds of the search; past them a gate counts as one that no number of further units opens. */
const mostUnits = 200_000
const mostRounds = 2_000
const mostStates = 1_500

/** Takes of the kindest game after which it is seen whether they are enough. */
const takesApart = 16
/** Repeats tried of one source where nothing tells beforehand whether they can be enough. */
const mostBlindUnits = 2_000

export interface Further {
  /** Whether further units, of one source or of several, open the gate. */
  opens: boolean
  debt: DebtEntry[]
}

/**
 * What further units would do for a gate that is not open at its due moment (docs/checks.md 1): units not taken so far
 * and repeats, of sources at places visited, taken one after another while nothing else happens.
 * `relaxed` is the game at its kindest. `state` is changed while this looks, and is as it was when it returns.
 */
export function furtherUnits(game: Game, relaxed: Game, state: State, g: number): Further {
  if (game.gates[g]!.error) return { opens: false, debt: [] }
  return new FurtherSearch(game, relaxed, state, g).search()
}

const doings = new WeakMap<GameSource, number>()
const doingsKnown = new Map<string, number>()

/** A number for all that one unit asks for and does: the same for sources that are alike in it. */
function doingOf(source: GameSource): number {
  return remembered(doings, source, () => {
    const { requires, takes, yields, caps } = source
    const doing = JSON.stringify([requires.text, takes, yields, caps])
    if (!doingsKnown.has(doing)) doingsKnown.set(doing, doingsKnown.size)
    return doingsKnown.get(doing)!
  })
}

class FurtherSearch {
  private readonly relevance: Relevance
  private readonly sources: number[]
  private readonly gateRises: boolean
  /** Whether no level that bears on the gate takes anything away. */
  private readonly rewardsOnlyGive: boolean

  constructor(
    private readonly game: Game,
    private readonly relaxed: Game,
    private readonly start: State,
    private readonly g: number,
  ) {
    this.gateRises = risesThroughout(game, game.gates[g]!)
    this.relevance = relevanceOf(game, game.gates[g]!)
    this.sources = this.candidates()
    this.rewardsOnlyGive = [...this.relevance.characters].every((c) => game.characters[c]!.rewards.every(({ yields }) => yields.every((y) => y.min >= 0)))
  }

  search(): Further {
    const satisfied = (state: State) => this.isSatisfied(state)
    if (!this.couldEver(this.sources, satisfied)) return { opens: false, debt: [] }
    const debt = this.debtFor(satisfied)
    if (debt.length) return { opens: true, debt }
    const opens = this.isSatisfied(this.start) || (this.sources.length > 0 && (this.roundsOpen() || this.someOrderOpens()))
    return { opens, debt: opens ? this.bestForEach() : [] }
  }

  /** Sources at places visited that bear on the gate, or on another source that does. */
  private candidates(): number[] {
    const here = [...this.game.sources.keys()].filter((s) => this.start.visited[this.game.sources[s]!.place] && !this.game.sources[s]!.error)
    let bearing: (s: number) => boolean
    for (let grown = true; grown; ) {
      grown = false
      bearing = this.bearing()
      for (const s of here) if (bearing(s) && addSourceNeeds(this.game, this.relevance, this.game.sources[s]!)) grown = true
    }
    return here.filter((s) => bearing(s))
  }

  /** Which sources bear on the gate, as far as is known: of those that do alike all do, or none. */
  private bearing(): (s: number) => boolean {
    const known = new Map<number, boolean>()
    return (s) => {
      const source = this.game.sources[s]!
      if (this.relevance.counted.has(s)) return true
      const doing = doingOf(source)
      let does = known.get(doing)
      if (does === undefined) known.set(doing, (does = bears(this.relevance, source, s)))
      return does
    }
  }

  /** False where even the kindest game has not what the gate asks for: most sealed gates need no search. */
  private couldEver(sources: number[], satisfied: (state: State) => boolean): boolean {
    // What must not be had, or only so much of it, the kindest game may have too much of, where a live gate is asked for that does so.
    const isKind = (source: GameSource) => !rises(source.requires) || risesThroughout(this.game, source)
    if (!this.gateRises || !sources.every((s) => isKind(this.game.sources[s]!))) return true
    return this.within((state) => {
      raiseCaps({ ...this.relaxed, sources: this.game.sources }, state, sources)
      climbAll(this.relaxed, state)
      // What is enough stays so: all that there is need not be taken.
      let takes = 0
      for (let grown = true; grown; ) {
        grown = false
        for (const s of sources) {
          const { respawns, count } = this.game.sources[s]!
          if (state.taken[s]! >= count + (respawns ? 1 : 0) || !canTake(this.relaxed, state, s)) continue
          if (state.taken[s]! < count) this.takeFrom(this.relaxed, state, s)
          else this.repeatFrom(state, s)
          grown = true
          if (++takes % takesApart === 0 && satisfied(state)) return true
        }
      }
      return satisfied(state)
    }, sources)
  }

  private repeatFrom(state: State, s: number): void {
    giveWithoutEnd(this.relaxed, state, { ...this.relaxed.sources[s]!, yields: this.kept(this.relaxed, state, s) })
    state.taken[s]! += 1_000_000
  }

  private isSatisfied(state: State): boolean {
    return hasWhatItAsks(this.game, state, this.g)
  }

  private debtFor(satisfied: (state: State) => boolean, mends?: string): DebtEntry[] {
    const known = new Map<number | string, number | null>()
    const entries = this.sources.flatMap((s) => {
      const alike = this.alike(s)
      let units = known.get(alike)
      if (units === undefined) known.set(alike, (units = this.couldEver([s], satisfied) ? this.unitsOf(s, satisfied) : null))
      return units === null ? [] : [this.entry(s, units, mends)]
    })
    return entries.sort((a, b) => a.minutes - b.minutes)
  }

  /** What tells sources apart of which another number of units does it: most plans have many that are alike. */
  private alike(s: number): number | string {
    // What is asked of a source's own number of units is told by no other.
    if (this.relevance.counted.has(s)) return `own ${s}`
    const source = this.game.sources[s]!
    const { taken, place } = this.start
    const left = source.respawns ? -1 : source.count - taken[s]!
    return (doingOf(source) * (mostOfSource + 2) + left + 1) * 2 + (source.place === place ? 1 : 0)
  }

  private entry(s: number, units: number, mends?: string): DebtEntry {
    const source = this.game.sources[s]!
    const untaken = Math.min(units, source.count - Math.min(source.count, this.start.taken[s]!))
    const minutes = fromUnits(Math.round(units * source.minutes * 10_000))
    return { source: source.id, untaken, repeats: units - untaken, minutes, ...(mends === undefined ? {} : { mends }) }
  }

  /** How many further units of one source alone do it; null when none do. */
  private unitsOf(s: number, satisfied: (state: State) => boolean): number | null {
    return this.isSteady(s) ? this.unitsAtOnce(s, satisfied) : this.unitsOneByOne(s, satisfied)
  }

  /** Whether units of a source do together what they do one after another, and more of them are never worse. */
  private isSteady(s: number): boolean {
    const { atOnce, place, yields } = this.game.sources[s]!
    const isWhole = place === this.start.place || yields.every(({ tally }) => this.game.tallies[tally]!.resets !== 'place')
    return atOnce && isWhole && this.gateRises && !this.relevance.counted.has(s) && this.rewardsOnlyGive
  }

  /** Ever more units are tried, and then between the last two. */
  private unitsAtOnce(s: number, satisfied: (state: State) => boolean): number | null {
    const { count, respawns } = this.game.sources[s]!
    const most = respawns ? mostUnits : count - this.start.taken[s]!
    const areEnough = (units: number) => this.within((state) => {
      takeAtOnce(this.game, state, s, units, plainPlay)
      return satisfied(state)
    }, [s])
    let units = 1
    while (units < most && !areEnough(units)) units *= 2
    const found = leastOf(Math.floor(units / 2) + 1, Math.min(units, most) + 1, areEnough)
    return found <= most ? found : null
  }

  private unitsOneByOne(s: number, satisfied: (state: State) => boolean): number | null {
    return this.within((state) => {
      const most = this.gateRises ? mostUnits : mostBlindUnits
      for (let units = 1; units <= most && canTake(this.game, state, s); units++) {
        const before = this.relevance.counted.has(s) ? null : this.progressKey(state)
        this.takeFrom(this.game, state, s)
        if (satisfied(state)) return units
        if (before !== null && this.progressKey(state) === before) return null
      }
      return null
    }, [s])
  }

  private takeFrom(game: Game, state: State, s: number): void {
    take(game, state, s, plainPlay, this.kept(game, state, s))
  }

  /** What a unit gives that is not lost on the way here. */
  private kept(game: Game, state: State, s: number): GameYield[] {
    const { place, yields } = game.sources[s]!
    return place === state.place ? yields : yields.filter((y) => game.tallies[y.tally]!.resets !== 'place')
  }

  /** All sources in turn, one unit each, again and again; and the other way round, where what is taken first makes a difference. */
  private roundsOpen(): boolean {
    return this.roundsOpenIn(this.sources) || (!this.isDecidedByRounds() && this.roundsOpenIn([...this.sources].reverse()))
  }

  private roundsOpenIn(sources: readonly number[]): boolean {
    return this.within((state) => {
      for (let round = 0; round < mostRounds; round++) {
        const before = this.progressKey(state)
        for (const s of sources) {
          if (!canTake(this.game, state, s)) continue
          this.takeFrom(this.game, state, s)
          if (this.isSatisfied(state)) return true
        }
        if (this.progressKey(state) === before && this.relevance.counted.size === 0) return false
      }
      return false
    })
  }

  /** Every order of further units, the shortest first, as far as the bound. */
  private someOrderOpens(): boolean {
    if (this.isDecidedByRounds()) return false
    const seen = new Set<string>()
    const queue: State[] = [this.copy(this.start)]
    for (const state of queue) {
      for (const s of this.sources) {
        if (!canTake(this.game, state, s)) continue
        const next = this.copy(state)
        this.takeFrom(this.game, next, s)
        if (this.isSatisfied(next)) return true
        const key = this.searchKey(next)
        if (seen.has(key) || seen.size >= mostStates) continue
        seen.add(key)
        queue.push(next)
      }
    }
    return false
  }

  /** Where nothing can spoil, taking everything in turn is as good as any order. */
  private isDecidedByRounds(): boolean {
    return this.gateRises && this.sources.every((s) => {
      const { takes, yields, caps } = this.game.sources[s]!
      return risesThroughout(this.game, this.game.sources[s]!) && takes.length === 0 && caps.length === 0 && yields.every((y) => y.min >= 0)
    }) && this.rewardsOnlyGive && [...this.relevance.characters].every((c) => {
      const { curve } = this.game.characters[c]!
      // A large gain that makes one level alone leaves XP for the next gain; one that is cleared wastes it.
      return !curve || (curve.levelsPerGain === 'many' && curve.remainder === 'carry')
    })
  }

  private bestForEach(): DebtEntry[] {
    const gate = this.game.gates[this.g]!
    const unmet = gate.requires.comparisons.filter((comparison) => !comparisonHolds(comparison, this.start))
    return unmet.flatMap((comparison: GameComparison) => this.debtFor((state) => comparisonHolds(comparison, state), comparison.text).slice(0, 1))
  }

  /** Runs on a copy that shares what further units do not change; units taken of these sources are put back. */
  private within<T>(run: (state: State) => T, sources = this.sources): T {
    const taken = sources.map((s) => this.start.taken[s]!)
    const { tallies, level, xp, cap } = this.start
    const result = run({ ...this.start, tallies: tallies.slice(), level: level.slice(), xp: xp.slice(), cap: cap.slice() })
    sources.forEach((s, i) => (this.start.taken[s] = taken[i]!))
    return result
  }

  private copy(state: State): State {
    const { tallies, level, xp, cap, taken } = state
    return { ...state, tallies: tallies.slice(), level: level.slice(), xp: xp.slice(), cap: cap.slice(), taken: taken.slice() }
  }

  private progressKey(state: State): string {
    let key = ''
    for (const t of this.relevance.tallies) key += `${state.tallies[t]},`
    for (const c of this.relevance.characters) key += `${state.level[c]},${state.xp[c]},${state.cap[c]};`
    return key
  }

  private searchKey(state: State): string {
    const taken = this.sources.map((s) => (this.relevance.counted.has(s) ? state.taken[s]! : Math.min(state.taken[s]!, this.game.sources[s]!.count)))
    return this.progressKey(state) + taken.join()
  }
}
