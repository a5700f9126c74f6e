import { seededRandom } from '../check/chance.ts'
import type { Curve } from '../plan/curve.ts'
import { curveValues } from '../rules/curve-values.ts'
import { sampleCast, samplePatterns, sampleTallies } from './sample-cast.ts'
import { adjectives, nouns, sourceNames } from './sample-words.ts'

export interface SampleSize {
  places: number
  sources: number
  gates: number
  seed: number
}

type Raw = Record<string, unknown>

/** A made-up valid plan of a size, with every part of the model in it, as the value of a plan file. The same seed, the same plan. */
export function samplePlan({ places, sources, gates, seed }: SampleSize): Raw {
  return new Sampler(places, sources, gates, seed).plan()
}

/** Gates that stand in no place come beside those that are asked for. */
export const gatesAnywhere = 1

/** Sources with a range stand among the first: a little chance, whatever the size. */
const rangedBefore = 40

interface Held {
  renown: number
  stamps: number
  glass: number
}

class Sampler {
  private readonly random: () => number
  private readonly curve: Curve
  private readonly ids: string[]
  private readonly totals: number[]
  /** What a player who takes all main units holds, about, when a place is left. */
  private readonly held: Held = { renown: 0, stamps: 5, glass: 0 }
  private sourceNumber = 0
  private gateNumber = 0

  constructor(
    private readonly places: number,
    private readonly sources: number,
    private readonly gates: number,
    seed: number,
  ) {
    this.random = seededRandom(seed, 7)
    this.ids = Array.from({ length: places }, (_, p) => `place_${p + 1}`)
    const levels = Math.min(200, 12 + Math.ceil(Math.sqrt(sources) * 3))
    this.curve = { ...sampleCurve, maxLevel: levels, rule: { kind: 'formula', text: `60 + ${Math.max(4, Math.round(sources / 60))} * L` } }
    let total = 0
    this.totals = curveValues(this.curve).values.map((value) => (total += value.toNumber()))
  }

