import { remembered } from '../../plan/remembered.ts'
import { canPay, gatesOnWay, holds } from '../../rules/engine.ts'
import { valueAt } from '../../rules/gain.ts'
import type { Game, GameGate, GameSource, GameYield } from '../../rules/game.ts'
import { withoutEnd } from '../../rules/relaxed.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'
import { finished } from '../finished.ts'

/** By index: the wave in which it is first had, or −1. */
export interface Waves {
  places: Int32Array
  sources: Int32Array
  gates: Int32Array
}

export interface ReachOptions {
  repeats: boolean
  /** Gates opened at the start by a hand from outside, whatever they ask for. */
  forced?: readonly number[]
  /** A gate that is kept closed by one. */
  barred?: number
  /** What the player has already, and where; absent: a new game. Its place below 0: the start of the plan. */
  from?: State
  /** By place: whether the player goes there at all; absent: everywhere. */
  within?: readonly boolean[] | undefined
  /** Told when a wave has taken all that it could. */
  onWave?: (reach: Reach, wave: number) => void
}

const never = -1
/** Units taken of what is repeated without end. */
const manyUnits = 1_000_000_000

/**
 * What can be had at all, in any order of play, in waves: wave 0 before any gate opens, each further one after opening at once
 * all gates that the one before made possible (docs/checks.md 2). Optimistic: what stays closed is closed for certain.
 */
export class Reach {
  readonly waves: Waves
  private readonly repeats: boolean
  private readonly from: State
  /** Where the player stands at first. */
  private readonly begin: number
  private readonly forced: readonly number[]
  /** Units gained of each tally: by all places together, and for one that resets in a place by each place. */
  private readonly gained: Float64Array
  private readonly gainedHere: Map<number, Float64Array>
  /** By character: the highest level whose rewards have been given. */
  private readonly rewarded: Int32Array
  /** By character: the level come to, and the XP that it took. */
  private readonly climbed: { level: number; spent: number }[]
  /** What is held, kept up as it grows; of what resets in a place, what the place last asked for has. */
  private readonly now: State
  private readonly resetting: number[]
  /** By reached place that may still give or lead on: sources not taken and ways to places not reached. */
  private readonly pending = new Map<number, { sources: number[]; ways: { passage: number; to: number }[] }>()
  /** Closed gates that stand where the player has been, or in no one place: those that can come to open. */
  private closed: number[]
  /** By place: closed gates that stand there, while it was not reached. */
  private readonly waiting = new Map<number, number[]>()
  /** By gate: whether it asks for something that a place can have and another not. */
  private readonly isLocal: boolean[]
  private wave = 0

  constructor(
    private readonly game: Game,
    private readonly options: ReachOptions,
  ) {
    this.repeats = options.repeats
    this.forced = options.forced ?? []
    this.waves = {
      places: new Int32Array(game.places.length).fill(never),
      sources: new Int32Array(game.sources.length).fill(never),
      gates: new Int32Array(game.gates.length).fill(never),
    }
    this.gained = new Float64Array(game.tallies.length)
    this.gainedHere = new Map()
    this.from = options.from ?? newState(game)
    this.begin = this.from.place >= 0 ? this.from.place : game.start
    this.rewarded = this.from.level.slice()
    this.climbed = game.characters.map((_, c) => ({ level: this.from.level[c]!, spent: 0 }))
    this.now = cloneState(this.from)
    this.resetting = game.tallies.flatMap((tally, t) => (tally.resets === 'place' ? [t] : []))
    const resets = new Set(this.resetting)
    this.isLocal = game.gates.map(({ requires, costs }) => [...requires.reads.tallies, ...costs.map(({ tally }) => tally), ...requires.reads.characters.map((c) => game.characters[c]?.tally ?? -1)].some((t) => resets.has(t)))
    this.closed = []
    game.gates.forEach((gate, g) => {
      if (gate.error || g === options.barred || this.forced.includes(g)) return
      if (this.from.opened[g]) {
        this.waves.gates[g] = 0
        return
      }
      if (gate.live || gate.place === null) this.closed.push(g)
      else this.waiting.set(gate.place, [...(this.waiting.get(gate.place) ?? []), g])
    })
    game.characters.forEach((_, c) => this.levelUp(c, this.begin))
  }

  run(): this {
    return finished(this.steps())
  }

  /** The same wave by wave: yields each. */
  *steps(): Generator<number, this> {
    if (this.begin < 0) return this
    this.visit(this.begin)
    for (const g of this.forced) this.openGate(g)
    this.takeAll()
    this.options.onWave?.(this, 0)
    for (let open = this.openable(); open.length; open = this.openable()) {
      this.wave++
      for (const g of open) this.openGate(g)
      this.takeAll()
      this.options.onWave?.(this, this.wave)
      yield this.wave
    }
    return this
  }

  has(kind: keyof Waves, i: number): boolean {
    return this.waves[kind][i] !== never
  }

  /** What is held in a place, at its best. The same object each time, filled for that place. */
  stateAt(place: number): State {
    this.now.place = place
    for (const t of this.resetting) {
      this.now.tallies[t] = this.amount(t, place)
      for (const c of this.game.tallies[t]!.listeners) this.levelUp(c, place)
    }
    return this.now
  }

