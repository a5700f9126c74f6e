import { fromUnits } from '../../rules/compile.ts'
import type { Game, GameCap, GameGate, GameProfile, GameRoute } from '../../rules/game.ts'
import { shareOf } from '../chance.ts'
import { isBought } from '../route/bought.ts'
import { isMilestone } from '../route/milestone.ts'
import { momentAt, passOver, type Itinerary } from '../route/itinerary.ts'
import { drawnPosition } from '../route/record-writer.ts'
import type { Targets } from '../route/portion.ts'
import type { RouteRecord } from '../route/record.ts'
import { dueWhenMet, type Schedule } from '../route/schedule.ts'
import { askedBy } from './asked.ts'
import { Bounds, type Coming } from './bounds.ts'
import { Changes, type Change } from './change.ts'
import { GateTeller } from './gate-teller.ts'
import { copiedNotes, isNoted, notesOf, type GateNotes } from './gate-notes.ts'
import { madeStrands } from './made-strands.ts'
import type { StrandMilestone, StrandPast } from './strand-milestone.ts'
import type { Strands } from './strands.ts'
import { SumStrand } from './sum-strand.ts'

export interface StrandWalkOptions {
  game: Game
  route: GameRoute
  profile: GameProfile
  schedule: Schedule
  itinerary: Itinerary
  record: RouteRecord
  /** Multiplications that may be made for each strand. */
  effort: number
  /** Of a walk before of a portion that holds all of this one, with the milestones that this one passes, too; null: there is none. Absent: none is to go on from this one either. */
  past?: StrandPast | null
  /** The first stop on which the edit bears that is followed, if one is. */
  edited?: number
}

/** What could not be told on strands, and the stop after which all of it could: walks are to be followed, or drawn, up to there. */
export interface Untold extends Targets {
  until: number
}

/** What came of a walk on strands. */
export interface ToldOnStrands {
  untold: Untold
  /** By gate it was walked for, the moment at which it opens for all at once; null: it opens for some, or perhaps. Those that nobody opens are absent. */
  openings: ReadonlyMap<number, number | null>
  /** What the next walk can go on from; null: nothing, or not all could be told. */
  past: StrandPast | null
}

/** How far a source or gate has come: not at all; to some, perhaps; to everybody who wants it. */
const fresh = 0
const possible = 1
const over = 2

/**
 * Walks a portion along a route once for all players of a kind. What nobody can be kept from happens to everybody at once, and then each
 * amount is a sum of independent parts, whose distribution is worked out. Results are exact, or are left untold. Yields each stop that
 * has been left.
 */
export function strandsInSteps(options: StrandWalkOptions): Generator<number, ToldOnStrands> {
  return new StrandWalk(options).steps()
}

class StrandWalk {
  private readonly on = { source: (s: number) => this.passSource(s), gate: (g: number) => this.passGate(g) }
  private stop = 0
  private passes = 0
  private readonly bounds: Bounds
  private readonly changes: Changes
  private readonly strands: Strands
  private readonly teller: GateTeller
  private readonly sources: Uint8Array
  private readonly gates: Uint8Array
  private readonly met = new Map<number, GateNotes>()
  /** Gates of which something is still to be noted. */
  private open: GateNotes[] = []
  /** By gate: the last stop at which it can be opened. */
  private readonly lastAt = new Map<number, number>()
  /** Gates that have not been met yet, and may be. */
  private toCome = 0
  /** The last stop on whose leaving a gate is needed that the route never comes to. */
  private readonly lastMissed: number
  private readonly openings = new Map<number, number | null>()
  private readonly milestones: StrandMilestone[] = []
  private readonly untold: Untold = { gates: new Set(), tallies: new Set(), characters: new Set(), until: -1 }

  constructor(private readonly o: StrandWalkOptions) {
    const { game, route, profile, itinerary, record } = o
    this.changes = new Changes(game, itinerary.matters)
    this.bounds = new Bounds({ game, profile, itinerary, changes: this.changes, rewarded: (changes) => this.addToStrands(changes, 1, 1) })
    this.strands = madeStrands(o, this.bounds, this.changes)
    this.teller = new GateTeller(game, record, this.bounds, this.strands)
    this.sources = new Uint8Array(game.sources.length)
    this.gates = new Uint8Array(game.gates.length)
    route.stops.forEach((place, stop) => {
      for (const item of itinerary.items[place]!) if (item < 0) this.lastAt.set(-1 - item, stop)
    })
    for (const g of itinerary.anywhere) this.lastAt.set(g, route.stops.length - 1)
    this.lastMissed = Math.max(-1, ...[...o.schedule.neededAt].filter((_, g) => itinerary.targets.gates[g] && !this.lastAt.has(g)))
    if (o.past) this.goOnFrom(o.past)
    this.toCome = [...this.lastAt.keys()].filter((g) => itinerary.targets.gates[g] && !this.met.has(g)).length
  }