  plan(): Raw {
    const contents = this.ids.map((_, p) => this.contents(p))
    const { characters, curves } = sampleCast(this.curve, this.ids)
    return {
      format: 'tundrift-plan',
      version: 1,
      id: 'sample_road',
      name: `Sample road of ${this.places} places`,
      notes: 'Made up by tundrift sample.',
      start: this.ids[0],
      settings: { droughtMinutes: 30, pileUp: { unlocks: 5, minutes: 2 } },
      tallies: sampleTallies,
      curves,
      characters,
      patterns: samplePatterns,
      places: this.ids.map((id, p) => ({
        id, name: this.placeName(p), kind: p % 9 === 4 ? 'stage' : p % 11 === 0 ? 'hub' : 'area', goal: p === this.places - 1, minutes: 2 + this.upTo(8), contents: contents[p],
      })),
      passages: this.passages(),
      anywhere: this.anywhere(),
      routes: this.routes(),
      profiles: [
        { id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing', retries: 0 },
        { id: 'usual', name: 'Usual', main: 1, side: 0.5, buys: 'all', retries: 0 },
        { id: 'thorough', name: 'Thorough', main: 1, side: 1, buys: 'all', retries: 1 },
      ],
    }
  }

  private upTo(n: number): number {
    return Math.floor(this.random() * (n + 1))
  }

  private placeName(p: number): string {
    return `${adjectives[p % adjectives.length]} ${nouns[Math.floor(p / adjectives.length) % nouns.length]} ${p + 1}`
  }

  private contents(p: number): Raw[] {
    const sources = share(this.sources, this.places, p)
    const gates = share(this.gates, this.places, p)
    const items: Raw[] = Array.from({ length: sources }, () => this.source())
    for (let i = 0; i < gates; i++) items.push(i === 0 ? this.wayGate(p) : this.sideGate(p, i))
    return items
  }

  private source(): Raw {
    const n = this.sourceNumber++
    const main = this.random() < 0.65
    const kind = n % 12
    const name = `${sourceNames[n % sourceNames.length]} ${n + 1}`
    const base = { id: `source_${n + 1}`, name, role: main ? 'main' : 'side', count: 1 + this.upTo(3), requires: '', caps: [] }
    if (kind === 3) return { source: this.counted({ ...base, pattern: 'drift' }, main, 18, 0, 0) }
    if (kind === 7) return { source: this.counted({ ...base, pattern: 'lamp' }, main, 24, 0, 1) }
    const whole = { kind: (['quest', 'event', 'pickup', 'enemy', 'production'] as const)[n % 5], takes: [] as Raw[], respawns: kind === 5, minutes: 1 + this.upTo(4) }
    const renown = 10 + this.upTo(40)
    if (kind === 9) return { source: this.counted({ ...base, ...whole, yields: [{ tally: 'stamps', min: 1, max: n < rangedBefore ? 3 : 1 }, { tally: 'trust', min: 2, max: 2 }] }, main, 0, 1, 0) }
    if (kind === 11) return { source: { ...base, ...whole, role: 'side', takes: [{ tally: 'stamps', amount: 1 }], yields: [{ tally: 'punctuality', min: 2, max: 2 }] } }
    const stamps = n % 4 === 0 ? [{ tally: 'stamps', min: 1, max: 1 }] : []
    return { source: this.counted({ ...base, ...whole, yields: [{ tally: 'renown', min: renown, max: renown }, ...stamps] }, main, renown, stamps.length, 0) }
  }

  private counted(source: Raw & { count: number }, main: boolean, renown: number, stamps: number, glass: number): Raw {
    if (main) {
      this.held.renown += renown * source.count
      this.held.stamps += stamps * source.count
      this.held.glass += glass * source.count
    }
    return source
  }

  private levelNow(): number {
    const passed = this.totals.findIndex((total) => total > this.held.renown)
    return this.curve.firstLevel + (passed === -1 ? this.totals.length : passed)
  }

  private gate(fields: Raw): Raw {
    const n = ++this.gateNumber
    return { gate: { id: `gate_${n}`, name: `Gate ${n}`, kind: 'door', role: 'main', guards: null, requires: '', costs: [], stays: 'open', due: 'stop', yields: [], caps: [], lockedText: 'It asks for {need}; you have {have}.', minutes: 0, ...fields } }
  }

  private wayGate(p: number): Raw {
    const level = Math.max(1, this.levelNow() - this.upTo(2))
    const guards = p + 1 < this.places ? (p % 7 === 3 ? { place: this.ids[p + 1] } : { passage: `passage_${p + 1}` }) : null
    if (p % 13 === 5) return this.gate({ guards, stays: 'live', requires: `level >= ${level}`, kind: 'area' })
    return this.gate({ guards, requires: p % 3 === 0 ? `level >= ${level} and lamp_glass >= ${Math.max(0, this.held.glass - this.upTo(4))}` : `level >= ${level}` })
  }

  private sideGate(p: number, i: number): Raw {
    const level = Math.max(1, this.levelNow() - this.upTo(1))
    const kinds = ['shop_item', 'ability', 'cap', 'form'] as const
    const kind = kinds[(p + i) % kinds.length]!
    const side = { role: 'side', due: 'route', kind }
    if (kind === 'shop_item' && this.held.stamps > 12) {
      this.held.stamps -= 2
      return this.gate({ ...side, requires: `level >= ${level}`, costs: [{ tally: 'stamps', amount: 2 }] })
    }
    if (kind === 'cap') return this.gate({ ...side, requires: `at_least(1, level >= ${level}, visited(${this.ids[p]}))`, caps: [{ character: 'bracken', level: Math.min(12, 4 + Math.floor(p / 8)) }] })
    return this.gate({ ...side, requires: kind === 'form' ? `highest(level) >= ${level} or ice_chart` : `level >= ${level}` })
  }

  private passages(): Raw[] {
    const along = this.ids.slice(1).map((id, i) => ({ id: `passage_${i + 1}`, from: this.ids[i], to: id, twoWay: i % 17 !== 8 }))
    // Short cuts back keep one-way passages from being losses.
    const back = this.ids.flatMap((id, p) => (p % 17 === 9 && p > 0 ? [{ id: `back_${p}`, from: id, to: this.ids[p - 1], twoWay: false }] : []))
    return [...along, ...back]
  }

  private anywhere(): Raw[] {
    const gate = this.gate({ role: 'side', due: 'route', kind: 'ability', requires: `visited(${this.ids.at(-1)})` })
    return [gate.gate as Raw]
  }

  private routes(): Raw[] {
    const main = { id: 'main_line', name: 'Main line', stops: this.ids }
    if (this.places < 3) return [main]
    return [main, { id: 'there_and_back', name: 'There and back', stops: [this.ids[0], this.ids[1], this.ids[0]] }]
  }
}

/** How many of `all` fall to one of `parts`, evenly. */
function share(all: number, parts: number, part: number): number {
  return Math.floor(((part + 1) * all) / parts) - Math.floor((part * all) / parts)
}

const sampleCurve: Curve = {
  id: 'courier_rank', name: 'Courier rank', firstLevel: 1, maxLevel: 30, counts: 'step', rule: { kind: 'growth', base: 80, factor: 1.1, add: 10 },
  rounding: 'nearest', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'bank',
}
