import type { Game, GameGate, GameRoute } from '../../rules/game.ts'
import { Histogram } from '../histogram.ts'
import type { HistogramData } from '../weighted-values.ts'
import { GateRecord, type GateData } from './gate-record.ts'
import type { Itinerary } from './itinerary.ts'
import type { Milestone } from './milestone.ts'
import type { Targets } from './portion.ts'

/** What was gathered of a portion: as plain data, or made and let go of piece by piece while it is gone through. */
export interface Gathered {
  gates: Iterable<[gate: number, data: GateData]>
  stops: Iterable<StopData>
}
/** The same as it goes from one thread to another. */
export interface RecordData extends Gathered {
  gates: [gate: number, data: GateData][]
  stops: StopData[]
}
interface StopData {
  tallies: HistogramData[]
  levels: HistogramData[]
  positions: HistogramData[]
}

interface StopRecord {
  tallies: Histogram[]
  levels: Histogram[]
  positions: Histogram[]
}

/** What of an earlier record of the same route stands as it is. */
export interface KeptRecord {
  record: RouteRecord
  targets: Targets
  /** What of it, on which no chance falls, stands as it is up to a milestone. */
  upTo: { milestone: Milestone; targets: Targets } | null
}

/** Gathers a walk's gates and stops; many walks can be gathered in one, each with its share of the weight. */
export class RouteRecord {
  readonly gates: GateRecord[]
  readonly stops: StopRecord[]
  /** By gate: 1 where its record is that of a walk before, which this one has not come to add to. */
  private readonly lent: Uint8Array

  constructor(
    readonly game: Game,
    route: GameRoute,
    neededAt: Int32Array,
    kept: KeptRecord | null = null,
    /** Whether each walk that is gathered weighs 1, and there are no more than `mostCounted`. */
    counts = false,
  ) {
    this.lent = new Uint8Array(game.gates.length)
    this.gates = game.gates.map((gate, g) => {
      const due = neededAt[g] === -1 ? null : neededAt[g]!
      const known = kept && gateKept(kept, g, game, gate, due)
      if (known) {
        this.lent[g] = known === kept.record.gates[g] ? 1 : 0
        return known
      }
      const record = new GateRecord(game, gate, counts)
      record.due = due
      return record
    })
    this.stops = route.stops.map((_, stop) => {
      const before = kept?.record.stops[stop]
      const upTo = kept?.upTo && stop < kept.upTo.milestone.stop ? kept.upTo.targets : null
      const stands = (kind: 'tallies' | 'characters', i: number) => kept?.targets[kind].has(i) || upTo?.[kind].has(i)
      return {
        tallies: game.tallies.map((_, t) => (stands('tallies', t) ? before!.tallies[t]! : new Histogram(1, counts))),
        levels: game.characters.map((_, c) => (stands('characters', c) ? before!.levels[c]! : new Histogram(1, counts))),
        positions: game.characters.map((_, c) => (stands('characters', c) ? before!.positions[c]! : new Histogram(positionParts, counts))),
      }
    })
  }

  /** The record of a gate, to note more in. */
  toNote(g: number): GateRecord {
    if (this.lent[g]) {
      this.gates[g] = this.gates[g]!.copy(this.game, this.game.gates[g]!)
      this.lent[g] = 0
    }
    return this.gates[g]!
  }

  /** What was gathered of a portion; this record is of no use any more once that has been gone through. */
  handOver({ targets }: Itinerary): Gathered {
    return { gates: this.gatesOf(targets), stops: this.stopsOf(targets) }
  }

  private *gatesOf({ gates }: Itinerary['targets']): Generator<[gate: number, data: GateData]> {
    for (const [g, record] of this.gates.entries()) {
      if (!gates[g]) continue
      yield [g, record.data()]
      this.gates[g] = record.anew(this.game, this.game.gates[g]!)
    }
  }

  private *stopsOf({ tallies, characters }: Itinerary['targets']): Generator<StopData> {
    for (const stop of this.stops) {
      yield { tallies: tallies.map((t) => stop.tallies[t]!.data()), levels: characters.map((c) => stop.levels[c]!.data()), positions: characters.map((c) => stop.positions[c]!.data()) }
      for (const list of [stop.tallies, stop.levels, stop.positions]) list.length = 0
    }
  }

  /** The same as plain data. */
  data(itinerary: Itinerary): RecordData {
    const { gates, stops } = this.handOver(itinerary)
    return { gates: [...gates], stops: [...stops] }
  }

  /** Adds what was gathered of the same portion in several parts, a share of each weight. Of stops the quantiles alone are kept. */
  absorb(itinerary: Itinerary, parts: readonly Gathered[], share: number): void {
    const { tallies, characters } = itinerary.targets
    for (const { gates } of parts) for (const [g, gate] of gates) this.gates[g]!.absorb(gate, share)
    const stopsOf = parts.map(({ stops }) => stops[Symbol.iterator]())
    this.stops.forEach((stop, i) => {
      for (const stops of stopsOf) {
        const from = stops.next().value as StopData
        tallies.forEach((t, k) => stop.tallies[t]!.absorb(from.tallies[k]!, share))
        characters.forEach((c, k) => {
          stop.levels[c]!.absorb(from.levels[k]!, share)
          stop.positions[c]!.absorb(from.positions[k]!, share)
        })
      }
      this.settle(i, itinerary.targets)
    })
  }

  /** Keeps of what was gathered on leaving a stop no more than its quantiles; of a portion, or of all. */
  settle(stop: number, portion?: Itinerary['targets']): void {
    const { tallies, levels, positions } = this.stops[stop]!
    const [byTally, byCharacter] = [portion?.tallies ?? tallies.keys(), portion?.characters ?? levels.keys()]
    for (const t of byTally) tallies[t]!.settle()
    for (const c of byCharacter) {
      levels[c]!.settle()
      positions[c]!.settle()
    }
  }

  /** Forgets what was gathered of some gates, and at the first stops of tallies and characters, to gather it anew. */
  clear({ gates, tallies, characters }: Targets, stops: number): void {
    for (const g of gates) {
      this.gates[g] = this.gates[g]!.anew(this.game, this.game.gates[g]!)
      this.lent[g] = 0
    }
    for (const stop of this.stops.slice(0, stops)) {
      for (const t of tallies) stop.tallies[t] = new Histogram()
      for (const c of characters) {
        stop.levels[c] = new Histogram()
        stop.positions[c] = new Histogram(positionParts)
      }
    }
  }
}

/** The record of a gate as far as it stands; undefined: nothing of it does. */
function gateKept({ record, targets, upTo }: KeptRecord, g: number, game: Game, gate: GameGate, neededAt: number | null): GateRecord | undefined {
  const before = record.gates[g]
  if (targets.gates.has(g)) return before
  if (!before || !upTo?.targets.gates.has(g)) return undefined
  const { metAt, branch: { notes } } = upTo.milestone
  const [isMet, so] = [(metAt[g] ?? -1) >= 0, notes[g] ?? 0]
  return before.isAsOf(isMet, so, neededAt) ? before : before.asOf(isMet, so, game, gate, neededAt)
}

/** Positions between two levels are told apart as finely as they are drawn. */
export const positionParts = 256