  /** Stands as a walk before stood at the last milestone of it that this one passes, if there is one. */
  private goOnFrom({ milestones, met, openings }: StrandPast): void {
    const last = milestones.at(-1)
    if (!last || !this.strands.areAmong(last.strands)) return
    const { record, itinerary: { targets } } = this.o
    this.milestones.push(...milestones)
    this.stop = last.stop
    this.sources.set(last.sources)
    this.gates.set(last.gates)
    this.bounds.goOnFrom(last.bounds)
    const notesOf = copiedNotes(last.open.filter(({ g }) => targets.gates[g]))
    this.strands.goOnFrom(last.strands, notesOf)
    this.open = [...notesOf.values()]
    const gates = [...targets.gates.keys()].filter((g) => targets.gates[g])
    record.goOnFrom(last.stop, { ...targets, gates }, (g) => last.records[g])
    for (const g of gates) if ((last.records[g]?.met ?? null) !== null) this.met.set(g, met.get(g)!)
    for (const notes of this.open) this.met.set(notes.g, notes)
    for (const [g, moment] of openings) if (this.gates[g] !== fresh) this.openings.set(g, moment)
  }

  private milestone(): StrandMilestone {
    const { stop, bounds, strands, sources, gates, open, o: { record } } = this
    const notesOf = copiedNotes(open)
    return { stop, bounds: bounds.keep(), strands: strands.keep(notesOf), sources: sources.slice(), gates: gates.slice(), open: [...notesOf.values()], records: record.hold() }
  }

  *steps(): Generator<number, ToldOnStrands> {
    const { route, itinerary, edited = -1 } = this.o
    const { stops } = route
    const start = this.stop
    for (; this.stop < itinerary.stops && !this.isToldWhole(); this.stop++) {
      if (this.stop > start && isMilestone(this.stop, route, edited) && this.isFollowed) this.milestones.push(this.milestone())
      const place = stops[this.stop]!
      this.enter(place)
      for (this.passes = 0; this.pass(place); this.passes++);
      this.leave()
      yield this.stop
    }
    for (const notes of this.open) if (notes.isUntold) this.untold.until = stops.length - 1
    const { untold, openings, milestones, met } = this
    return { untold, openings, past: this.isFollowed ? { milestones, met, openings } : null }
  }

  /** Whether another walk can go on from this one: as long as all could be told. */
  private get isFollowed(): boolean {
    const { gates, tallies, characters } = this.untold
    return this.o.past !== undefined && gates.size + tallies.size + characters.size === 0 && !this.open.some((notes) => notes.isUntold)
  }

  /** Whether nothing is left to be told: it is asked of gates alone, and all of them are noted. */
  private isToldWhole(): boolean {
    const { tallies, characters } = this.o.itinerary.targets
    return this.toCome === 0 && this.stop > this.lastMissed && this.open.length === 0 && tallies.length + characters.length === 0
  }

  private enter(place: number): void {
    for (const t of this.bounds.enter(place)) {
      this.strands.sums.get(t)?.reset()
      for (const c of this.o.game.tallies[t]!.listeners) this.strands.chains.get(c)?.reset()
    }
    for (const [t, sum] of this.strands.rewarded) if (sum.isOver(this.bounds.low)) this.strands.rewarded.delete(t)
    this.noteChains()
  }

  /** Whether the pass changed anything for anybody, perhaps. */
  private pass(place: number): boolean {
    return passOver(this.o.game, this.o.itinerary, place, this.on)
  }

  private passSource(s: number): boolean {
    const before = this.sources[s]!
    if (before === over) return false
    const { game, profile } = this.o
    const source = game.sources[s]!
    const share = shareOf(game, profile, s)
    if (share === 0 || source.error) {
      this.sources[s] = over
      return false
    }
    const changes = this.changes.ofSource(s)
    if (source.requires.node === null && source.takes.length === 0) {
      this.take(s, changes, share, 'once')
      this.sources[s] = over
    } else this.takeIfCan(s, changes, share)
    if (this.sources[s] !== before) this.noteChains()
    return this.sources[s] !== before
  }

