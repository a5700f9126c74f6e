/**
 * A plain reading of docs/model.md 1 to 6, step by step and without a thought for speed: numbers are decimals, names are looked up
 * each time. What the compiled engine does is held against it.
 */
import { Decimal } from '../../language/arithmetic.ts'
import { parse, type Node } from '../../language/parse.ts'
import type { PlanFile } from '../../plan/file.ts'
import type { RecordOf } from '../../plan/kinds.ts'
import type { WholeSource } from '../../plan/source.ts'
import type { Cost, Yield } from '../../plan/yield.ts'
import { binaryOf, isTrue, orElse } from './arithmetic.ts'
import { charactersOf, curveOf, gatesOf, inPlan, startLevelOf, valueAt, type Character, type Gate } from './in-plan.ts'
import type { Fall } from './ways.ts'

interface Hero {
  level: number
  xp: Decimal
  cap: number | null
  present: boolean
}

export interface Held {
  tallies: Record<string, number>
  levels: Record<string, number>
}

/** One player in the midst of a game. */
export class Player {
  private readonly tallies: Record<string, Decimal> = {}
  private readonly heroes: Record<string, Hero> = {}
  private readonly opened = new Set<string>()
  private readonly visited = new Set<string>()
  private readonly taken: Record<string, number> = {}

  constructor(
    readonly plan: PlanFile,
    private readonly fall: Fall,
  ) {
    for (const tally of plan.tallies as RecordOf['tally'][]) this.tallies[tally.id] = new Decimal(tally.start)
    for (const character of this.characters) {
      this.heroes[character.id] = { level: 0, xp: new Decimal(0), cap: character.cap, present: character.joins === null }
      this.toStart(character)
    }
  }

  private get characters(): Character[] {
    return charactersOf(this.plan)
  }

  private tally(id: string): RecordOf['tally'] {
    return inPlan(this.plan, 'tally', id)
  }

  /** Another player in the same state. */
  copy(): Player {
    const copy = new Player(this.plan, this.fall)
    Object.assign(copy.tallies, this.tallies)
    Object.assign(copy.taken, this.taken)
    for (const [id, hero] of Object.entries(this.heroes)) copy.heroes[id] = { ...hero }
    for (const id of this.opened) copy.opened.add(id)
    for (const id of this.visited) copy.visited.add(id)
    return copy
  }

  /** All that this player has, as a text that tells states apart. */
  get state(): string {
    return JSON.stringify([this.tallies, this.heroes, this.taken, [...this.opened], [...this.visited]])
  }

  get held(): Held {
    const levels = Object.entries(this.heroes).map(([id, hero]): [string, number] => [id, hero.level])
    return { tallies: Object.fromEntries(Object.entries(this.tallies).map(([id, value]) => [id, value.toNumber()])), levels: Object.fromEntries(levels) }
  }

  standingOf(character: string): { level: number; xp: number } {
    const { level, xp } = this.heroes[character]!
    return { level, xp: xp.toNumber() }
  }

  hasVisited(place: string): boolean {
    return this.visited.has(place)
  }

  enter(place: string, isRetried: boolean): void {
    this.visited.add(place)
    this.reset((tally) => tally.resets === 'place')
    for (const character of this.characters) if (character.joins === place) this.heroes[character.id]!.present = true
    if (isRetried) this.reset((tally) => tally.resets === 'retry')
  }

  private reset(which: (tally: RecordOf['tally']) => boolean): void {
    for (const tally of (this.plan.tallies as RecordOf['tally'][]).filter(which)) {
      this.tallies[tally.id] = new Decimal(tally.start)
      for (const character of this.characters) if (character.experience === tally.id) this.toStart(character)
    }
  }

  private toStart(character: Character): void {
    const curve = this.curve(character)
    const hero = this.heroes[character.id]!
    hero.level = startLevelOf(this.plan, character)
    hero.xp = curve.counts === 'total' && hero.level > curve.firstLevel ? this.value(character, hero.level - 1) : new Decimal(0)
  }

  canTake(source: WholeSource): boolean {
    return this.holds(source.requires) && this.canPay(source.takes)
  }

  /** A unit of a source; `without`: of which tallies nothing comes of it. */
  take(source: WholeSource, without: (tally: RecordOf['tally']) => boolean = () => false): void {
    for (const cost of source.takes) this.change(cost.tally, new Decimal(-cost.amount))
    this.taken[source.id] = this.unitsOf(source.id) + 1
    this.give(source.yields.filter(({ tally }) => !without(this.tally(tally))))
    this.setCaps(source.caps)
  }

