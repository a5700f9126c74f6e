import fc from 'fast-check'
import { compile } from '../rules/compile.ts'
import { readPlanValue } from '../plan/file.ts'
import type { Records } from '../plan/records.ts'

/** Where a made-up world takes its numbers from: one from 0 to n − 1. */
type Die = (n: number) => number

/**
 * Made-up plans of a few places with all that the rules know, tightly knit: requirements of every make, costs, exchanges that can be
 * repeated, fines, amounts below 0, resets, caps, those who join late, live gates. All can be read and played without a fault.
 */
export const anyWorld: fc.Arbitrary<Records> = fc
  .infiniteStream(fc.nat(2_520 - 1))
  .map((numbers) => {
    const read = readPlanValue(new World((n) => (numbers.next().value as number) % n).plan())
    return read.ok && compile(read.records).issues.length === 0 ? read.records : null
  })
  .filter((records) => records !== null)

type Item = Record<string, unknown> & { id: string }

class World {
  private readonly tallies: Item[] = []
  private readonly characters: Item[] = []
  private readonly places: Item[]
  private readonly passages: (Item & { from: string; to: string; twoWay: boolean })[] = []
  private readonly gates: string[] = []
  private readonly sources: string[] = []
  private readonly contents: { source?: Item; gate?: Item }[][]
  private readonly anywhere: Item[] = []
  private readonly levels: boolean

  constructor(private readonly die: Die) {
    this.levels = this.chance(45)
    for (const id of ['stamps', 'seals', 'oil'].slice(0, 1 + die(3))) this.tallies.push(this.tally(id))
    this.places = ['depot', 'ridge', 'quay'].slice(0, 1 + die(3)).map((id) => ({ id, name: id, kind: 'area' }))
    this.places.at(-1)!.goal = this.chance(70)
    this.contents = this.places.map(() => [])
  }