  /** Units that ask or cost something: they are counted in as soon as some can take them, and then it is seen whether all can. */
  private takeIfCan(s: number, changes: readonly Change[], share: number): void {
    const { bounds } = this
    const source = this.o.game.sources[s]!
    if (bounds.truth(source) === 'no' || bounds.canPay(source.takes) === 'no') return
    if (this.sources[s] === fresh) this.take(s, changes, share, 'may')
    this.loosenChains()
    const isForAll = bounds.truth(source) === 'yes' && bounds.canPayAll(source.takes, changes)
    if (isForAll) this.take(s, changes, share, 'done')
    this.sources[s] = isForAll ? over : possible
  }

  private take(s: number, changes: readonly Change[], share: number, coming: Coming): void {
    const { bounds } = this
    const { caps, count } = this.o.game.sources[s]!
    const units = { least: share < 1 ? 0 : count, most: count }
    bounds.change(changes, coming, units)
    if (coming !== 'done') bounds.high.taken[s] = units.most
    if (coming !== 'may') {
      bounds.low.taken[s] = units.least
      this.add(changes, count, share)
    }
    if (caps.length === 0) return
    // Who leaves out all units sets no cap: it is never set by all. Of several units each may set it anew.
    if (units.least > 0) this.setCaps(caps, coming)
    else if (coming !== 'done') this.setCaps(caps, 'may')
    if (count > 1) this.loseCapped(caps, changes)
  }

  private passGate(g: number): boolean {
    const { game, profile, itinerary } = this.o
    const gate = game.gates[g]!
    const notes = itinerary.targets.gates[g] ? (this.met.get(g) ?? this.meet(g, gate)) : null
    const before = this.gates[g]!
    if (before === over) return false
    const outcome = this.teller.outcome(g)
    if (notes) this.teller.come(notes, outcome, this.stop)
    if (gate.live || !isBought(gate, profile) || outcome === 'no') return false
    if (notes && before === fresh) this.openings.set(g, outcome === 'yes' ? momentAt(this.stop, this.passes) : null)
    if (outcome === 'yes') this.openGate(g, gate, before === fresh ? 'once' : 'done')
    else if (before === fresh) this.openGate(g, gate, 'may')
    this.gates[g] = outcome === 'yes' ? over : possible
    if (this.gates[g] !== before) this.noteChains()
    return this.gates[g] !== before
  }

  private openGate(g: number, { caps }: GameGate, coming: Coming): void {
    const { bounds } = this
    const changes = this.changes.ofGate(g)
    bounds.change(changes, coming)
    if (coming !== 'done') bounds.high.opened[g] = 1
    if (coming !== 'may') {
      bounds.low.opened[g] = 1
      this.add(changes)
    }
    this.setCaps(caps, coming)
  }

  /** Adds what has come to everybody to the strands. */
  private add(changes: readonly Change[], count = 1, share = 1): void {
    this.addToStrands(changes, count, share)
    for (const sum of this.strands.rewarded.values()) sum.add(changes, count, share)
  }

  private addToStrands(changes: readonly Change[], count: number, share: number): void {
    for (const change of changes) {
      this.strands.sums.get(change.tally)?.add(change, count, share)
      for (const c of this.o.game.tallies[change.tally]!.listeners) if (this.bounds.low.present[c]) this.strands.chains.get(c)?.add(change.yields, count, share)
    }
  }

  private setCaps(caps: readonly GameCap[], coming: Coming): void {
    this.bounds.setCaps(caps, coming)
    for (const [c, chain] of this.strands.chains) for (const { character, level } of caps) {
      if (coming !== 'may' && (character === null || character === c)) chain.setCap(level)
    }
  }

  /** Between units that set a cap and give XP the cap would have to be set. */
  private loseCapped(caps: readonly GameCap[], changes: readonly Change[]): void {
    for (const [c, chain] of this.strands.chains) {
      const isCapped = caps.some(({ character }) => character === null || character === c)
      if (isCapped && changes.some(({ tally }) => this.o.game.characters[c]!.tally === tally)) chain.isLost = true
    }
  }

  /** While units are being taken, levels are on their way. */
  private loosenChains(): void {
    for (const c of this.strands.chains.keys()) if (this.isUnderWay(c)) this.bounds.loosen(c)
  }

  private isUnderWay(c: number): boolean {
    return this.bounds.isPending(this.o.game.characters[c]!.tally) || this.bounds.isCapPending(c)
  }