  unitsOf(source: string): number {
    return this.taken[source] ?? 0
  }

  /** Whether a gate is open: a live one while it holds. */
  isOpen(gate: Gate): boolean {
    return gate.stays === 'live' ? this.holds(gate.requires) : this.opened.has(gate.id)
  }

  /** Whether the player has what a gate asks, wherever that is. */
  hasWhatItAsks(gate: Gate): boolean {
    return this.holds(gate.requires) && this.canPay(gate.costs)
  }

  open(gate: Gate): void {
    for (const cost of gate.costs) this.change(cost.tally, new Decimal(-cost.amount))
    this.opened.add(gate.id)
    this.give(gate.yields)
    this.setCaps(gate.caps)
  }

  canPay(costs: readonly Cost[]): boolean {
    return costs.every(({ tally }) => {
      const { min } = this.tally(tally)
      const asked = costs.filter((cost) => cost.tally === tally).reduce((sum, cost) => sum.plus(cost.amount), new Decimal(0))
      return min === null || this.tallies[tally]!.minus(asked).gte(min)
    })
  }

  private change(id: string, by: Decimal): void {
    const { min, max } = this.tally(id)
    let value = this.tallies[id]!.plus(by)
    if (min !== null && value.lt(min)) value = new Decimal(min)
    if (max !== null && value.gt(max)) value = new Decimal(max)
    this.tallies[id] = value
  }

  private give(yields: readonly Yield[]): void {
    for (const y of yields) this.settle(this.giveOne(y))
  }

  /** Gives one yield; what levels were entered by it, in the order of the plan. */
  private giveOne({ tally, min, max }: Yield): [Character, number][] {
    const amount = new Decimal(min === max ? min : this.fall.amount(min, max))
    this.change(tally, amount)
    if (this.tally(tally).kind !== 'experience') return []
    const listeners = this.characters.filter((c) => c.experience === tally && this.heroes[c.id]!.present)
    return listeners.flatMap((character) => this.gain(character, amount).map((level): [Character, number] => [character, level]))
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
      const meant = this.characters.filter((c) => cap.character === 'all' || cap.character === c.id)
      this.settle(meant.flatMap((character) => {
        const before = this.limit(character)
        this.heroes[character.id]!.cap = cap.level
        return this.limit(character) > before ? this.climb(character).map((level): [Character, number] => [character, level]) : []
      }))
    }
  }

  private curve(character: Character): RecordOf['curve'] {
    return curveOf(this.plan, character)
  }

  private value(character: Character, level: number): Decimal {
    return valueAt(this.plan, character, level)
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

  holds(text: string): boolean {
    return orElse(() => {
      const node = parse(text)
      return node === null || isTrue(this.read(node))
    }, false)
  }

  /** What a part of a requirement amounts to; NaN where it fails. */
  valueOf(node: Node): number {
    return orElse(() => this.read(node), Number.NaN)
  }

  amountOf(tally: string): number {
    return this.tallies[tally]!.toNumber()
  }

  private read(node: Node): number {
    switch (node.type) {
      case 'number':
        return Number(node.text)
      case 'not':
        return isTrue(this.read(node.of)) ? 0 : 1
      case 'minus':
        return -this.read(node.of)
      case 'name':
        if (node.name === 'level') return this.levelOf(this.characters[0]!.id)
        return node.name === 'cap' ? this.limit(this.characters[0]!) : this.tallies[node.name]!.toNumber()
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
      case 'cap': return this.limit(this.characters.find((c) => c.id === word)!)
      case 'lowest': return present.length ? Math.min(...present) : 0
      case 'highest': return present.length ? Math.max(...present) : 0
      case 'average': return present.length ? present.reduce((a, b) => a + b, 0) / present.length : 0
      case 'open': return this.isOpen(gatesOf(this.plan).find(({ id }) => id === word)!) ? 1 : 0
      case 'visited': return this.visited.has(word) ? 1 : 0
      case 'taken': return this.taken[word] ?? 0
      case 'min': return Math.min(...args.map((arg) => this.read(arg)))
      case 'max': return Math.max(...args.map((arg) => this.read(arg)))
      default: return args.slice(1).filter((arg) => isTrue(this.read(arg))).length >= this.read(args[0]!) ? 1 : 0
    }
  }

  private binary(op: string, left: Node, right: Node): number {
    const first = this.read(left)
    if (op === 'and') return isTrue(first) && isTrue(this.read(right)) ? 1 : 0
    if (op === 'or') return isTrue(first) || isTrue(this.read(right)) ? 1 : 0
    return binaryOf(op, first, this.read(right))
  }
}
