import { labelOf } from '../plan/label-of.ts'
import { emptyRecords, inOrder, type Records, type Row } from '../plan/records.ts'
import { compile, fromUnits, toUnits } from '../rules/compile.ts'
import type { GameEvent } from '../rules/events.ts'
import { floorAt, giveAmount, middleRoll, playOf, valueAt } from '../rules/gain.ts'
import type { Game } from '../rules/game.ts'
import { limitOf, newState, noCap, type State } from '../rules/state.ts'
import { statValues } from './stat-table.ts'

/** A character as it stands on the bench. XP as in the plan. */
export interface BenchState {
  level: number
  /** XP into the level, and what the level takes; null at the limit. */
  xp: number
  needed: number | null
  limit: number
  form: string | null
  stats: { name: string; value: number }[]
}

/** What one gain did. */
export interface BenchGain {
  before: BenchState
  after: BenchState
  levelsUp: number
  lost: number
  /** What rewards gave on the way, all tallies together. */
  rewards: { name: string; amount: number }[]
}

/** Where a character stands at first; what is left out is as in a new game. */
export interface BenchStart {
  level?: number
  xp?: number
  cap?: number | null
}

/** One character tried alone, by the plan's own rules (docs/model.md 2): given XP, it shows what comes of it. */
export class Bench {
  private readonly game: Game
  private readonly c: number
  private readonly character: Row<'character'>
  private readonly stats: { name: string; values: number[] }[]
  private readonly firstLevel: number
  private state: State

  private constructor(records: Records, character: Row<'character'>, curve: Row<'curve'>, private readonly start: BenchStart) {
    this.character = character
    this.firstLevel = curve.firstLevel
    // The characters and what they are made of, without places: everyone is there from the start.
    const alone = { ...emptyRecords(records.head), tally: records.tally, curve: records.curve, character: new Map([...records.character].map(([key, row]) => [key, { ...row, joins: null }])) }
    this.game = compile(alone).game
    this.c = inOrder(records, 'character').findIndex((row) => row.key === character.key)
    this.stats = character.stats.map((stat) => ({ name: labelOf(stat), values: statValues(stat, curve) }))
    this.state = this.begin()
  }

  /** null where the character or its curve is in error. */
  static of(records: Records, characterKey: string, start: BenchStart = {}): Bench | null {
    const character = records.character.get(characterKey)
    const curve = character && inOrder(records, 'curve').find((row) => row.id === character.curve)
    if (!character || !curve) return null
    const bench = new Bench(records, character, curve, start)
    return bench.game.characters[bench.c]?.curve ? bench : null
  }

  private begin(): State {
    const state = newState(this.game)
    const { curve } = this.game.characters[this.c]!
    const { level, xp, cap } = this.start
    if (cap !== undefined) state.cap[this.c] = cap ?? noCap
    if (curve && level !== undefined) {
      state.level[this.c] = Math.min(Math.max(level, curve.firstLevel), curve.maxLevel)
      state.xp[this.c] = floorAt(curve, state.level[this.c]!)
    }
    if (curve && xp !== undefined) state.xp[this.c]! += toUnits(xp) * curve.grain
    return state
  }

  reset(): void {
    this.state = this.begin()
  }

  /** Gives so much of the character's XP at once. */
  gain(amount: number): BenchGain {
    const before = this.shown()
    const events: GameEvent[] = []
    const tally = this.game.characters[this.c]!.tally
    giveAmount(this.game, this.state, tally, toUnits(amount), playOf(middleRoll, events))
    const own = events.filter((event) => 'character' in event && event.character === this.c)
    const sum = (type: 'lost') => own.reduce((all, event) => (event.type === type ? all + fromUnits(event.amount) : all), 0)
    return {
      before,
      after: this.shown(),
      levelsUp: own.filter(({ type }) => type === 'level').length,
      lost: Math.round(sum('lost') * 10_000) / 10_000,
      rewards: this.rewardsIn(events, tally, amount),
    }
  }

  private rewardsIn(events: readonly GameEvent[], tally: number, given: number): BenchGain['rewards'] {
    const byTally = new Map<number, number>()
    for (const event of events) if (event.type === 'changed') byTally.set(event.tally, (byTally.get(event.tally) ?? 0) + fromUnits(event.by))
    byTally.set(tally, (byTally.get(tally) ?? 0) - given)
    return [...byTally].filter(([, amount]) => Math.abs(amount) > 1e-9).map(([t, amount]) => ({ name: labelOf(this.game.tallies[t]!), amount: Math.round(amount * 10_000) / 10_000 }))
  }

  shown(): BenchState {
    const { game, c, state } = this
    const { curve } = game.characters[c]!
    const level = state.level[c]!
    const limit = limitOf(game, state, c)
    const inPlan = (units: number) => Math.round((fromUnits(units) / curve!.grain) * 10_000) / 10_000
    const floor = floorAt(curve!, level)
    return {
      level, limit,
      xp: inPlan(state.xp[c]! - floor),
      needed: level >= limit ? null : inPlan(valueAt(curve!, level) - floor),
      form: this.character.forms.find((form) => form.from <= level && level <= form.to)?.name ?? null,
      stats: this.stats.map(({ name, values }) => ({ name, value: values[level - this.firstLevel] ?? values.at(-1)! })),
    }
  }
}

const exampleKey = 'example'

/** A bench for a curve alone: someone who climbs it, with no cap, no rewards and nobody beside. */
export function benchOfCurve(records: Records, curve: Row<'curve'>, start: BenchStart = {}): Bench | null {
  const tally: Row<'tally'> = { key: exampleKey, order: 'a0', id: exampleKey, name: 'XP', kind: 'experience', start: 0, min: 0, max: null, resets: 'never', saved: true }
  const character: Row<'character'> = { key: exampleKey, order: 'a0', id: exampleKey, name: '', experience: exampleKey, curve: curve.id, startLevel: null, joins: null, cap: null, stats: [], forms: [], rewards: [] }
  return Bench.of({ ...emptyRecords(records.head), tally: new Map([[exampleKey, tally]]), curve: new Map([[curve.key, curve]]), character: new Map([[exampleKey, character]]) }, exampleKey, start)
}
