import { mostUnits as mostOfSource } from '../../plan/basics.ts'
import { remembered } from '../../plan/remembered.ts'
import { canTake, hasWhatItAsks, take, takeAtOnce } from '../../rules/engine.ts'
import { giveAmount, middleRoll, plainPlay } from '../../rules/gain.ts'
import type { Game, GameComparison, GameSource, GameYield } from '../../rules/game.ts'
import { climbAll, giveWithoutEnd, raiseCaps, rises, risesThroughout } from '../../rules/relaxed.ts'
import type { State } from '../../rules/state.ts'
import { fromUnits } from '../../rules/compile.ts'
import { leastOf } from '../../plan/least-of.ts'
import type { DebtEntry } from '../result.ts'
import { kindsOf, sourceOf, sourcesOf, type Kind } from './alike-sources.ts'
import { BearingSources } from './bearing-sources.ts'
import { comparisonHolds } from './comparison.ts'
import { relevanceOf, type Relevance } from './relevance.ts'

/** Bounds of the search; past them a gate counts as one that no number of further units opens. */
const mostUnits = 200_000
const mostRounds = 2_000
const mostStates = 1_500
/** Units tried where their order matters, for each gate: the fewer the more sources there are, for then there are many gates. */
const triesFor = (game: Game) => Math.min(100_000, Math.max(5_000, 20_000_000 / game.sources.length))

/** Takes of the kindest game after which it is seen whether they are enough. */
const takesApart = 16
/** In a plan with more sources than these, each gate is told only so many that alone would open it: else there would be millions of them. */
const [manySources, mostDebts] = [1_000, 100]
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

/** Whether any further units open it: that is seen far sooner than which are the quickest. */
export function furtherUnitsOpen(game: Game, relaxed: Game, state: State, g: number): boolean {
  return !game.gates[g]!.error && new FurtherSearch(game, relaxed, state, g).opens()
}

