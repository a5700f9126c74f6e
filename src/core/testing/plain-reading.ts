/**
 * A plain reading of docs/model.md, step by step and without a thought for speed: numbers are decimals, names are looked up
 * each time. What the compiled engine does is held against it. It knows routes of players who leave nothing to chance.
 */
import { Decimal } from '../language/arithmetic.ts'
import { LanguageError } from '../language/language-error.ts'
import { parse, type Node } from '../language/parse.ts'
import type { PlanFile } from '../plan/file.ts'
import type { RecordOf } from '../plan/kinds.ts'
import { wholeSource, type WholeSource } from '../plan/source.ts'
import type { Cost, Yield } from '../plan/yield.ts'
import { curveValues } from '../rules/curve-values.ts'

type Gate = RecordOf['gate']
type Character = RecordOf['character']

interface Hero {
  level: number
  xp: Decimal
  cap: number | null
  present: boolean
}

export interface StopState {
  tallies: Record<string, number>
  levels: Record<string, number>
  open: string[]
}

/** Plays a route for a kind of player and gives what is held on leaving each stop. */
export function playRoute(plan: PlanFile, route: string, profile: string): StopState[] {
  return new Player(plan).route(route, profile)
}

class Player {
  private readonly tallies: Record<string, Decimal> = {}
  private readonly heroes: Record<string, Hero> = {}
  private readonly opened = new Set<string>()
  private readonly visited = new Set<string>()
  private readonly taken: Record<string, number> = {}

  constructor(private readonly plan: PlanFile) {
    for (const tally of this.list('tallies')) this.tallies[tally.id] = new Decimal(tally.start)
    for (const character of this.list('characters')) {
      this.heroes[character.id] = { level: 0, xp: new Decimal(0), cap: character.cap, present: character.joins === null }
      this.toStart(character)
    }
  }

  private list<K extends 'tallies' | 'characters' | 'curves' | 'passages' | 'routes' | 'profiles'>(name: K) {
    type Kind = { tallies: 'tally'; characters: 'character'; curves: 'curve'; passages: 'passage'; routes: 'route'; profiles: 'profile' }[K]
    return this.plan[name] as RecordOf[Kind][]
  }

  route(routeId: string, profileId: string): StopState[] {
    const profile = this.list('profiles').find((p) => p.id === profileId)!
    const stops = this.list('routes').find((r) => r.id === routeId)!.stops
    return stops.map((stop) => {
      this.enter(stop)
      if (profile.retries > 0) this.reset((tally) => tally.resets === 'retry')
      while (this.pass(stop, profile));
      return {
        tallies: Object.fromEntries(Object.entries(this.tallies).map(([id, value]) => [id, value.toNumber()])),
        levels: Object.fromEntries(Object.entries(this.heroes).map(([id, hero]) => [id, hero.level])),
        open: [...this.opened].sort(),
      }
    })
  }

  private enter(place: string): void {
    this.visited.add(place)
    this.reset((tally) => tally.resets === 'place')
    for (const character of this.list('characters')) if (character.joins === place) this.heroes[character.id]!.present = true
  }

  private reset(which: (tally: RecordOf['tally']) => boolean): void {
    for (const tally of this.list('tallies').filter(which)) {
      this.tallies[tally.id] = new Decimal(tally.start)
      for (const character of this.list('characters')) if (character.experience === tally.id) this.toStart(character)
    }
  }

  private toStart(character: Character): void {
    const curve = this.curve(character)
    const hero = this.heroes[character.id]!
    hero.level = character.startLevel ?? curve.firstLevel
    hero.xp = curve.counts === 'total' && hero.level > curve.firstLevel ? this.value(character, hero.level - 1) : new Decimal(0)
  }

  private pass(stop: string, profile: RecordOf['profile']): boolean {
    let changed = false
    const place = this.plan.places.find((p) => p.id === stop)!
    for (const item of place.contents) {
      if (item.source) changed = this.passSource(this.whole(item.source), profile) || changed
      if (item.gate) changed = this.passGate(item.gate, profile) || changed
    }
    for (const gate of this.plan.anywhere) {
      const neighbour = this.list('passages').some((p) => (p.from === stop && p.to === gate.guards?.place) || (p.twoWay && p.to === stop && p.from === gate.guards?.place))
      if (gate.guards?.place === undefined || neighbour) changed = this.passGate(gate, profile) || changed
    }
    return changed
  }

