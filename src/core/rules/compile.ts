import { Decimal } from '../language/arithmetic.ts'
import { LanguageError } from '../language/language-error.ts'
import { unitsPerOne } from '../plan/basics.ts'
import { issueText } from '../plan/issue-text.ts'
import type { IssueCode, PlanIssue } from '../plan/issue.ts'
import type { Records, Row } from '../plan/records.ts'
import { allCharacters } from '../plan/references.ts'
import { wholeSource } from '../plan/source.ts'
import type { CapChange, Cost, Yield } from '../plan/yield.ts'
import { compileRequirement, emptyRequirement } from './compile-requirement.ts'
import { curveValues } from './curve-values.ts'
import type { Game, GameCap, GameCharacter, GameCost, GameCurve, GameGate, GameItem, GamePassage, GamePlace, GameRoute, GameSource, GameTally, GameYield } from './game.ts'
import { PlanIndex } from './plan-index.ts'
import { columnsOf } from './source-columns.ts'
import { validate } from './validate.ts'

export interface Compiled {
  game: Game
  issues: PlanIssue[]
  /** The records in order, by id: for reading further texts of the plan. */
  index: PlanIndex
  /** The game that was made whole last, or came by new items: requirements read its characters and live gates, which single items made anew leave as they are. */
  origin: Game
  /** Whether sources and gates are numbered in the order in which they stand; else some came later, or are elsewhere by now, or gone. */
  isInOrder: boolean
}

export const toUnits = (n: number): number => Math.round(n * unitsPerOne)
export const fromUnits = (units: number): number => units / unitsPerOne

/** Faults of an item that do not keep it from being played. */
const harmless: ReadonlySet<IssueCode> = new Set(['duplicate-id', 'guards-nowhere'])

/** Makes a plan ready to be played: dense arrays with integer ids, items in error marked with the reason. */
export function compile(records: Records): Compiled {
  const index = new PlanIndex(records)
  const issues = validate(records, index)
  const game = new Compiler(index, issues).game()
  return { game, issues, index, origin: game, isInOrder: true }
}

/** Makes a game, or single items of one, from records in order. */
export class Compiler {
  private readonly errors = new Map<string, PlanIssue>()
  /** Each text once, as many items ask for the same. */
  private readonly requirements = new Map<string, GameItem['requires']>()
  /** Index of each sound passage by its id, once one has been asked for. */
  private passages: Map<string, number> | null = null

  constructor(
    private readonly index: PlanIndex,
    issues: readonly PlanIssue[],
  ) {
    for (const issue of issues) {
      if (issue.item && !harmless.has(issue.code) && !this.errors.has(issue.item.key)) this.errors.set(issue.item.key, issue)
    }
  }

  game(): Game {
    const { index } = this
    const { head } = index.records
    const game: Game = {
      id: head.id,
      start: index.indexOf('place', head.start) ?? -1,
      tallies: index.rows.tally.map((row) => this.tally(row)),
      characters: [],
      places: [],
      passages: index.rows.passage.filter((row) => !this.errors.has(row.key)).map((row) => this.passage(row)),
      sources: [],
      gates: [],
      anywhere: [],
      gone: new Set(),
      routes: [],
      profiles: index.rows.profile.map(({ key, id, name, main, side, buys, retries }) => ({ key, id, name, main, side, buysAll: buys === 'all', retries })),
      columns: columnsOf([]),
    }
    this.addCharacters(game)
    this.addPlaces(game)
    this.addItems(game)
    game.columns = columnsOf(game.sources)
    for (const place of game.places) place.items = sideBySide(place.contents)
    game.routes = index.rows.route.map((row) => this.route(game, row))
    return game
  }

  private tally(row: Row<'tally'>): GameTally {
    const bound = (n: number | null, open: number) => (n === null ? open : toUnits(n))
    const { key, id, name, kind, resets, saved } = row
    const [min, most] = [bound(row.min, -Infinity), bound(row.max, Infinity)]
    // Both are told of as errors: a max below the min is none, and a start outside of them is at the nearer one.
    const max = most < min ? Infinity : most
    const start = Math.min(Math.max(toUnits(row.start), min), max)
    return { key, id, name, kind, start, min, max, resets, saved, listeners: [] }
  }

  private addCharacters(game: Game): void {
    const curves = new Map(this.index.rows.curve.map((row) => [row.id, this.errors.has(row.key) ? null : compileCurve(row)]))
    this.index.rows.character.forEach((row, c) => {
      const character = this.character(row, curves.get(row.curve) ?? null)
      game.characters.push(character)
      if (character.tally >= 0) game.tallies[character.tally]!.listeners.push(c)
    })
  }

  private character(row: Row<'character'>, curve: GameCurve | null): GameCharacter {
    const sound = !this.errors.has(row.key)
    return {
      key: row.key,
      id: row.id,
      name: row.name,
      tally: this.index.indexOf('tally', row.experience) ?? -1,
      curve: sound ? curve : null,
      startLevel: row.startLevel ?? curve?.firstLevel ?? 0,
      joins: row.joins === null ? null : (this.index.indexOf('place', row.joins) ?? null),
      cap: row.cap,
      rewards: sound ? row.rewards.map((reward) => ({ level: reward.level, yields: this.yields(reward.yields) })) : [],
      forms: row.forms,
    }
  }

