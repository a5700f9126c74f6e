/** A plain reading of reach (docs/checks.md 2): wave by wave all is looked at again and again until nothing changes. */
import { constantValue } from '../../language/evaluate.ts'
import { parse, type Node } from '../../language/parse.ts'
import { direction } from '../../language/rising.ts'
import type { PlanFile } from '../../plan/file.ts'
import type { RecordOf } from '../../plan/kinds.ts'
import type { WholeSource } from '../../plan/source.ts'
import { binaryOf, isTrue, orElse } from './arithmetic.ts'
import { areJoined, charactersOf, curveOf, gatesOf, inPlan, startLevelOf, valueAt, whole, type Character, type Gate, type Passage } from './in-plan.ts'

/** By id the wave in which something is first had. */
export interface PlainWaves {
  places: Record<string, number>
  sources: Record<string, number>
  gates: Record<string, number>
}

const endless = 1e12

export function plainReach(plan: PlanFile, repeats: boolean): PlainWaves {
  return new PlainReach(plan, repeats).run()
}

class PlainReach {
  private readonly waves: PlainWaves = { places: {}, sources: {}, gates: {} }
  private wave = 0
  /** Gained of each tally for every place, and in each place for itself. */
  private readonly gained: Record<string, number> = {}
  private readonly gainedIn: Record<string, Record<string, number>> = {}
  private readonly caps: Record<string, number> = {}
  private readonly rewarded: Record<string, number> = {}
  /** Live gates that hold somewhere, though not where they are passed. */
  private readonly held = new Set<string>()

  constructor(
    private readonly plan: PlanFile,
    private readonly repeats: boolean,
  ) {
    for (const character of this.characters) {
      this.caps[character.id] = character.cap ?? Infinity
      this.rewarded[character.id] = startLevelOf(plan, character)
    }
  }

  run(): PlainWaves {
    this.waves.places[this.plan.start] = 0
    this.takeAll()
    for (;;) {
      const opening = gatesOf(this.plan).filter((gate) => !(gate.id in this.waves.gates) && this.canOpen(gate))
      if (opening.length === 0) {
        const held = gatesOf(this.plan).filter((gate) => gate.stays === 'live' && !(gate.id in this.waves.gates) && !this.held.has(gate.id) && Object.keys(this.waves.places).some((place) => this.holds(gate.requires, place)))
        if (held.length === 0) return this.waves
        for (const { id } of held) this.held.add(id)
        this.takeAll()
        continue
      }
      this.wave++
      for (const gate of opening) this.waves.gates[gate.id] = this.wave
      for (const gate of opening) {
        this.give(gate.yields, 1, this.homeOf(gate))
        this.setCaps(gate.caps)
      }
      this.takeAll()
    }
  }

  private get characters(): Character[] {
    return charactersOf(this.plan)
  }

  private tally(id: string): RecordOf['tally'] {
    return inPlan(this.plan, 'tally', id)
  }

  /** The place where a gate stands; null: in none. */
  private homeOf(gate: Gate): string | null {
    return this.plan.places.find(({ contents }) => contents.some((item) => item.gate === gate))?.id ?? null
  }

  private takeAll(): void {
    for (let changed = true; changed; ) {
      changed = this.goOn()
      for (const { id: place, contents } of this.plan.places) {
        for (const { source } of contents) if (source && place in this.waves.places) changed = this.takeFrom(whole(this.plan, source), place) || changed
      }
      for (const character of this.characters) changed = this.giveRewards(character) || changed
    }
  }

  private goOn(): boolean {
    let changed = false
    for (const passage of this.plan.passages as Passage[]) {
      for (const [from, to] of [[passage.from, passage.to], ...(passage.twoWay ? [[passage.to, passage.from]] : [])] as [string, string][]) {
        if (!(from in this.waves.places) || to in this.waves.places) continue
        const onWay = gatesOf(this.plan).filter(({ guards }) => guards && (guards.passage === passage.id || guards.place === to))
        if (!onWay.every((gate) => gate.id in this.waves.gates && (gate.stays === 'open' || this.holds(gate.requires, from)))) continue
        this.waves.places[to] = this.wave
        changed = true
      }
    }
    return changed
  }

  private takeFrom(source: WholeSource, place: string): boolean {
    if (source.id in this.waves.sources || !this.holds(source.requires, place) || !this.canPay(source.takes, place)) return false
    this.waves.sources[source.id] = this.wave
    this.give(source.yields, this.repeats && source.respawns ? endless : source.count, place)
    this.setCaps(source.caps)
    return true
  }

  private give(yields: Gate['yields'], times: number, place: string | null): void {
    for (const { tally, max } of yields) {
      if (max <= 0) continue
      const to = this.tally(tally).resets === 'place' && place !== null ? (this.gainedIn[place] ??= {}) : this.gained
      to[tally] = (to[tally] ?? 0) + max * times
    }
  }

  private setCaps(caps: Gate['caps']): void {
    for (const { character, level } of caps) {
      for (const { id } of this.characters) if (character === 'all' || character === id) this.caps[id] = Math.max(this.caps[id]!, level)
    }
  }

  private giveRewards(character: Character): boolean {
    const isLost = this.tally(character.experience).resets === 'place'
    const highest = Math.max(...Object.keys(this.waves.places).map((place) => this.level(character, place)))
    const before = this.rewarded[character.id]!
    for (let level = before + 1; level <= highest; level++) {
      for (const reward of character.rewards) if (reward.level === 'every' || reward.level === level) this.give(reward.yields, isLost ? endless : 1, null)
    }
    this.rewarded[character.id] = Math.max(before, highest)
    return highest > before
  }

  private gainedOf(tally: string, place: string): number {
    return (this.gained[tally] ?? 0) + (this.gainedIn[place]?.[tally] ?? 0)
  }

