import { LanguageError } from '../../language/language-error.ts'
import { askedOf, gatesOnWay } from '../../rules/engine.ts'
import { floorAt, valueAt } from '../../rules/gain.ts'
import type { Game, GameGate, GameItem, GameSource, GameYield } from '../../rules/game.ts'
import { withoutEnd } from '../../rules/relaxed.ts'
import { newState, noCap, type State } from '../../rules/state.ts'

/** By index: the wave in which it is first had, or −1. */
export interface Waves {
  places: Int32Array
  sources: Int32Array
  gates: Int32Array
}

const never = -1

/**
 * What can be had at all, in any order of play, in waves: wave 0 before any gate opens, each further one after opening at once
 * all gates that the one before made possible (docs/checks.md 2). Optimistic: what stays closed is closed for certain.
 */
export class Reach {
  readonly waves: Waves
  private readonly repeats: boolean
  /** Units gained of each tally: by all places together, and for one that resets in a place by each place. */
  private readonly gained: Float64Array
  private readonly gainedHere: Map<number, Float64Array>
  private readonly cap: Int32Array
  private readonly joined: Uint8Array
  /** By character: the highest level whose rewards have been given. */
  private readonly rewarded: Int32Array
  private readonly template: State
  private wave = 0

  constructor(
    private readonly game: Game,
    options: { repeats: boolean },
  ) {
    this.repeats = options.repeats
    this.waves = {
      places: new Int32Array(game.places.length).fill(never),
      sources: new Int32Array(game.sources.length).fill(never),
      gates: new Int32Array(game.gates.length).fill(never),
    }
    this.gained = new Float64Array(game.tallies.length)
    this.gainedHere = new Map()
    this.cap = Int32Array.from(game.characters, (character) => character.cap ?? noCap)
    this.joined = Uint8Array.from(game.characters, (character) => (character.joins === null ? 1 : 0))
    this.rewarded = Int32Array.from(game.characters, (character) => character.startLevel)
    this.template = newState(game)
  }

  run(): this {
    if (this.game.start < 0) return this
    this.visit(this.game.start)
    this.takeAll()
    for (let open = this.openable(); open.length; open = this.openable()) {
      this.wave++
      for (const g of open) this.openGate(g)
      this.takeAll()
    }
    return this
  }

  has(kind: keyof Waves, i: number): boolean {
    return this.waves[kind][i] !== never
  }

  /** What is held in a place, at its best. */
  stateAt(place: number): State {
    const { game, template } = this
    const state: State = {
      ...template,
      place,
      tallies: Float64Array.from(game.tallies, (_, t) => this.amount(t, place)),
      level: Int32Array.from(game.characters, (_, c) => this.level(c, place)),
      cap: this.cap,
      present: this.joined,
      opened: Uint8Array.from(game.gates, (_, g) => (this.has('gates', g) ? 1 : 0)),
      visited: Uint8Array.from(game.places, (_, p) => (this.has('places', p) ? 1 : 0)),
      taken: Int32Array.from(game.sources, (source, s) => (this.has('sources', s) ? (this.repeats && source.respawns ? 1e9 : source.count) : 0)),
    }
    return state
  }

  private amount(t: number, place: number): number {
    const tally = this.game.tallies[t]!
    const gained = this.gained[t]! + (tally.resets === 'place' ? (this.gainedHere.get(place)?.[t] ?? 0) : 0)
    return Math.min(Math.max(tally.start + gained, tally.min), tally.max)
  }

  /** XP of a listener in all, whether it heard of every gain or not. */
  private level(c: number, place: number): number {
    const { curve, startLevel, tally: t } = this.game.characters[c]!
    if (!curve || !this.joined[c] || t < 0) return startLevel
    const gained = this.gained[t]! + (this.game.tallies[t]!.resets === 'place' ? (this.gainedHere.get(place)?.[t] ?? 0) : 0)
    const limit = Math.min(curve.maxLevel, this.cap[c]!)
    let xp = gained * curve.grain + floorAt(curve, startLevel)
    let level = startLevel
    while (level < limit) {
      const value = valueAt(curve, level)
      if (curve.levelUpAt === 'reached' ? xp < value : xp <= value) break
      if (curve.counts === 'step') xp -= value
      level++
    }
    return level
  }

  private visit(place: number): void {
    if (this.has('places', place)) return
    this.waves.places[place] = this.wave
    this.game.characters.forEach((character, c) => {
      if (character.joins === place) this.joined[c] = 1
    })
  }

  /** Goes everywhere and takes everything, until nothing changes. */
  private takeAll(): void {
    for (let grown = true; grown; ) {
      grown = this.giveRewards()
      this.game.places.forEach((place, p) => {
        if (!this.has('places', p)) return
        const state = this.stateAt(p)
        for (const { to, passage } of place.ways) {
          if (this.has('places', to) || !this.passable(passage, to, state)) continue
          this.visit(to)
          grown = true
        }
        for (const { source } of place.contents) if (source !== null && this.takeSource(source, state)) grown = true
      })
    }
  }

  private passable(passage: number, to: number, from: State): boolean {
    return gatesOnWay(this.game, passage, to).every((g) => this.has('gates', g) && (!this.game.gates[g]!.live || this.holds(this.game.gates[g]!, from)))
  }

