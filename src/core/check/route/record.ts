import type { Game } from '../../rules/game.ts'
import type { HistogramData } from '../weighted-values.ts'
import { GateRecord, type GateData } from './gate-record.ts'
import type { Itinerary, MarkedTargets } from './itinerary.ts'
import { Leaving } from './leaving.ts'
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

type StopRecord = Record<'tallies' | 'levels' | 'positions', Leaving>

/** What of an earlier record of the same route stands as it is. */
export interface KeptRecord {
  record: RouteRecord
  targets: Targets
}

/**
 * Gathers a walk's gates and stops; many walks can be gathered in one, each with its share of the weight. Where it goes on from an earlier
 * record, what comes out as it was there is the very same object: most of what an edit has walked again does.
 */
export class RouteRecord {
  /** Absent: nothing is noted of it yet. */
  readonly gates: (GateRecord | undefined)[]
  readonly stops: StopRecord[]
  private before: RouteRecord | null
  /** Records that somebody else holds, too: they are copied before more is noted in them. */
  private held: readonly (GateRecord | undefined)[]

  constructor(
    readonly game: Game,
    /** How many stops are gone to. */
    stops: number,
    private readonly neededAt: Int32Array,
    kept: KeptRecord | null = null,
    /** Whether each walk that is gathered weighs 1, and there are no more than `mostCounted`. */
    private readonly counts = false,
  ) {
    this.before = kept?.record ?? null
    this.held = this.before?.gates ?? []
    this.gates = game.gates.map((_, g) => (kept?.targets.gates.has(g) ? kept.record.gates[g] : undefined))
    this.stops = Array.from({ length: stops }, (_, stop) => {
      const leaving = (part: keyof StopRecord, kind: 'tallies' | 'characters', parts = 1) =>
        kept?.record.stops[stop]![part].next((i) => kept.targets[kind].has(i)) ?? new Leaving(game[kind].map(() => undefined), parts, counts)
      return { tallies: leaving('tallies', 'tallies'), levels: leaving('levels', 'characters'), positions: leaving('positions', 'characters', positionParts) }
    })
  }

  /** The stop on whose leaving a gate is in the way, or null. */
  private neededOn(g: number): number | null {
    return this.neededAt[g] === -1 ? null : this.neededAt[g]!
  }

  gate(g: number): GateRecord {
    return (this.gates[g] ??= this.freshGate(g))
  }

  private freshGate(g: number): GateRecord {
    const record = new GateRecord(this.game, this.game.gates[g]!, this.counts)
    record.due = this.neededOn(g)
    return record
  }

  /** The record of a gate, to note more in: one that somebody else holds is copied first. */
  toNote(g: number): GateRecord {
    const record = this.gate(g)
    return record === this.held[g] ? (this.gates[g] = record.copy(this.game, this.game.gates[g]!)) : record
  }

  /** The records of all gates as they are now, to be held: what is noted from now on does not alter them. */
  hold(): readonly (GateRecord | undefined)[] {
    return (this.held = [...this.gates])
  }

  /** Stands for some targets as the record before stood on entering a stop; `had`: the gates as they were then. Later stops are gathered anew. */
  goOnFrom(stop: number, { gates, tallies, characters }: Record<keyof Targets, Iterable<number>>, had: (g: number) => GateRecord | undefined): void {
    for (const g of gates) this.gates[g] = had(g)
    this.hold()
    for (const { tallies: left, levels, positions } of this.stops.slice(0, stop)) {
      for (const t of tallies) left.stay(t)
      for (const c of characters) {
        levels.stay(c)
        positions.stay(c)
      }
    }
  }

  /** A gate as a walk that goes one way had it before, at a milestone; undefined: nothing was noted of it. */
  asAt({ metAt, branch: { notes } }: Milestone, g: number): GateRecord | undefined {
    const was = this.before?.gates[g]
    const [isMet, so] = [(metAt[g] ?? -1) >= 0, notes[g] ?? 0]
    const neededAt = this.neededOn(g)
    if (!was || was.isAsOf(isMet, so, neededAt)) return was
    // Of thousands that are come to later nothing is made before they are.
    return isMet || so ? was.asOf(isMet, so, this.game, this.game.gates[g]!, neededAt) : undefined
  }

  /** Nothing more is gathered: what came out as it was before is what was there. Of stops no more than the quantiles is kept. */
  close(): void {
    for (let g = 0; g < this.gates.length; g++) {
      const [record, was] = [this.gate(g), this.before?.gates[g]]
      if (was && was !== record && record.isAs(was)) this.gates[g] = was
    }
    for (const { tallies, levels, positions } of this.stops) for (const part of [tallies, levels, positions]) part.close()
    this.before = null
    this.held = []
  }

  /** What was gathered of a portion; this record is of no use any more once that has been gone through. */
  handOver({ targets }: Itinerary): Gathered {
    return { gates: this.gatesOf(targets), stops: this.stopsOf(targets) }
  }

  private *gatesOf({ gates }: MarkedTargets): Generator<[gate: number, data: GateData]> {
    for (let g = 0; g < this.gates.length; g++) {
      if (!gates[g]) continue
      yield [g, this.gate(g).data()]
      this.gates[g] = undefined
    }
  }

  private *stopsOf({ tallies, characters }: MarkedTargets): Generator<StopData> {
    for (const { tallies: left, levels, positions } of this.stops) {
      yield { tallies: tallies.map((t) => left.at(t).data()), levels: characters.map((c) => levels.at(c).data()), positions: characters.map((c) => positions.at(c).data()) }
      for (const t of tallies) left.clear(t)
      for (const c of characters) {
        levels.clear(c)
        positions.clear(c)
      }
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
    for (const { gates } of parts) for (const [g, gate] of gates) this.toNote(g).absorb(gate, share)
    const stopsOf = parts.map(({ stops }) => stops[Symbol.iterator]())
    this.stops.forEach((stop, i) => {
      for (const stops of stopsOf) {
        const from = stops.next().value as StopData
        tallies.forEach((t, k) => stop.tallies.at(t).absorb(from.tallies[k]!, share))
        characters.forEach((c, k) => {
          stop.levels.at(c).absorb(from.levels[k]!, share)
          stop.positions.at(c).absorb(from.positions[k]!, share)
        })
      }
      this.settle(i, itinerary.targets)
    })
  }

  /** Keeps of what was gathered of a portion on leaving a stop no more than its quantiles. */
  settle(stop: number, portion: MarkedTargets): void {
    const { tallies, levels, positions } = this.stops[stop]!
    for (const t of portion.tallies) tallies.settle(t)
    for (const c of portion.characters) {
      levels.settle(c)
      positions.settle(c)
    }
  }

  /** Forgets what was gathered of some gates, and at the first stops of tallies and characters, to gather it anew. */
  clear(portion: Targets, stops: number): void {
    for (const g of portion.gates) this.gates[g] = undefined
    for (const { tallies, levels, positions } of this.stops.slice(0, stops)) {
      for (const t of portion.tallies) tallies.clear(t)
      for (const c of portion.characters) {
        levels.clear(c)
        positions.clear(c)
      }
    }
  }
}

/** Positions between two levels are told apart as finely as they are drawn. */
export const positionParts = 256
