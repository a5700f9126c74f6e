import type { Game, GameRoute } from '../../rules/game.ts'
import type { GateResult, Quantiles, StopRef, StopResult } from '../result.ts'
import { tidy } from './comparison-record.ts'
import type { MiddleRecord } from './middle.ts'
import type { RouteRecord } from './record.ts'
import type { RouteCheckOptions } from './route-check.ts'

/** Sums are told in a document alone (bookInSteps), or of one gate that is looked at (explainInSteps). */
const untold: never[] = []

/** What walks of a route showed, as it is told: of every gate, and on leaving every stop. */
export class RouteResults {
  gates: GateResult[] = []
  stops: StopResult[] = []
  private refs: StopRef[] = []

  constructor(
    private readonly game: Game,
    private readonly route: GameRoute,
    private readonly record: RouteRecord,
    private readonly options: RouteCheckOptions,
  ) {}

  /** Tells of all. What a check before it had of the very same record is told as it was. */
  tell(middle: MiddleRecord, before: RouteResults | null): void {
    this.refs = before?.refs ?? []
    this.gates = this.game.gates.map((_, g) => this.gateAgain(g, middle, before) ?? this.gate(g, middle))
    this.stops = this.route.stops.map((_, stop) => this.stopAgain(stop, middle, before) ?? this.stop(stop, middle, before))
  }

  /** Tells of what is due, and what there is, up to a stop; of all else what was told before. */
  tellUntil(until: number, middle: MiddleRecord, before: RouteResults): void {
    this.refs = before.refs
    this.gates = this.game.gates.map((_, g) => {
      const due = this.record.gates[g]?.due ?? null
      const isTold = due !== null && due <= until
      return isTold || !before.gates[g] ? this.gateUntil(until, g, middle, before) : before.gates[g]
    })
    this.stops = before.stops.map((was, stop) => (stop > until ? was : (this.stopAgain(stop, middle, before) ?? this.stop(stop, middle, before))))
  }

  /** A gate with what came of it up to a stop: what had come after that still does. */
  private gateUntil(until: number, g: number, middle: MiddleRecord, before: RouteResults): GateResult {
    const again = this.gateAgain(g, middle, before)
    if (again) return again
    const result = this.gate(g, middle)
    const was = before.gates[g]
    const still = (part: 'opened' | 'ready') => result[part] ?? ((was?.[part] ?? -1) > until ? was![part] : null)
    // One that the route needs before it meets it is met later.
    const met = result.met ?? ((was?.met?.stop ?? -1) > until ? was!.met : null)
    return { ...result, met, opened: still('opened'), ...waiting(still('ready'), met?.stop ?? null) }
  }

  /** Tells of some gates; of all else what was told before. */
  tellOf(gates: ReadonlySet<number>, middle: MiddleRecord, { gates: others, stops, refs }: RouteResults): void {
    this.refs = refs
    this.gates = others.map((result, g) => (gates.has(g) ? this.gate(g, middle) : result))
    this.stops = stops
  }

  /** Without those that are in the plan no more. */
  get gatesThere(): GateResult[] {
    const { gone } = this.game
    return gone.size ? this.gates.filter((_, g) => !gone.has(g)) : this.gates
  }

  private gateAgain(g: number, { further }: MiddleRecord, before: RouteResults | null): GateResult | null {
    // A gate that was edited may have another name, or an error, though it comes to the same.
    if (!before || before.game.gates[g] !== this.game.gates[g] || this.record.gates[g] !== before.record.gates[g] || further.has(g)) return null
    const result = before.gates[g]!
    return result.debt.length ? null : result
  }

  gate(g: number, middle: MiddleRecord): GateResult {
    const gate = this.game.gates[g]!
    const record = this.record.gate(g)
    const onRoute = record.met !== null || record.due !== null
    const p = record.p
    const further = middle.further.get(g)
    const result: GateResult = {
      gate: gate.id,
      verdict: onRoute ? record.verdictOf(further?.opens ?? false) : 'off_route',
      p,
      interval: record.exact ? null : wilson(p, this.options.walks),
      exact: record.exact,
      met: this.ref(record.met),
      due: this.ref(record.due),
      opened: record.medianStop(record.opened),
      ...waiting(record.medianStop(record.ready), record.met),
      comparisons: onRoute ? record.comparisons.map((comparison) => comparison.result()) : [],
      from: untold,
      lost: untold,
      debt: further?.debt ?? [],
    }
    return gate.error ? { ...result, error: gate.error.message } : result
  }

  private ref(stop: number | null): StopRef | null {
    return stop === null ? null : (this.refs[stop] ??= { stop, place: this.placeAt(stop).id })
  }

  private placeAt(stop: number): Game['places'][number] {
    return this.game.places[this.route.stops[stop]!]!
  }

  private stopAgain(stop: number, { minutes }: MiddleRecord, before: RouteResults | null): StopResult | null {
    const result = before?.stops[stop]
    if (!result || result.minutes !== tidy(minutes[stop]!)) return null
    const [own, other] = [this.record.stops[stop]!, before!.record.stops[stop]!]
    return (['tallies', 'levels', 'positions'] as const).every((part) => own[part].isSame(other[part])) ? result : null
  }

  private stop(stop: number, { minutes }: MiddleRecord, before: RouteResults | null): StopResult {
    const { game: { tallies, characters }, record } = this
    const [told, was] = [before?.stops[stop], before?.record.stops[stop]]
    const all = (items: readonly { id: string }[], part: 'tallies' | 'levels' | 'positions') => {
      const byId: Record<string, Quantiles> = {}
      items.forEach(({ id }, i) => {
        const left = record.stops[stop]![part].at(i)
        byId[id] = (left === was?.[part].at(i) ? told?.[part][id] : null) ?? left.quantiles()!
      })
      return byId
    }
    return {
      place: this.placeAt(stop).id,
      minutes: tidy(minutes[stop]!),
      tallies: all(tallies, 'tallies'),
      levels: all(characters, 'levels'),
      positions: all(characters, 'positions'),
    }
  }
}

/** The stop at which a gate's player is ready for it, and how many stops after meeting it that is. */
function waiting(ready: number | null, met: number | null): Pick<GateResult, 'ready' | 'wait'> {
  return { ready, wait: ready === null || met === null ? null : ready - met }
}

/** The 95 % interval of a probability seen as a share of `n` walks (Wilson). */
export function wilson(p: number, n: number): [number, number] {
  const z = 1.959964
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n)
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n))
  return [Math.max(0, middle - half), Math.min(1, middle + half)]
}