  private takeSource(s: number, state: State): boolean {
    const source = this.game.sources[s]!
    if (this.has('sources', s) || !this.holds(source, state) || !this.affordable(source.takes, state)) return false
    this.waves.sources[s] = this.wave
    const endless = this.repeats && source.respawns
    this.gain(source.yields, endless ? withoutEnd : source.count, source.place)
    this.raise(source)
    return true
  }

  private gain(yields: readonly GameYield[], times: number, place: number | null): void {
    for (const y of yields) {
      if (y.max <= 0) continue
      const amount = Math.min(y.max * times, withoutEnd)
      if (this.game.tallies[y.tally]!.resets === 'place' && place !== null) {
        const here = this.gainedHere.get(place) ?? new Float64Array(this.game.tallies.length)
        here[y.tally] = Math.min(here[y.tally]! + amount, withoutEnd)
        this.gainedHere.set(place, here)
      } else {
        this.gained[y.tally] = Math.min(this.gained[y.tally]! + amount, withoutEnd)
      }
    }
  }

  private raise(item: GameSource | GameGate): void {
    for (const { character, level } of item.caps) {
      this.game.characters.forEach((_, c) => {
        if (character === null || character === c) this.cap[c] = Math.max(this.cap[c]!, level)
      })
    }
  }

  /** Rewards of levels reached anywhere; of one that can be lost at a reset they count without end. */
  private giveRewards(): boolean {
    let given = false
    this.game.characters.forEach(({ rewards, tally }, c) => {
      if (!rewards.length) return
      const resets = tally >= 0 && this.game.tallies[tally]!.resets === 'place'
      const places = resets ? this.game.places.flatMap((_, p) => (this.has('places', p) ? [p] : [])) : [this.game.start]
      const highest = Math.max(...places.map((place) => this.level(c, place)))
      for (let level = this.rewarded[c]! + 1; level <= highest; level++) {
        for (const reward of rewards) if (reward.level === 'every' || reward.level === level) this.gain(reward.yields, resets ? withoutEnd : 1, null)
        given = true
      }
      this.rewarded[c] = Math.max(this.rewarded[c]!, highest)
    })
    return given
  }

  private openable(): number[] {
    const states = new Map<number, State>()
    const at = (place: number) => {
      const state = states.get(place) ?? this.stateAt(place)
      states.set(place, state)
      return state
    }
    return this.game.gates.flatMap((gate, g) => {
      if (this.has('gates', g) || gate.error) return []
      return this.placesFor(gate).some((place) => this.holds(gate, at(place)) && this.affordable(gate.costs, at(place))) ? [g] : []
    })
  }

  /** Reached places in which a gate can be opened, or a live one be tested. */
  placesFor(gate: GameGate): number[] {
    const reached = (places: readonly number[]) => places.filter((place) => this.has('places', place))
    const all = () => reached([...this.game.places.keys()])
    if (gate.live) return gate.guards === null ? all() : reached(this.sidesOf(gate.guards))
    if (gate.place !== null) return reached([gate.place])
    return gate.guards !== null && 'place' in gate.guards ? reached(this.game.places[gate.guards.place]!.waysIn) : all()
  }

  private sidesOf(guards: NonNullable<GameGate['guards']>): number[] {
    if ('place' in guards) return this.game.places[guards.place]!.waysIn
    const { from, to, twoWay } = this.game.passages[guards.passage]!
    return twoWay ? [from, to] : [from]
  }

  private openGate(g: number): void {
    const gate = this.game.gates[g]!
    this.waves.gates[g] = this.wave
    this.gain(gate.yields, 1, gate.place)
    this.raise(gate)
  }

  private holds(item: GameItem, state: State): boolean {
    if (item.error) return false
    try {
      return item.requires.kindest(state)
    } catch (error) {
      if (error instanceof LanguageError) return false
      throw error
    }
  }

  private affordable(costs: GameGate['costs'], state: State): boolean {
    return costs.every(({ tally }) => {
      const { min } = this.game.tallies[tally]!
      return min === -Infinity || state.tallies[tally]! - askedOf(costs, tally) >= min
    })
  }
}

/** Whether reach is no more than what some order of play does: the plan has nothing that it takes too kindly (docs/checks.md 2). */
export function isExact(game: Game): boolean {
  const items = [...game.sources, ...game.gates]
  const yields = [...items.flatMap((item) => item.yields), ...game.characters.flatMap((c) => c.rewards.flatMap((r) => r.yields))]
  const capped = items.some((item) => item.caps.length > 0) || game.characters.some((c) => c.cap !== null)
  const curves = game.characters.flatMap((c) => c.curve ?? [])
  return (
    game.gates.every((gate) => gate.costs.length === 0) &&
    game.sources.every((source) => source.takes.length === 0) &&
    game.tallies.every((tally) => tally.resets === 'never') &&
    yields.every((y) => y.min === y.max && y.min >= 0) &&
    game.characters.every((c) => c.joins === null) &&
    curves.every((curve) => curve.remainder !== 'clear' && curve.levelsPerGain !== 'one' && (!capped || curve.atTop === 'bank')) &&
    items.every((item) => item.requires.direction === 'rising' || item.requires.direction === 'constant')
  )
}
