/**
 * Results as they go from one thread to another: all their numbers side by side in one array. A large plan has tens of thousands of
 * small objects in them, which take ten times as long one by one. NaN stands for null.
 */
import type { ComparisonResult, GateResult, Quantiles, StopRef, StopResult, Verdict } from '../check/result.ts'
import { verdictOrder } from './verdict-text.ts'

export interface PackedStops {
  places: string[]
  /** Ids, in the order of their numbers. */
  tallies: string[]
  characters: string[]
  numbers: Float64Array
}

export interface PackedGates {
  ids: string[]
  /** Of all comparisons, one after another. */
  texts: string[]
  /** By stop that is named: its place. */
  places: string[]
  numbers: Float64Array
  /** What few gates have, by index. */
  more: [index: number, of: Pick<GateResult, 'from' | 'lost' | 'debt' | 'error'>][]
}

class NumberWriter {
  private list = new Float64Array(1024)
  private length = 0

  put(n: number | null): void {
    if (this.length === this.list.length) {
      const wider = new Float64Array(2 * this.length)
      wider.set(this.list)
      this.list = wider
    }
    this.list[this.length++] = n ?? NaN
  }

  putQuantiles(of: Quantiles | null): void {
    this.put(of && of.min)
    this.put(of && of.q05)
    this.put(of && of.median)
    this.put(of && of.q95)
    this.put(of && of.max)
  }

  get numbers(): Float64Array {
    return this.list.slice(0, this.length)
  }
}

class NumberReader {
  private at = 0

  constructor(private readonly list: Float64Array) {}

  number(): number {
    return this.list[this.at++]!
  }

  orNull(): number | null {
    const n = this.number()
    return Number.isNaN(n) ? null : n
  }

  quantiles(): Quantiles | null {
    const [min, q05, median, q95, max] = [this.number(), this.number(), this.number(), this.number(), this.number()]
    return Number.isNaN(min) ? null : { min, q05, median, q95, max }
  }
}

export function packStops(stops: readonly StopResult[]): PackedStops {
  const ids = (of: object | undefined) => Object.keys(of ?? {})
  const [tallies, characters] = [ids(stops[0]?.tallies), ids(stops[0]?.levels)]
  const writer = new NumberWriter()
  for (const stop of stops) {
    writer.put(stop.minutes)
    for (const id of tallies) writer.putQuantiles(stop.tallies[id]!)
    for (const id of characters) writer.putQuantiles(stop.levels[id]!)
    for (const id of characters) writer.putQuantiles(stop.positions[id]!)
  }
  return { places: stops.map(({ place }) => place), tallies, characters, numbers: writer.numbers }
}

export function unpackStops({ places, tallies, characters, numbers }: PackedStops): StopResult[] {
  const reader = new NumberReader(numbers)
  const byId = (ids: readonly string[]) => {
    const all: Record<string, Quantiles> = {}
    for (const id of ids) all[id] = reader.quantiles()!
    return all
  }
  return places.map((place) => ({ place, minutes: reader.number(), tallies: byId(tallies), levels: byId(characters), positions: byId(characters) }))
}

export function packGates(gates: readonly GateResult[]): PackedGates {
  const writer = new NumberWriter()
  const packed: Omit<PackedGates, 'numbers'> = { ids: [], texts: [], places: [], more: [] }
  const stop = (ref: StopRef | null) => {
    if (ref) packed.places[ref.stop] = ref.place
    writer.put(ref && ref.stop)
  }
  gates.forEach((gate, i) => {
    packed.ids.push(gate.gate)
    writer.put(verdictOrder.indexOf(gate.verdict))
    writer.put(gate.p)
    writer.put(gate.interval && gate.interval[0])
    writer.put(gate.interval && gate.interval[1])
    writer.put(gate.exact ? 1 : 0)
    stop(gate.met)
    stop(gate.due)
    for (const moment of [gate.opened, gate.ready, gate.wait]) writer.put(moment)
    writer.put(gate.comparisons.length)
    for (const { text, need, has, margin, holds, slack } of gate.comparisons) {
      packed.texts.push(text)
      for (const n of [need, margin, holds, slack]) writer.put(n)
      writer.putQuantiles(has)
    }
    const { from, lost, debt, error } = gate
    if (from.length + lost.length + debt.length > 0 || error !== undefined) packed.more.push([i, { from, lost, debt, ...(error !== undefined && { error }) }])
  })
  // Stops that no gate names have no place in it: a list with holes goes more slowly.
  return { ...packed, places: Array.from(packed.places, (place) => place ?? ''), numbers: writer.numbers }
}

export function unpackGates({ ids, texts, places, numbers, more }: PackedGates): GateResult[] {
  const reader = new NumberReader(numbers)
  const refs: StopRef[] = places.map((place, stop) => ({ stop, place }))
  const ref = () => refs[reader.number()] ?? null
  const [others, text] = [new Map(more), texts.values()]
  const comparison = (): ComparisonResult => {
    const [need, margin, holds, slack] = [reader.orNull(), reader.orNull(), reader.number(), reader.orNull()]
    return { text: text.next().value!, need, has: reader.quantiles(), margin, holds, slack }
  }
  return ids.map((gate, i): GateResult => {
    const verdict: Verdict = verdictOrder[reader.number()]!
    const p = reader.number()
    const interval: GateResult['interval'] = [reader.number(), reader.number()]
    return {
      gate, verdict, p,
      interval: Number.isNaN(interval[0]) ? null : interval,
      exact: reader.number() === 1,
      met: ref(), due: ref(),
      opened: reader.orNull(), ready: reader.orNull(), wait: reader.orNull(),
      comparisons: Array.from({ length: reader.number() }, comparison),
      ...(others.get(i) ?? { from: [], lost: [], debt: [] }),
    }
  })
}