  private passage({ key, id, from, to, twoWay }: Row<'passage'>): GamePassage {
    const place = (name: string) => this.index.indexOf('place', name)!
    return { key, id, from: place(from), to: place(to), twoWay, guards: [] }
  }

  private addPlaces(game: Game): void {
    game.places = this.index.rows.place.map(({ key, id, name, kind, goal, minutes }): GamePlace => {
      return { key, id, name, kind, goal, minutes, contents: [], items: new Int32Array(), guards: [], ways: [], waysIn: [] }
    })
    const way = (passage: number, from: number, to: number) => {
      game.places[from]!.ways.push({ passage, to })
      if (!game.places[to]!.waysIn.includes(from)) game.places[to]!.waysIn.push(from)
    }
    game.passages.forEach(({ from, to, twoWay }, p) => {
      way(p, from, to)
      if (twoWay) way(p, to, from)
    })
  }

  private addItems(game: Game): void {
    // Gates are numbered as their index in the plan, which is what requirements refer to.
    const places = [...game.places.map((place, p) => [place.key, p] as const), [null, null] as const]
    for (const [key, p] of places) {
      for (const item of this.index.contents.get(key)!) {
        if (item.kind === 'source') this.addSource(game, item.row, p!)
        else this.addGate(game, item.row, p)
      }
    }
    for (const source of game.sources) source.requires = this.requirement(game, source, this.index.records.source.get(source.key)!.requires)
    for (const source of game.sources) source.atOnce = canBeAtOnce(game, source)
    for (const gate of game.gates) gate.requires = this.requirement(game, gate, this.index.records.gate.get(gate.key)!.requires)
  }

  private addSource(game: Game, row: Row<'source'>, place: number): void {
    game.sources.push(this.source(row, place))
    game.places[place]!.contents.push({ source: game.sources.length - 1, gate: null })
  }

  private addGate(game: Game, row: Row<'gate'>, place: number | null): void {
    const g = game.gates.length
    const guards = this.guards(game, row)
    if (guards) guardsAt(game, guards).push(g)
    game.gates.push(this.gate(row, place, guards))
    if (place === null) game.anywhere.push(g)
    else game.places[place]!.contents.push({ source: null, gate: g })
  }

  /** A source without what it requires. Written out, and a gate too: what is spread out of another and added to has a shape of its own each time, and is read many times more slowly. */
  private source(row: Row<'source'>, place: number): GameSource {
    const pattern = row.pattern === undefined ? undefined : this.index.rows.pattern[this.index.indexOf('pattern', row.pattern) ?? -1]
    const whole = wholeSource(row, pattern)
    const item = this.item(whole, row.key, place, pattern ? [row.key, pattern.key] : [row.key])
    const { key, id, name, main, minutes, requires, yields, caps, error } = item
    return { key, id, name, place, main, minutes, requires, yields, caps, error, count: row.count, takes: this.costs(whole.takes), respawns: whole.respawns, atOnce: false }
  }

  /** A gate without what it requires. */
  private gate(row: Row<'gate'>, place: number | null, guards: GameGate['guards']): GameGate {
    const { key, id, name, main, minutes, requires, yields, caps, error } = this.item(row, row.key, place, [row.key])
    return { key, id, name, place, main, minutes, requires, yields, caps, error, guards, costs: this.costs(row.costs), live: row.stays === 'live', due: row.due, lockedText: row.lockedText }
  }

  /** A source made anew in a game that is ready to be played. `origin`: the game whose characters and live gates it is to read. */
  sourceAgain(origin: Game, row: Row<'source'>, place: number): GameSource {
    const source = this.source(row, place)
    source.requires = this.requirement(origin, source, row.requires)
    source.atOnce = canBeAtOnce(origin, source)
    return source
  }

  /** A gate made anew, as sourceAgain makes a source. */
  gateAgain(origin: Game, row: Row<'gate'>, place: number | null): GameGate {
    const gate = this.gate(row, place, this.guards(origin, row))
    gate.requires = this.requirement(origin, gate, row.requires)
    return gate
  }

  private item(whole: WholeItem, key: string, place: number | null, keys: string[]): GameItem {
    const { id, name, role, minutes } = whole
    const issue = keys.map((k) => this.errors.get(k)).find((found) => found !== undefined)
    const error = issue ? { message: issueText(issue), ...(issue.column ? { column: issue.column } : {}) } : null
    return { key, id, name, place, main: role === 'main', minutes, requires: emptyRequirement, yields: this.yields(whole.yields), caps: this.caps(whole.caps), error }
  }