  private whole(source: RecordOf['source']): WholeSource {
    return wholeSource(source, (this.plan.patterns as RecordOf['pattern'][] | undefined)?.find((p) => p.id === source.pattern))
  }

  private passSource(source: WholeSource, profile: RecordOf['profile']): boolean {
    const share = source.role === 'main' ? profile.main : profile.side
    let changed = false
    while (share === 1 && (this.taken[source.id] ?? 0) < source.count && this.holds(source.requires) && this.canPay(source.takes)) {
      for (const cost of source.takes) this.change(cost.tally, new Decimal(-cost.amount))
      this.taken[source.id] = (this.taken[source.id] ?? 0) + 1
      this.give(source.yields)
      this.setCaps(source.caps)
      changed = true
    }
    return changed
  }

  private passGate(gate: Gate, profile: RecordOf['profile']): boolean {
    const buys = gate.role === 'main' || gate.costs.length === 0 || profile.buys === 'all'
    if (gate.stays === 'live' || this.opened.has(gate.id) || !buys || !this.holds(gate.requires) || !this.canPay(gate.costs)) return false
    for (const cost of gate.costs) this.change(cost.tally, new Decimal(-cost.amount))
    this.opened.add(gate.id)
    this.give(gate.yields)
    this.setCaps(gate.caps)
    return true
  }

  private canPay(costs: readonly Cost[]): boolean {
    return costs.every(({ tally }) => {
      const min = this.list('tallies').find((t) => t.id === tally)!.min
      const asked = costs.filter((cost) => cost.tally === tally).reduce((sum, cost) => sum.plus(cost.amount), new Decimal(0))
      return min === null || this.tallies[tally]!.minus(asked).gte(min)
    })
  }

  private change(id: string, by: Decimal): void {
    const { min, max } = this.list('tallies').find((t) => t.id === id)!
    let value = this.tallies[id]!.plus(by)
    if (min !== null && value.lt(min)) value = new Decimal(min)
    if (max !== null && value.gt(max)) value = new Decimal(max)
    this.tallies[id] = value
  }

  private give(yields: readonly Yield[]): void {
    for (const y of yields) this.settle(this.giveOne(y))
  }

  /** Gives one yield; what levels were entered by it, in the order of the plan. */
  private giveOne({ tally, min }: Yield): [Character, number][] {
    this.change(tally, new Decimal(min))
    if (this.list('tallies').find((t) => t.id === tally)!.kind !== 'experience') return []
    const listeners = this.list('characters').filter((c) => c.experience === tally && this.heroes[c.id]!.present)
    return listeners.flatMap((character) => this.gain(character, new Decimal(min)).map((level): [Character, number] => [character, level]))
  }