  private levelUp(c: number, place: number): void {
    this.now.level[c] = this.level(c, place)
  }

  /** Units gained of a tally in all that was taken and opened, in all places together. */
  earned(t: number): number {
    return [...this.gainedHere.values()].reduce((sum, here) => sum + here[t]!, this.gained[t]!)
  }

  private amount(t: number, place: number): number {
    const tally = this.game.tallies[t]!
    const gained = this.gained[t]! + (tally.resets === 'place' ? (this.gainedHere.get(place)?.[t] ?? 0) : 0)
    const held = tally.resets !== 'place' || place === this.from.place ? this.from.tallies[t]! : tally.start
    return Math.min(Math.max(held + gained, tally.min), tally.max)
  }

  /** XP of a listener in all, whether it heard of every gain or not. */
  private level(c: number, place: number): number {
    const { curve, tally: t } = this.game.characters[c]!
    const held = this.from.level[c]!
    if (!curve || !this.now.present[c] || t < 0) return held
    const gained = this.gained[t]! + (this.game.tallies[t]!.resets === 'place' ? (this.gainedHere.get(place)?.[t] ?? 0) : 0)
    const limit = Math.min(curve.maxLevel, this.now.cap[c]!)
    const total = gained * curve.grain + this.from.xp[c]!
    // What all places have together only grows: it goes on from where it was.
    const climbed = this.game.tallies[t]!.resets === 'place' ? { level: held, spent: 0 } : this.climbed[c]!
    while (climbed.level < limit) {
      const value = valueAt(curve, climbed.level)
      const xp = total - climbed.spent
      if (curve.levelUpAt === 'reached' ? xp < value : xp <= value) break
      if (curve.counts === 'step') climbed.spent += value
      climbed.level++
    }
    return climbed.level
  }

  private visit(place: number): void {
    if (this.has('places', place) || this.options.within?.[place] === false) return
    this.waves.places[place] = this.wave
    this.now.visited[place] = 1
    this.closed.push(...(this.waiting.get(place) ?? []))
    this.waiting.delete(place)
    const { contents, ways } = this.game.places[place]!
    this.pending.set(place, { sources: contents.flatMap(({ source }) => (source === null ? [] : [source])), ways: [...ways] })
    this.game.characters.forEach((character, c) => {
      if (character.joins !== place) return
      this.now.present[c] = 1
      this.levelUp(c, place)
    })
  }

  /** Goes everywhere and takes everything, until nothing changes. */
  private takeAll(): void {
    for (let grown = true; grown; ) {
      grown = this.giveRewards()
      for (const [p, { sources, ways }] of this.pending) {
        const state = this.stateAt(p)
        const closedWays = ways.filter(({ passage, to }) => {
          if (this.has('places', to)) return false
          if (!this.passable(passage, to, state)) return true
          this.visit(to)
          grown = true
          return false
        })
        const left = sources.filter((source) => !this.takeSource(source, state))
        if (left.length < sources.length) grown = true
        if (left.length + closedWays.length === 0) this.pending.delete(p)
        else this.pending.set(p, { sources: left, ways: closedWays })
      }
    }
  }

  private passable(passage: number, to: number, from: State): boolean {
    return gatesOnWay(this.game, passage, to).every((g) => this.has('gates', g) && (!this.game.gates[g]!.live || holds(this.game.gates[g]!, from, 'kindest')))
  }