  /** Of a level that depends on what came when nothing is known once something may have come to some and not to others. */
  private noteChains(): void {
    for (const [c, chain] of this.strands.chains) {
      if (this.isUnderWay(c)) chain.isLost = true
      if (chain.isLost) this.bounds.loosen(c)
      else this.bounds.setLevels(c, ...chain.levels())
    }
  }

  private meet(g: number, gate: GameGate): GateNotes {
    const { schedule, route, record, profile } = this.o
    const { due, late } = dueWhenMet(schedule, route, gate, g, this.stop)
    const notes = notesOf(g, gate, askedBy(this.o.game, gate), late ? null : due, isBought(gate, profile))
    // It may have been missed before, in a way that could not be told.
    notes.isUntold = this.untold.gates.has(g)
    this.met.set(g, notes)
    this.toCome -= 1
    this.open.push(notes)
    record.toNote(g).noteMet(this.stop, due)
    if (!late && gate.due === 'meeting') this.teller.due(notes, this.teller.outcome(g))
    return notes
  }

  private leave(): void {
    const last = this.o.route.stops.length - 1
    if (this.stop === last) for (const strand of this.strands.sums.values()) strand.takeUp((notes, since) => this.teller.dueAfter(notes, strand, since))
    for (const notes of this.open) this.leaveGate(notes)
    for (const notes of this.open) if (isNoted(notes)) this.teller.close(notes)
    this.open = this.open.filter((notes) => !isNoted(notes))
    for (const g of this.o.schedule.neededOnLeaving[this.stop]!) if (this.o.itinerary.targets.gates[g] && !this.met.has(g)) this.miss(g)
    const { tallies, characters } = this.o.itinerary.targets
    for (const t of tallies) if (!this.leaveTally(t)) this.leaveUntold(this.untold.tallies, t)
    for (const c of characters) if (!this.leaveCharacter(c)) this.leaveUntold(this.untold.characters, c)
    this.o.record.settle(this.stop, this.o.itinerary.targets)
  }

  private leaveGate(notes: GateNotes): void {
    const isDue = !notes.isDueTold && notes.due === this.stop
    if (isDue || !notes.isReady) {
      const outcome = this.teller.outcome(notes.g)
      if (isDue) this.teller.due(notes, outcome)
      this.teller.leave(notes, outcome, this.stop)
    }
    if (!notes.isPassed && this.lastAt.get(notes.g)! <= this.stop) this.teller.pass(notes, this.o.route.stops.length - 1)
    if (!notes.isUntold) return
    this.untold.gates.add(notes.g)
    if (isNoted(notes)) this.untold.until = Math.max(this.untold.until, this.stop)
  }

  /** A gate that was not met by now is due all the same. */
  private miss(g: number): void {
    const gate = this.o.game.gates[g]!
    const notes = notesOf(g, gate, askedBy(this.o.game, gate), null, true)
    this.teller.missed(notes)
    if (notes.isUntold) this.leaveUntold(this.untold.gates, g)
  }

  private leaveUntold(list: Set<number>, i: number): void {
    list.add(i)
    this.untold.until = Math.max(this.untold.until, this.stop)
  }

  /** Writes what a stop is left with of a tally; false where that is not known. */
  private leaveTally(t: number): boolean {
    const { low, high } = this.bounds
    const strand = this.strands.amountOf(t)
    if (!strand && !this.bounds.isSame(t)) return false
    const amounts = this.o.record.stops[this.stop]!.tallies.at(t)
    const read = () => fromUnits(low.tallies[t]!)
    if (strand instanceof SumStrand) amounts.settleAt(strand.quantilesOf(low, low.tallies[t]!, high.tallies[t]!, read))
    else if (strand) strand.each(low, this.bounds.endsOf(t), (weight) => amounts.add(read(), weight))
    else amounts.add(read(), 1)
    return true
  }

  private leaveCharacter(c: number): boolean {
    const { low, high } = this.bounds
    const strand = this.strands.levelOf(c)
    const { levels, positions } = this.o.record.stops[this.stop]!
    for (const [written, read] of [[levels.at(c), () => low.level[c]!], [positions.at(c), () => drawnPosition(this.o.game, low, c)]] as const) {
      if (this.bounds.isLevelSame(c)) written.add(read(), 1)
      else if (strand instanceof SumStrand) written.settleAt(strand.quantilesOf(low, low.tallies[strand.tally]!, high.tallies[strand.tally]!, read))
      else if (strand) written.settleAt(strand.quantilesOf(low, read))
      else return false
    }
    return true
  }
}