  plan(): unknown {
    const { places, die } = this
    if (this.levels) this.addCharacters()
    for (let i = 1; i < places.length; i++) this.passages.push({ id: `way_${i}`, from: places[die(i)]!.id, to: places[i]!.id, twoWay: this.chance(70) })
    for (let i = 3 + die(5); i > 0; i--) this.addItem(i)
    return {
      format: 'tundrift-plan', version: 1, id: 'world', name: 'World', start: 'depot', tallies: [...this.tallies, ...(this.levels ? [{ id: 'renown', name: 'Renown', kind: 'experience', resets: this.pick(['never', 'never', 'place']) }] : [])],
      curves: this.levels ? [this.curve()] : [], characters: this.characters, places: places.map((place, p) => ({ ...place, contents: this.contents[p] })), passages: this.passages, anywhere: this.anywhere,
      routes: [{ id: 'line', name: 'Line', stops: this.stops() }],
      profiles: [
        { id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' },
        { id: 'usual', name: 'Usual', main: 1, side: 0.5, buys: 'all', retries: die(2) },
        { id: 'loose', name: 'Loose', main: this.pick([0.75, 0.9]), side: 0.25, buys: this.pick(['nothing', 'all']) },
      ],
    }
  }

  private chance(percent: number): boolean {
    return this.die(100) < percent
  }

  private pick<T>(list: readonly T[]): T {
    return list[this.die(list.length)]!
  }

  private tally(id: string): Item {
    const min = this.pick([0, 0, 0, 0, -2, null])
    return { id, name: id, kind: this.pick(['currency', 'score', 'collectible']), start: this.pick([0, 0, 1, 3]), min, max: this.pick([null, null, 4, 6]), resets: this.pick(['never', 'never', 'never', 'place', 'retry']) }
  }

  private curve(): Item {
    const counts = this.pick(['step', 'total'])
    const values = Array.from({ length: 2 + this.die(3) }, (_, i) => (counts === 'total' ? 4 + i * 4 : 2 + this.die(4)))
    return {
      id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: values.length + 1, counts, rule: { kind: 'table', values }, rounding: 'nearest',
      levelUpAt: this.pick(['reached', 'exceeded']), remainder: this.pick(['carry', 'carry', 'clear']), levelsPerGain: this.pick(['many', 'many', 'one']), atTop: this.pick(['discard', 'hold', 'bank']),
    }
  }

  private addCharacters(): void {
    for (const id of ['courier', 'dog'].slice(0, 1 + this.die(2))) {
      const joins = id === 'dog' && this.chance(50) ? this.pick(this.places).id : null
      const rewards = this.chance(25) ? [{ level: this.pick(['every', 2, 3]), yields: [{ tally: this.some(), min: 1, max: 1 }] }] : []
      this.characters.push({ id, name: id, experience: 'renown', curve: 'rank', cap: this.pick([null, null, 2, 3]), joins, rewards })
    }
  }

  private stops(): string[] {
    const stops = ['depot']
    for (let i = this.die(4); i > 0; i--) {
      const at = stops.at(-1)!
      const on = this.passages.flatMap(({ from, to, twoWay }) => [...(from === at ? [to] : []), ...(twoWay && to === at ? [from] : [])])
      if (on.length) stops.push(this.pick(on))
    }
    return stops
  }

  private addItem(i: number): void {
    const here = this.pick(this.contents)
    if (this.chance(55)) return void here.push({ source: this.source(`source_${i}`) })
    const gate = this.gate(`gate_${i}`)
    if (this.chance(12)) this.anywhere.push(gate)
    else here.push({ gate })
  }

  private source(id: string): Item {
    const yields = [this.gain(), ...(this.chance(25) ? [this.gain()] : [])]
    const takes = this.chance(35) ? [{ tally: this.some(), amount: 1 + this.die(2) }] : []
    const source = { id, name: id, kind: 'event', role: this.pick(['main', 'side']), count: 1 + this.die(3), respawns: this.chance(40), minutes: this.die(4), requires: this.chance(35) ? this.requirement() : '', yields, takes, caps: this.caps() }
    this.sources.push(id)
    return source
  }

  private gate(id: string): Item {
    const live = this.chance(15)
    const guards = this.pick([null, { place: this.pick(this.places).id }, ...(this.passages.length ? [{ passage: this.pick(this.passages).id }] : [])])
    const lasting = live ? {} : { costs: this.chance(45) ? [{ tally: this.some(), amount: 1 + this.die(4) }] : [], yields: this.chance(20) ? [this.gain()] : [], caps: this.caps() }
    const gate = { id, name: id, kind: 'door', role: this.pick(['main', 'side']), requires: this.requirement(), guards, stays: live ? 'live' : 'open', due: this.pick(['meeting', 'stop', 'route']), ...lasting }
    this.gates.push(id)
    return gate
  }

  private some(): string {
    return this.pick(this.tallies).id
  }

  private gain(): unknown {
    const isRenown = this.levels && this.chance(35)
    const min = isRenown ? 1 + this.die(7) : this.pick([1, 1, 2, 3, -1, -2])
    return { tally: isRenown ? 'renown' : this.some(), min, max: this.chance(12) ? min + 1 : min }
  }

  private caps(): unknown[] {
    return this.levels && this.chance(12) ? [{ character: this.pick(['all', 'courier']), level: 1 + this.die(5) }] : []
  }

  private requirement(): string {
    switch (this.die(10)) {
      case 0: case 1: case 2: case 3: return ''
      case 4: return `${this.part()} and ${this.part()}`
      case 5: return `${this.part()} or ${this.part()}`
      default: return this.part()
    }
  }

  private part(): string {
    const n = this.die(5)
    const op = this.pick(['>=', '>=', '>=', '>', '<', '<=', '==', '!='])
    const place = this.pick(this.places).id
    return this.pick([
      `${this.some()} >= ${n + 1}`, `${n} ${op} ${this.some()}`, `${this.some()} + ${this.some()} ${op} ${n + 1}`, `${this.some()} - ${this.some()} >= ${n}`, `visited(${place})`,
      `at_least(${1 + this.die(2)}, ${this.some()} >= ${1 + n}, ${this.some()} > ${n}, visited(${place}))`,
      ...this.gates.slice(-2).flatMap((gate) => [`open(${gate})`, `not open(${gate})`]), ...this.sources.slice(-2).map((source) => `taken(${source}) ${op} ${n}`),
      ...(this.levels ? [`level >= ${n}`, `level ${op} ${n}`, `average(level) ${op} ${n}.5`, `lowest(level) ${op} ${n}`, `cap ${op} ${2 + n}`, `renown ${op} ${3 * n}`, `highest(level) + ${this.some()} >= ${2 + n}`] : []),
    ])
  }
}