  private amount(id: string, place: string): number {
    const { start, min, max } = this.tally(id)
    return Math.min(Math.max(start + this.gainedOf(id, place), min ?? -Infinity), max ?? Infinity)
  }

  private limit(character: Character): number {
    return Math.min(curveOf(this.plan, character).maxLevel, this.caps[character.id]!)
  }

  private isPresent({ joins }: Character): boolean {
    return joins === null || joins in this.waves.places
  }

  private level(character: Character, place: string): number {
    const curve = curveOf(this.plan, character)
    const valueOf = (level: number) => valueAt(this.plan, character, level).toNumber()
    let level = startLevelOf(this.plan, character)
    if (!this.isPresent(character)) return level
    let xp = this.gainedOf(character.experience, place) + (curve.counts === 'total' && level > curve.firstLevel ? valueOf(level - 1) : 0)
    while (level < this.limit(character) && (curve.levelUpAt === 'reached' ? xp >= valueOf(level) : xp > valueOf(level))) {
      if (curve.counts === 'step') xp -= valueOf(level)
      level++
    }
    return level
  }

  private canPay(costs: Gate['costs'], place: string): boolean {
    return costs.every(({ tally }) => {
      const asked = costs.filter((cost) => cost.tally === tally).reduce((sum, { amount }) => sum + amount, 0)
      return this.amount(tally, place) - asked >= (this.tally(tally).min ?? -Infinity)
    })
  }

  private canOpen(gate: Gate): boolean {
    return this.placesFor(gate).some((place) => this.holds(gate.requires, place) && this.canPay(gate.costs, place))
  }

  /** Reached places in which a gate can be opened, or a live one be asked. */
  private placesFor(gate: Gate): string[] {
    const reached = Object.keys(this.waves.places)
    const into = (place: string) => reached.filter((from) => areJoined(this.plan, from, place))
    const home = this.homeOf(gate)
    if (gate.stays === 'live' && gate.guards?.passage !== undefined) {
      const { from, to, twoWay } = inPlan(this.plan, 'passage', gate.guards.passage)
      return reached.filter((place) => place === from || (twoWay && place === to))
    }
    if (gate.stays === 'live') return gate.guards?.place === undefined ? reached : into(gate.guards.place)
    if (home !== null) return reached.filter((place) => place === home)
    return gate.guards?.place === undefined ? reached : into(gate.guards.place)
  }

  private holds(text: string, place: string): boolean {
    const node = parse(text)
    return node === null || this.isKind(node, place)
  }

  /** Part by part: a rising one is asked, any other holds. */
  private isKind(node: Node, place: string): boolean {
    if (node.type === 'binary' && node.op === 'and') return this.isKind(node.left, place) && this.isKind(node.right, place)
    if (node.type === 'binary' && node.op === 'or') return this.isKind(node.left, place) || this.isKind(node.right, place)
    if (node.type === 'call' && node.name === 'at_least' && constantValue(node.args[0]!) !== null) return node.args.slice(1).filter((part) => this.isKind(part, place)).length >= constantValue(node.args[0]!)!
    if (!['rising', 'constant'].includes(direction(node, false))) return true
    return orElse(() => isTrue(this.read(node, place)), false)
  }

  private read(node: Node, place: string): number {
    switch (node.type) {
      case 'number':
        return Number(node.text)
      case 'not':
        return isTrue(this.read(node.of, place)) ? 0 : 1
      case 'minus':
        return -this.read(node.of, place)
      case 'name':
        if (node.name === 'level') return this.level(this.characters[0]!, place)
        return node.name === 'cap' ? this.limit(this.characters[0]!) : this.amount(node.name, place)
      case 'call':
        return this.call(node.name, node.args, place)
      case 'binary':
        return binaryOf(node.op, this.read(node.left, place), this.read(node.right, place))
    }
  }

  private call(name: string, args: Node[], place: string): number {
    const word = args[0]?.type === 'name' ? args[0].name : ''
    const character = this.characters.find(({ id }) => id === word)
    const sure = this.characters.filter(({ joins }) => joins === null).map((one) => this.level(one, place))
    const late = this.characters.filter((one) => one.joins !== null && this.isPresent(one)).map((one) => this.level(one, place))
    const mean = (levels: number[]) => (levels.length ? levels.reduce((sum, level) => sum + level, 0) / levels.length : 0)
    const values = () => args.map((arg) => this.read(arg, place))
    switch (name) {
      case 'level': return this.level(character!, place)
      case 'cap': return this.limit(character!)
      case 'open': return word in this.waves.gates || this.held.has(word) ? 1 : 0
      case 'visited': return word in this.waves.places ? 1 : 0
      case 'taken': return this.unitsOf(word)
      case 'highest': return Math.max(0, ...sure, ...late)
      // Of those who join, whoever may or may not have joined: the best that some choice of them gives.
      case 'lowest': return Math.max(...choices(late).map((some) => ([...sure, ...some].length ? Math.min(...sure, ...some) : 0)))
      case 'average': return Math.max(...choices(late).map((some) => mean([...sure, ...some])))
      case 'min': return Math.min(...values())
      case 'max': return Math.max(...values())
      default: return values().slice(1).filter(isTrue).length >= values()[0]! ? 1 : 0
    }
  }

  private unitsOf(id: string): number {
    const source = this.plan.places.flatMap(({ contents }) => contents.flatMap((item) => item.source ?? [])).find((one) => one.id === id)!
    const { respawns, count } = whole(this.plan, source)
    return id in this.waves.sources ? (this.repeats && respawns ? endless : count) : 0
  }
}

function choices<T>(list: readonly T[]): T[][] {
  return list.reduce<T[][]>((all, one) => [...all, ...all.map((some) => [...some, one])], [[]])
}