  private takeSource(s: number, state: State): boolean {
    const source = this.game.sources[s]!
    // What was taken before is had, whatever it asks for now.
    if (this.from.taken[s]! >= source.count && !(this.repeats && source.respawns)) {
      this.waves.sources[s] = this.wave
      return true
    }
    if (!holds(source, state, 'kindest') || !canPay(this.game, state, source.takes)) return false
    this.waves.sources[s] = this.wave
    const endless = this.repeats && source.respawns
    const taken = this.from.taken[s]!
    this.now.taken[s] = endless ? manyUnits : Math.max(taken, source.count)
    this.gain(source.yields, endless ? withoutEnd : Math.max(0, source.count - taken), source.place)
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
      const at = place ?? this.now.place
      this.now.tallies[y.tally] = this.amount(y.tally, at)
      for (const c of this.game.tallies[y.tally]!.listeners) this.levelUp(c, at)
    }
  }

  private raise(item: GameSource | GameGate): void {
    for (const { character, level } of item.caps) {
      this.game.characters.forEach((_, c) => {
        if (character !== null && character !== c) return
        this.now.cap[c] = Math.max(this.now.cap[c]!, level)
        this.levelUp(c, this.now.place)
      })
    }
  }

  /** Rewards of levels reached anywhere; of one that can be lost at a reset they count without end. */
  private giveRewards(): boolean {
    let given = false
    this.game.characters.forEach(({ rewards, tally }, c) => {
      if (!rewards.length) return
      const resets = tally >= 0 && this.game.tallies[tally]!.resets === 'place'
      const places = resets ? this.game.places.flatMap((_, p) => (this.has('places', p) ? [p] : [])) : [this.begin]
      const highest = Math.max(...places.map((place) => this.level(c, place)))
      for (let level = this.rewarded[c]! + 1; level <= highest; level++) {
        for (const reward of rewards) if (reward.level === 'every' || reward.level === level) this.gain(reward.yields, resets ? withoutEnd : 1, null)
        given = true
      }
      this.rewarded[c] = Math.max(this.rewarded[c]!, highest)
    })
    return given
  }

  /** Closed gates that can be opened with what there is; asked until all there is was looked at. */
  private openable(): number[] {
    let open = this.opening()
    while (open.length === 0 && this.holdsOnlyElsewhere()) {
      this.takeAll()
      open = this.opening()
    }
    return open
  }

  /**
   * Live gates that hold nowhere they are passed from, but in some other place: whoever asks for them there finds them open.
   * False: there are no more of them.
   */
  private holdsOnlyElsewhere(): boolean {
    const held = liveAndAskedFor(this.game).filter((g) => {
      if (this.now.opened[g] || !this.closed.includes(g)) return false
      return this.reached(!this.isLocal[g]).some((place) => holds(this.game.gates[g]!, this.stateAt(place), 'kindest'))
    })
    for (const g of held) this.now.opened[g] = 1
    return held.length > 0
  }

  private opening(): number[] {
    // In the order of the plan, which is that in which they count as opened.
    const open = this.closed.filter((g) => this.couldOpen(g)).sort((a, b) => a - b)
    const opened = new Set(open)
    this.closed = this.closed.filter((g) => !opened.has(g))
    return open
  }

  /** Whether what a gate asks for is there, in a place in which it can be opened; opened or not. */
  couldOpen(g: number): boolean {
    const gate = this.game.gates[g]!
    // Most stand in one place, and are asked in every wave.
    if (!gate.live && gate.place !== null) return this.has('places', gate.place) && this.couldOpenIn(gate, gate.place)
    return this.placesFor(gate, !this.isLocal[g]).some((place) => this.couldOpenIn(gate, place))
  }

  private couldOpenIn(gate: GameGate, place: number): boolean {
    const state = this.stateAt(place)
    return holds(gate, state, 'kindest') && canPay(this.game, state, gate.costs)
  }

  /** Reached places in which a gate can be opened, or a live one be tested; `one`: any of them will do. */
  placesFor(gate: GameGate, one = false): number[] {
    const reached = (places: readonly number[]) => places.filter((place) => this.has('places', place))
    if (gate.live) return gate.guards === null ? this.reached(one) : reached(this.sidesOf(gate.guards))
    if (gate.place !== null) return reached([gate.place])
    return gate.guards !== null && 'place' in gate.guards ? reached(this.game.places[gate.guards.place]!.waysIn) : this.reached(one)
  }

  /** All reached places; `one`: any of them will do. */
  private reached(one: boolean): number[] {
    const places = one ? [this.begin] : [...this.game.places.keys()]
    return places.filter((place) => this.has('places', place))
  }

  private sidesOf(guards: NonNullable<GameGate['guards']>): number[] {
    if ('place' in guards) return this.game.places[guards.place]!.waysIn
    const { from, to, twoWay } = this.game.passages[guards.passage]!
    return twoWay ? [from, to] : [from]
  }

  private openGate(g: number): void {
    const gate = this.game.gates[g]!
    this.waves.gates[g] = this.wave
    this.now.opened[g] = 1
    this.gain(gate.yields, 1, gate.place)
    this.raise(gate)
  }
}

const asked = new WeakMap<Game, readonly number[]>()

/** Live gates that the requirement of something else names. */
function liveAndAskedFor(game: Game): readonly number[] {
  return remembered(asked, game, () => [...new Set([...game.sources, ...game.gates].flatMap(({ requires }) => requires.reads.gates))].filter((g) => game.gates[g]!.live && !game.gates[g]!.error))
}

/** Whether reach is no more than what some order of play does: the plan has nothing that it takes too kindly (docs/checks.md 2). */
export function isExact(game: Game): boolean {
  const isEach = (is: (item: GameSource | GameGate) => boolean) => game.sources.every(is) && game.gates.every(is)
  const isPlain = (yields: readonly GameYield[]) => yields.every((y) => y.min === y.max && y.min >= 0)
  const capped = !isEach((item) => item.caps.length === 0) || game.characters.some((c) => c.cap !== null)
  const curves = game.characters.flatMap((c) => c.curve ?? [])
  return (
    game.gates.every((gate) => gate.costs.length === 0) &&
    game.sources.every((source) => source.takes.length === 0) &&
    game.tallies.every((tally) => tally.resets === 'never') &&
    isEach(({ yields }) => isPlain(yields)) &&
    game.characters.every(({ rewards }) => rewards.every(({ yields }) => isPlain(yields))) &&
    game.characters.every((c) => c.joins === null) &&
    curves.every((curve) => curve.remainder !== 'clear' && curve.levelsPerGain !== 'one' && (!capped || curve.atTop === 'bank')) &&
    isEach(({ requires: { direction } }) => direction === 'rising' || direction === 'constant')
  )
}