  private guards(game: Game, { guards }: Row<'gate'>): GameGate['guards'] {
    if (guards?.place !== undefined) {
      const place = this.index.indexOf('place', guards.place)
      return place === undefined ? null : { place }
    }
    const passage = guards?.passage === undefined ? undefined : this.passageOf(game, guards.passage)
    return passage === undefined ? null : { passage }
  }

  /** The index of the first sound passage with this id. */
  private passageOf({ passages }: Game, id: string): number | undefined {
    if (!this.passages) {
      this.passages = new Map()
      for (let p = passages.length - 1; p >= 0; p--) this.passages.set(passages[p]!.id, p)
    }
    return this.passages.get(id)
  }

  private requirement(game: Game, item: GameItem, text: string): GameItem['requires'] {
    if (text === '') return emptyRequirement
    if (this.index.read(text).errors.length) return { ...emptyRequirement, text }
    try {
      const known = this.requirements.get(text) ?? compileRequirement(text, this.index, game)
      this.requirements.set(text, known)
      return known
    } catch (error) {
      if (!(error instanceof LanguageError)) throw error
      item.error ??= { message: error.message, column: error.column }
      return { ...emptyRequirement, text }
    }
  }

  private route(game: Game, row: Row<'route'>): GameRoute {
    const stops = row.stops.map((id) => this.index.indexOf('place', id)).filter((p): p is number => p !== undefined)
    const steps = stops.slice(1).map((to, i) => game.places[stops[i]!]!.ways.find((way) => way.to === to)?.passage ?? null)
    return { key: row.key, id: row.id, name: row.name, stops, steps }
  }

  private yields(yields: readonly Yield[]): GameYield[] {
    return known(yields, ({ tally, min, max }) => {
      const t = this.index.indexOf('tally', tally)
      return t === undefined ? null : { tally: t, min: toUnits(min), max: toUnits(max) }
    })
  }

  private costs(costs: readonly Cost[]): GameCost[] {
    return known(costs, ({ tally, amount }) => {
      const t = this.index.indexOf('tally', tally)
      return t === undefined ? null : { tally: t, amount: toUnits(amount) }
    })
  }

  private caps(caps: readonly CapChange[]): GameCap[] {
    return known(caps, ({ character, level }): GameCap | null => {
      if (character === allCharacters) return { character: null, level }
      const c = this.index.indexOf('character', character)
      return c === undefined ? null : { character: c, level }
    })
  }
}

/** The contents of a place, as GamePlace.items has them. */
export function sideBySide(contents: GamePlace['contents']): Int32Array {
  return Int32Array.from(contents, ({ source, gate }) => source ?? -1 - gate!)
}

/** The gates that guard what a gate guards. */
export function guardsAt({ places, passages }: Game, guards: NonNullable<GameGate['guards']>): number[] {
  return 'place' in guards ? places[guards.place]!.guards : passages[guards.passage]!.guards
}

/** What most items have of costs and caps. */
const none: never[] = []

/** Entries made one by one; null: it names what is not there. The lists are many, and most of them short or empty. */
function known<T, U>(entries: readonly T[], make: (entry: T) => U | null): U[] {
  if (entries.length === 0) return none
  const made = entries.map(make)
  return made.includes(null) ? made.filter((entry): entry is U & object => entry !== null) : (made as U[])
}

interface WholeItem {
  id: string
  name: string
  role: 'main' | 'side'
  minutes: number
  yields: Yield[]
  caps: CapChange[]
}

/** See GameSource.atOnce: sums clamp alike, and levels that carry and climb freely end where they would step by step. */
function canBeAtOnce(game: Game, source: GameSource): boolean {
  const plain = source.takes.length === 0 && source.caps.length === 0 && source.requires.node === null && source.error === null
  return plain && source.yields.every(({ tally, min }) => min >= 0 && game.tallies[tally]!.listeners.every((c) => {
    const { curve, rewards } = game.characters[c]!
    return curve === null || (curve.remainder === 'carry' && curve.levelsPerGain === 'many' && rewards.every((reward) => reward.yields.every((y) => game.tallies[y.tally]!.kind !== 'experience')))
  }))
}

const mostParts = 1_000_000

/** A sound curve in units, as fine as its values need, or as fine as exact sums in a double allow. */
function compileCurve(row: Row<'curve'>): GameCurve {
  const values = curveValues(row).values
  const total = row.counts === 'total' ? values.at(-1)! : values.reduce((sum, value) => sum.plus(value), new Decimal(0))
  let grain = 1
  const exact = () => values.every((value) => value.times(unitsPerOne).times(grain).isInteger())
  while (!exact() && grain < mostParts && total.times(unitsPerOne).times(grain * 10).lt(Number.MAX_SAFE_INTEGER / 16)) grain *= 10
  const { id, firstLevel, maxLevel, counts, levelUpAt, remainder, levelsPerGain, atTop } = row
  const scaled = values.map((value) => Math.round(value.times(unitsPerOne).times(grain).toNumber()))
  return { id, firstLevel, maxLevel, counts, levelUpAt, remainder, levelsPerGain, atTop, values: scaled, grain }
}