  private settle(queue: [Character, number][]): void {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const [character, level] = next
      for (const reward of character.rewards) {
        if (reward.level === level || reward.level === 'every') for (const y of reward.yields) queue.push(...this.giveOne(y))
      }
    }
  }

  private setCaps(caps: Gate['caps']): void {
    for (const cap of caps) {
      const meant = this.list('characters').filter((c) => cap.character === 'all' || cap.character === c.id)
      this.settle(meant.flatMap((character) => {
        const before = this.limit(character)
        this.heroes[character.id]!.cap = cap.level
        return this.limit(character) > before ? this.climb(character).map((level): [Character, number] => [character, level]) : []
      }))
    }
  }

  private curve(character: Character): RecordOf['curve'] {
    return this.list('curves').find((c) => c.id === character.curve)!
  }

  private value(character: Character, level: number): Decimal {
    const curve = this.curve(character)
    return curveValues(curve).values[level - curve.firstLevel]!
  }

  private limit(character: Character): number {
    return Math.min(this.curve(character).maxLevel, this.heroes[character.id]!.cap ?? Infinity)
  }

  private gain(character: Character, g: Decimal): number[] {
    const hero = this.heroes[character.id]!
    const { atTop } = this.curve(character)
    if (hero.level < this.limit(character)) {
      hero.xp = hero.xp.plus(g)
      return this.climb(character)
    }
    if (atTop === 'hold') hero.xp = Decimal.min(hero.xp.plus(g), Decimal.max(hero.xp, this.brim(character)))
    if (atTop === 'bank') hero.xp = hero.xp.plus(g)
    return []
  }

  private climb(character: Character): number[] {
    const hero = this.heroes[character.id]!
    const { levelUpAt, counts, remainder, levelsPerGain, atTop } = this.curve(character)
    const entered: number[] = []
    while (hero.level < this.limit(character)) {
      const value = this.value(character, hero.level)
      if (levelUpAt === 'reached' ? hero.xp.lt(value) : hero.xp.lte(value)) break
      hero.level += 1
      entered.push(hero.level)
      if (counts === 'step') hero.xp = remainder === 'carry' ? hero.xp.minus(value) : new Decimal(0)
      if (levelsPerGain === 'one') break
    }
    if (entered.length && hero.level >= this.limit(character)) {
      if (atTop === 'discard') hero.xp = counts === 'step' ? new Decimal(0) : this.value(character, hero.level - 1)
      if (atTop === 'hold') hero.xp = Decimal.min(hero.xp, this.brim(character))
    }
    return entered
  }

  private brim(character: Character): Decimal {
    const { maxLevel, counts } = this.curve(character)
    const { level } = this.heroes[character.id]!
    if (level < maxLevel) return this.value(character, level)
    return counts === 'step' ? new Decimal(0) : this.value(character, level - 1)
  }

  private holds(text: string): boolean {
    const node = parse(text)
    try {
      return node === null || Math.abs(this.read(node)) >= 1e-9
    } catch (error) {
      if (error instanceof LanguageError) return false
      throw error
    }
  }

  private read(node: Node): number {
    switch (node.type) {
      case 'number':
        return Number(node.text)
      case 'not':
        return Math.abs(this.read(node.of)) < 1e-9 ? 1 : 0
      case 'minus':
        return -this.read(node.of)
      case 'name':
        if (node.name === 'level') return this.levelOf(this.list('characters')[0]!.id)
        return node.name === 'cap' ? this.limit(this.list('characters')[0]!) : this.tallies[node.name]!.toNumber()
      case 'call':
        return this.call(node.name, node.args)
      case 'binary':
        return this.binary(node.op, node.left, node.right)
    }
  }

  private levelOf(id: string): number {
    return this.heroes[id]!.level
  }

  private call(name: string, args: Node[]): number {
    const word = args[0]?.type === 'name' ? args[0].name : ''
    const present = Object.values(this.heroes).filter((hero) => hero.present).map((hero) => hero.level)
    switch (name) {
      case 'level': return this.levelOf(word)
      case 'cap': return this.limit(this.list('characters').find((c) => c.id === word)!)
      case 'lowest': return present.length ? Math.min(...present) : 0
      case 'highest': return present.length ? Math.max(...present) : 0
      case 'average': return present.length ? present.reduce((a, b) => a + b, 0) / present.length : 0
      case 'open': return this.isOpen(word) ? 1 : 0
      case 'visited': return this.visited.has(word) ? 1 : 0
      case 'taken': return this.taken[word] ?? 0
      case 'min': return Math.min(...args.map((arg) => this.read(arg)))
      case 'max': return Math.max(...args.map((arg) => this.read(arg)))
      default: return args.slice(1).filter((arg) => Math.abs(this.read(arg)) >= 1e-9).length >= this.read(args[0]!) ? 1 : 0
    }
  }

  private isOpen(id: string): boolean {
    const gate = [...this.plan.places.flatMap((p) => p.contents.flatMap((item) => item.gate ?? [])), ...this.plan.anywhere].find((g) => g.id === id)!
    return gate.stays === 'live' ? this.holds(gate.requires) : this.opened.has(id)
  }

  private binary(op: string, leftNode: Node, rightNode: Node): number {
    const left = this.read(leftNode)
    const truth = (holds: boolean) => (holds ? 1 : 0)
    if (op === 'and') return truth(left !== 0 && this.read(rightNode) !== 0)
    if (op === 'or') return truth(left !== 0 || this.read(rightNode) !== 0)
    const right = this.read(rightNode)
    const same = Math.abs(left - right) < 1e-9 * Math.max(1, Math.abs(left), Math.abs(right))
    switch (op) {
      case '>=': return truth(same || left > right)
      case '>': return truth(!same && left > right)
      case '<=': return truth(same || left < right)
      case '<': return truth(!same && left < right)
      case '==': return truth(same)
      case '!=': return truth(!same)
      case '+': return left + right
      case '-': return left - right
      case '*': return left * right
      case '/': return left / right
      case '^': return left ** right
      default: return left - right * Math.floor(left / right)
    }
  }
}
