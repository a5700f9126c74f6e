import type { Settings } from '../../plan/head.ts'
import { fromUnits } from '../../rules/compile.ts'
import type { GameEvent } from '../../rules/events.ts'
import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import type { State } from '../../rules/state.ts'
import { walkMiddle } from '../route/middle-walk.ts'
import type { Cause, Watcher } from '../route/watcher.ts'

/** Something new for the player: `id` names a gate, a character (`level`, `form`) or a place. Minutes count from the start. */
export interface Unlock {
  kind: 'gate' | 'level' | 'form' | 'place'
  id: string
  /** The level entered, or the form's id. */
  to?: number | string
  minute: number
  stop: number
}

/** A stretch of the clock, from one unlock to another. */
export interface Stretch {
  from: number
  to: number
  /** The stop at which it begins. */
  stop: number
  unlocks: number
}

/** A route in play time (docs/checks.md 6). */
export interface Rhythm {
  minutes: number
  unlocks: Unlock[]
  /** Stretches with nothing new that are longer than the plan wants. */
  droughts: Stretch[]
  /** Stretches with more unlocks at once than the plan wants. */
  pileUps: Stretch[]
}

/**
 * When what unlocks in the middle walk of a route: the clock runs by units' and gates' minutes as they are taken and opened, and
 * by a place's minutes on entering it, before its contents.
 */
export function rhythmOf(game: Game, settings: Settings, route: GameRoute, profile: GameProfile): Rhythm {
  const clock = new Clock(game, route)
  walkMiddle(game, route, profile, [clock])
  return clock.rhythm(settings)
}

/** Runs along a middle walk that it watches. */
export class Clock implements Watcher {
  private readonly unlocks: Unlock[] = []
  private readonly seen = new Set<number>()
  private readonly forms: (string | undefined)[]
  private ticks = 0
  private stop = 0

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
  ) {
    this.forms = game.characters.map(({ startLevel }, c) => this.formAt(c, startLevel))
  }

  rhythm({ droughtMinutes, pileUp }: Settings): Rhythm {
    const { unlocks, now: minutes } = this
    return { minutes, unlocks, droughts: droughtsOf(unlocks, minutes, droughtMinutes), pileUps: pileUpsOf(unlocks, pileUp) }
  }

  private get now(): number {
    return fromUnits(this.ticks)
  }

  private pass(minutes: number): void {
    this.ticks += Math.round(minutes * 10_000)
  }

  private add(unlock: Omit<Unlock, 'minute' | 'stop'>): void {
    this.unlocks.push({ minute: this.now, stop: this.stop, ...unlock })
  }

  entered(state: State, stop: number): void {
    this.stop = stop
    const place = this.game.places[this.route.stops[stop]!]!
    if (!this.seen.has(state.place)) this.add({ kind: 'place', id: place.id })
    this.seen.add(state.place)
    this.pass(place.minutes)
  }

  moved(cause: Cause): void {
    if (cause.type === 'source') this.pass(this.game.sources[cause.index]!.minutes)
    if (cause.type !== 'gate') return
    const gate = this.game.gates[cause.index]!
    this.add({ kind: 'gate', id: gate.id })
    this.pass(gate.minutes)
  }

  events(events: readonly GameEvent[]): void {
    for (const event of events) {
      if (event.type !== 'level') continue
      const { character: c, to } = event
      const { id } = this.game.characters[c]!
      this.add({ kind: 'level', id, to })
      const form = this.formAt(c, to)
      if (form !== undefined && form !== this.forms[c]) this.add({ kind: 'form', id, to: form })
      this.forms[c] = form
    }
  }

  private formAt(c: number, level: number): string | undefined {
    return this.game.characters[c]!.forms.find((form) => form.from <= level && level <= form.to)?.id
  }
}

function droughtsOf(unlocks: readonly Unlock[], end: number, longest: number): Stretch[] {
  const times = [...unlocks, { minute: end, stop: unlocks.at(-1)?.stop ?? 0 }]
  return times.flatMap(({ minute }, i): Stretch[] => {
    const { minute: from, stop } = i === 0 ? { minute: 0, stop: 0 } : times[i - 1]!
    return minute - from > longest ? [{ from, to: minute, stop, unlocks: 0 }] : []
  })
}

/** Windows with at least so many unlocks in so many minutes; those that overlap are one stretch. */
function pileUpsOf(unlocks: readonly Unlock[], { unlocks: most, minutes }: Settings['pileUp']): Stretch[] {
  const found: { first: number; last: number }[] = []
  let first = 0
  unlocks.forEach(({ minute }, last) => {
    while (minute - unlocks[first]!.minute > minutes) first++
    if (last - first + 1 < most) return
    const before = found.at(-1)
    if (before && first <= before.last) before.last = last
    else found.push({ first, last })
  })
  return found.map(({ first, last }) => ({ from: unlocks[first]!.minute, to: unlocks[last]!.minute, stop: unlocks[first]!.stop, unlocks: last - first + 1 }))
}