class FurtherSearch {
  private readonly relevance: Relevance
  private readonly bearing: BearingSources
  private readonly doing: Int32Array
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
    this.doing = sourcesOf(game).doing
    this.bearing = new BearingSources(game, this.relevance, start.visited)
    this.rewardsOnlyGive = [...this.relevance.characters].every((c) => game.characters[c]!.rewards.every(({ yields }) => yields.every((y) => y.min >= 0)))
  }

  search(): Further {
    if (!this.couldEver(this.bearing.all, this.isSatisfied)) return { opens: false, debt: [] }
    const debt = this.debtFor(this.isSatisfied)
    if (debt.length) return { opens: true, debt }
    const opens = this.opensTogether()
    return { opens, debt: opens ? this.bestForEach() : [] }
  }

  /** Where one of them does, few have to be looked at to see it. */
  opens(): boolean {
    if (this.eachAlone(this.bearing.unlike, this.isSatisfied, () => true)) return true
    return this.couldEver(this.bearing.all, this.isSatisfied) && (this.eachAlone(this.bearing.all, this.isSatisfied, () => true) || this.opensTogether())
  }

  private readonly isSatisfied = (state: State) => hasWhatItAsks(this.game, state, this.g)

  private opensTogether(): boolean {
    return this.isSatisfied(this.start) || (this.bearing.all.length > 0 && (this.roundsOpen() || this.someOrderOpens()))
  }

  /** False where even the kindest game has not what the gate asks for: most sealed gates need no search. */
  private couldEver(sources: readonly number[], satisfied: (state: State) => boolean): boolean {
    // What must not be had, or only so much of it, the kindest game may have too much of, where a live gate is asked for that does so.
    const isKind = (source: GameSource) => !rises(source.requires) || risesThroughout(this.game, source)
    const unlike = this.bearing.isAll(sources) ? this.bearing.unlike : sources
    if (!this.gateRises || !unlike.every((s) => isKind(this.game.sources[s]!))) return true
    return this.within((state) => {
      raiseCaps({ ...this.relaxed, sources: this.game.sources }, state, unlike)
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

  private debtFor(satisfied: (state: State) => boolean, mends?: string): DebtEntry[] {
    const most = this.game.sources.length > manySources ? mostDebts : Infinity
    let entries: DebtEntry[] = []
    let longest = Infinity
    this.eachAlone(this.bearing.all, satisfied, (s, units) => {
      if (this.minutesOf(s, units) >= longest) return false
      entries.push(this.entry(s, units, mends))
      if (entries.length < 4 * most) return false
      entries = quickest(entries, most)
      longest = entries.at(-1)!.minutes
      return false
    })
    return quickest(entries, most)
  }

  /** Tells of each source that alone does it, with how many units do, until enough have been told of; whether they were. */
  private eachAlone(sources: readonly number[], satisfied: (state: State) => boolean, isEnough: (s: number, units: number) => boolean): boolean {
    const known = new Map<number | string, number | null>()
    const needed = new Map<number, number | null>()
    for (const s of sources) {
      const alike = this.alike(s)
      let units = known.get(alike)
      if (units === undefined) known.set(alike, (units = this.unitsOf(s, satisfied, needed)))
      if (units !== null && isEnough(s, units)) return true
    }
    return false
  }

  /** What tells sources apart of which another number of units does it: most plans have many that are alike. */
  private alike(s: number): number | string {
    // What is asked of a source's own number of units is told by no other.
    if (this.relevance.counted.has(s)) return `own ${s}`
    const source = this.game.sources[s]!
    const left = source.respawns ? -1 : this.untaken(s)
    return (this.doing[s]! * (mostOfSource + 2) + left + 1) * 2 + (source.place === this.start.place ? 1 : 0)
  }

  private entry(s: number, units: number, mends?: string): DebtEntry {
    const untaken = Math.min(units, this.untaken(s))
    return { source: this.game.sources[s]!.id, untaken, repeats: units - untaken, minutes: this.minutesOf(s, units), ...(mends === undefined ? {} : { mends }) }
  }

  private minutesOf(s: number, units: number): number {
    return fromUnits(Math.round(units * this.game.sources[s]!.minutes * 10_000))
  }

  /** How many further units of one source alone do it; null when none do. `needed`: see `amountNeeded`, by tally. */
  private unitsOf(s: number, satisfied: (state: State) => boolean, needed: Map<number, number | null>): number | null {
    const isSteady = this.isSteady(s)
    const [given, ...others] = this.game.sources[s]!.yields.filter(({ tally }) => this.relevance.tallies.has(tally))
    if (isSteady && given && others.length === 0) {
      const amount = remembered(needed, given.tally, () => this.amountNeeded(given.tally, satisfied))
      if (amount !== null) return this.unitsByAmount(s, given, amount)
    }
    if (!this.couldEver([s], satisfied)) return null
    return isSteady ? this.unitsAtOnce(s, satisfied) : this.unitsOneByOne(s, satisfied)
  }

  /** Where all that a steady source does to the gate is to give of one tally. */
  private unitsByAmount(s: number, given: GameYield, needed: number): number | null {
    const each = middleRoll(given)
    const units = needed === 0 ? 1 : Math.ceil(needed / each)
    return units <= this.unitsLeft(s) ? units : null
  }

  /**
   * The least amount of a tally that is enough when it is gained at once; Infinity: not even the most units of a source give it; null:
   * those give so much that whole numbers are not told apart any more.
   */
  private amountNeeded(tally: number, satisfied: (state: State) => boolean): number | null {
    const isEnough = (amount: number) => this.within((state) => {
      giveAmount(this.game, state, tally, amount, plainPlay)
      return satisfied(state)
    }, [])
    const given = this.bearing.unlike.flatMap((s) => this.game.sources[s]!.yields.filter((y) => y.tally === tally).map(middleRoll))
    const most = Math.max(...given) * Math.max(mostUnits, mostOfSource)
    if (most > Number.MAX_SAFE_INTEGER) return null
    return isEnough(most) ? leastOf(0, most, isEnough) : Infinity
  }

  private unitsLeft(s: number): number {
    return this.game.sources[s]!.respawns ? mostUnits : this.untaken(s)
  }

  private untaken(s: number): number {
    return Math.max(0, this.game.sources[s]!.count - this.start.taken[s]!)
  }

  /** Whether units of a source do together what they do one after another, and more of them are never worse. */
  private isSteady(s: number): boolean {
    const { atOnce, place, yields } = this.game.sources[s]!
    const isWhole = place === this.start.place || yields.every(({ tally }) => this.game.tallies[tally]!.resets !== 'place')
    return atOnce && isWhole && this.gateRises && !this.relevance.counted.has(s) && this.rewardsOnlyGive
  }

  /** Ever more units are tried, and then between the last two. */
  private unitsAtOnce(s: number, satisfied: (state: State) => boolean): number | null {
    const most = this.unitsLeft(s)
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
    return this.roundsOpenIn(this.bearing.all) || (!this.isDecidedByRounds() && this.roundsOpenIn([...this.bearing.all].reverse()))
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
    const kinds = kindsOf(this.game, this.bearing.all, this.start.place, this.relevance.counted, (s) => this.untaken(s))
    const most = triesFor(this.game)
    const seen = new Set<string>()
    const queue = [{ state: this.start, taken: new Int32Array(kinds.length) }]
    let tries = 0
    for (const { state, taken } of queue) {
      for (let k = 0; k < kinds.length; k++) {
        const next = this.withUnit(kinds, taken, k, state)
        if (next === 'opens') return true
        if (++tries > most) return false
        if (!next || seen.size >= mostStates) continue
        const after = taken.slice()
        after[k]! += 1
        const key = this.progressKey(next) + after.map((units, i) => (kinds[i]!.isCounted ? units : Math.min(units, kinds[i]!.units))).join()
        if (seen.has(key)) continue
        seen.add(key)
        queue.push({ state: next, taken: after })
      }
    }
    return false
  }

  /** A state with one more unit of a kind, after so many of each have been taken; null: there is none that can be. */
  private withUnit(kinds: readonly Kind[], taken: Int32Array, k: number, state: State): State | 'opens' | null {
    const s = sourceOf(kinds[k]!, taken[k]!)
    if (s === null) return null
    return this.lending([s, ...this.relevance.counted], () => {
      // Of which source units of a kind are asks nobody but for those that are counted.
      kinds.forEach(({ sources, isCounted }, i) => {
        if (isCounted) this.start.taken[sources[0]!]! += taken[i]!
      })
      const next = this.stateWith(state)
      if (!canTake(this.game, next, s)) return null
      this.takeFrom(this.game, next, s)
      return this.isSatisfied(next) ? 'opens' : next
    })
  }

  /** Where nothing can spoil, taking everything in turn is as good as any order. */
  private isDecidedByRounds(): boolean {
    return this.gateRises && this.bearing.all.every((s) => {
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
  private within<T>(run: (state: State) => T, sources: readonly number[] = this.bearing.all): T {
    return this.lending(sources, () => run(this.stateWith(this.start)))
  }

  /** Runs something that takes units of these sources; they are put back. */
  private lending<T>(sources: readonly number[], run: () => T): T {
    const { taken } = this.start
    // Many are sooner put back all at once.
    const all = this.bearing.isAll(sources) ? taken.slice() : null
    const before = all ? null : sources.map((s) => taken[s]!)
    const result = run()
    if (all) taken.set(all)
    else sources.forEach((s, i) => (taken[s] = before![i]!))
    return result
  }

  /** The start, with what another state has. */
  private stateWith({ tallies, level, xp, cap }: State): State {
    return { ...this.start, tallies: tallies.slice(), level: level.slice(), xp: xp.slice(), cap: cap.slice() }
  }

  private progressKey(state: State): string {
    let key = ''
    for (const t of this.relevance.tallies) key += `${state.tallies[t]},`
    for (const c of this.relevance.characters) key += `${state.level[c]},${state.xp[c]},${state.cap[c]};`
    return key
  }
}

function quickest(entries: DebtEntry[], most: number): DebtEntry[] {
  return entries.sort((a, b) => a.minutes - b.minutes).slice(0, most)
}
