import type { Column, Marks } from '../../language/columns.ts'
import type { Game, GameCost, GameGate, GameItem, GameProfile, GameRoute } from '../../rules/game.ts'
import { atMost, shareOf, unitsDrawn, type Streams } from '../chance.ts'
import { isBought } from '../route/bought.ts'
import { passOver, type Itinerary } from '../route/itinerary.ts'
import { dueWhenMet, type Schedule } from '../route/schedule.ts'
import type { Flock } from './flock.ts'
import { FlockGains } from './flock-gains.ts'
import type { FlockReader } from './flock-reader.ts'
import type { FlockWriter } from './flock-writer.ts'

export interface FlockWalkOptions {
  game: Game
  route: GameRoute
  profile: GameProfile
  /** What is walked of the plan. */
  itinerary: Itinerary
  schedule: Schedule
  flock: Flock
  reader: FlockReader
  writer: FlockWriter
  /** How chance falls, for each of the flock. */
  streams: Streams
}

/** What is noted of a gate once it has been met: 1 for whom it has been. */
interface GateNotes {
  due: Marks
  ready: Marks
  opened: Marks
  couldBuy: Marks
  /** For how many its due moment has come, and for how many it has opened. */
  dueFor: number
  openFor: number
}

/**
 * Plays a route as one kind of player does, drawn, for a whole flock at once (docs/model.md 8): the same walks as walkInSteps
 * takes one after another, item by item for all of them.
 */
export class FlockWalk {
  private stop = 0
  private readonly size: number
  /** By source: units wanted in the whole route, once drawn, and whether they are. */
  private readonly wanted: (Int32Array | undefined)[]
  private readonly drawn: Uint8Array
  /** By source: 1 where all have taken what they want. */
  private readonly done: Uint8Array
  /** By source: 1 where it is asked how many units were taken. */
  private readonly counted: Uint8Array
  private readonly notes: (GateNotes | undefined)[]
  private readonly met: Uint8Array
  private dueOnLeaving: number[][] = []
  /** Gates met for which the ready stop of some is still to be found. */
  private waiting: number[] = []
  private readonly tables = new Map<string, Float64Array>()
  /** Columns that are worked in, each by one function at a time. */
  private readonly units: Column
  private readonly movers: Marks
  private readonly dueNow: Marks
  private readonly able: Marks
  private readonly gains: FlockGains
  private readonly on = { source: (s: number) => this.passSource(s), gate: (g: number) => this.passGate(g) }

  constructor(private readonly o: FlockWalkOptions) {
    this.size = o.flock.size
    this.wanted = new Array<Int32Array | undefined>(o.game.sources.length)
    this.drawn = new Uint8Array(o.game.sources.length)
    this.done = new Uint8Array(o.game.sources.length)
    this.counted = new Uint8Array(o.game.sources.length)
    for (const s of o.itinerary.counted) this.counted[s] = 1
    this.notes = new Array<GateNotes | undefined>(o.game.gates.length)
    this.met = new Uint8Array(o.game.gates.length)
    this.units = new Float64Array(this.size)
    this.movers = this.marks()
    this.dueNow = this.marks()
    this.able = this.marks()
    this.gains = new FlockGains(o)
  }

  private marks(): Marks {
    return new Uint8Array(this.size)
  }

  /** Walks from the start to the end of the route; `streams` are at the beginning of those to be drawn from. */
  run(): void {
    const { route, flock, profile, itinerary } = this.o
    this.begin()
    for (this.stop = 0; this.stop < itinerary.stops; this.stop++) {
      const place = route.stops[this.stop]!
      flock.enter(place, profile.retries > 0)
      while (this.pass(place));
      this.leave()
    }
  }

  private begin(): void {
    this.o.flock.begin()
    for (const flags of [this.drawn, this.done, this.met]) flags.fill(0)
    this.dueOnLeaving = this.o.route.stops.map(() => [])
    this.waiting = []
  }

  /** Whether the pass changed anything for anyone. For whom it did not, another changes nothing either. */
  private pass(place: number): boolean {
    return passOver(this.o.game, this.o.itinerary, place, this.on)
  }

  private passSource(s: number): boolean {
    if (this.done[s]) return false
    if (this.o.game.columns.atOnce[s]) return this.takeAtOnce(s)
    const wanted = (this.wanted[s] ??= new Int32Array(this.size))
    if (!this.drawn[s]) this.drawWanted(s, wanted)
    this.drawn[s] = 1
    return this.takeOneByOne(s, wanted)
  }

  /** How many units of a source each wants, drawn once in the whole route. */
  private drawWanted(s: number, wanted: Column | Int32Array): void {
    const { game, profile, streams } = this.o
    const share = shareOf(game, profile, s)
    const count = game.columns.count[s]!
    if (share === 0 || share === 1) wanted.fill(count * share)
    else {
      const table = this.tableOf(count, share)
      for (let i = 0; i < wanted.length; i++) wanted[i] = unitsDrawn(table, streams.next(i))
    }
  }

  private tableOf(count: number, share: number): Float64Array {
    const name = `${count} ${share}`
    if (!this.tables.has(name)) this.tables.set(name, atMost(count, share))
    return this.tables.get(name)!
  }

  private takeAtOnce(s: number): boolean {
    this.done[s] = 1
    this.drawWanted(s, this.units)
    if (this.counted[s]) this.o.flock.taken(s).set(this.units)
    this.gains.give(this.o.game.sources[s]!.yields, this.units)
    return true
  }

  /** Units that ask or cost something: one for each who can and wants to, as long as there are any. */
  private takeOneByOne(s: number, wanted: Int32Array): boolean {
    const source = this.o.game.sources[s]!
    const taken = this.o.flock.taken(s)
    let changed = false
    while (this.whoTakes(s, wanted, taken)) {
      for (let i = 0; i < taken.length; i++) taken[i]! += this.movers[i]!
      this.move(source, source.takes)
      changed = true
    }
    return changed
  }

  /** Makes those who take a unit more the movers; false where nobody does. */
  private whoTakes(s: number, wanted: Int32Array, taken: Int32Array): boolean {
    const { game, reader } = this.o
    const source = game.sources[s]!
    const [who, able] = [this.movers, this.able]
    let left = 0
    for (let i = 0; i < who.length; i++) {
      who[i] = taken[i]! < wanted[i]! ? 1 : 0
      left += who[i]!
    }
    if (left === 0) {
      this.done[s] = 1
      return false
    }
    if (source.requires.node || source.error) {
      reader.markWhoMay(source, able)
      for (let i = 0; i < who.length; i++) who[i]! &= able[i]!
    }
    reader.keepWhoCanPay(source.takes, who)
    return who.includes(1)
  }

  /** A unit taken, or a gate opened, by all movers: costs are paid, yields and caps given. */
  private move(item: GameItem, costs: readonly GameCost[]): void {
    const who = this.movers
    for (const cost of costs) this.gains.pay(cost, who)
    if (item.yields.length > 0) {
      this.units.set(who)
      this.gains.give(item.yields, this.units)
    }
    for (const cap of item.caps) this.gains.setCap(cap, who)
  }

  /** Notes what is to be noted when a gate is come to, and opens it for all who can and will. */
  private passGate(g: number): boolean {
    const { game, profile } = this.o
    const gate = game.gates[g]!
    const notes = this.met[g] ? this.notes[g]! : this.meet(g, gate)
    if (gate.due === 'meeting') this.noteDue(g, notes, null)
    if (notes.openFor === this.size) return false
    if (!this.whoCanOpen(g, gate, this.movers)) return false
    if (gate.live) this.noteOpened(g, notes)
    else if (!isBought(gate, profile)) this.mark(notes.couldBuy)
    else {
      this.noteDue(g, notes, this.movers)
      this.noteOpened(g, notes)
      this.mark(this.o.flock.opened(g))
      this.move(gate, gate.costs)
      return true
    }
    return false
  }

  private mark(column: Marks): void {
    for (let i = 0; i < column.length; i++) if (this.movers[i]) column[i] = 1
  }

  private meet(g: number, gate: GameGate): GateNotes {
    const { due, late } = dueWhenMet(this.o.schedule, this.o.route, gate, g, this.stop)
    const notes = (this.notes[g] ??= { due: this.marks(), ready: this.marks(), opened: this.marks(), couldBuy: this.marks(), openFor: 0, dueFor: 0 })
    for (const column of [notes.ready, notes.opened, notes.couldBuy]) column.fill(0)
    // What is late was noted as missed when it was needed.
    notes.due.fill(Number(late))
    notes.dueFor = late ? this.size : 0
    notes.openFor = 0
    this.met[g] = 1
    if (this.o.itinerary.targets.gates[g]) this.waiting.push(g)
    this.o.writer.met(g, this.stop, due)
    if (!late && gate.due !== 'meeting') this.dueOnLeaving[due]!.push(g)
    return notes
  }

  /** Notes the due moment, once, of those marked in `opening`, for whom it opens now; null: of all, as it stands. */
  private noteDue(g: number, notes: GateNotes, opening: Marks | null): void {
    if (notes.dueFor === this.size) return
    const { due } = notes
    const who = this.dueNow
    let n = 0
    for (let i = 0; i < who.length; i++) {
      const isNow = due[i] === 0 && (opening === null || opening[i] === 1)
      who[i] = Number(isNow)
      if (!isNow) continue
      due[i] = 1
      n++
    }
    notes.dueFor += n
    if (n) this.o.writer.due(g, who, opening ? who : this.whoHasWhatItAsks(g, notes.couldBuy))
  }

  private noteOpened(g: number, notes: GateNotes): void {
    let n = 0
    for (let i = 0; i < this.size; i++) {
      if (!this.movers[i] || notes.opened[i]) continue
      notes.opened[i] = 1
      n++
    }
    notes.openFor += n
    this.o.writer.opened(g, n, this.stop)
  }

  /** Marks for whom a gate can be opened now, or a live one is passed; false where for nobody. */
  private whoCanOpen(g: number, gate: GameGate, who: Marks): boolean {
    const { flock, reader } = this.o
    reader.markWhoMay(gate, who)
    if (gate.live) return who.includes(1)
    reader.keepWhoCanPay(gate.costs, who)
    const opened = flock.opened(g)
    let any = false
    for (let i = 0; i < who.length; i++) {
      if (opened[i]) who[i] = 0
      any ||= who[i] === 1
    }
    return any
  }

  /** For whom a gate is open, or could be opened now, or could have been `before`. */
  private whoHasWhatItAsks(g: number, before: Marks | null): Marks {
    const gate = this.o.game.gates[g]!
    const who = this.able
    this.whoCanOpen(g, gate, who)
    if (gate.live) return who
    const opened = this.o.flock.opened(g)
    for (let i = 0; i < who.length; i++) if (opened[i] || before?.[i]) who[i] = 1
    return who
  }

  private leave(): void {
    const { itinerary, schedule, writer } = this.o
    for (const g of this.dueOnLeaving[this.stop]!) this.noteDue(g, this.notes[g]!, null)
    for (const g of schedule.neededOnLeaving[this.stop]!) {
      // One that was not met by now is due all the same, and counts as not open.
      if (itinerary.gates[g] && !this.met[g]) writer.due(g, this.dueNow.fill(1), this.able.fill(0))
    }
    this.waiting = this.waiting.filter((g) => this.noteReady(g, this.notes[g]!))
    writer.left(this.stop)
  }

  /** Notes who is ready now for a gate met; whether some go on waiting. */
  private noteReady(g: number, { ready }: GateNotes): boolean {
    const who = this.whoHasWhatItAsks(g, null)
    let [now, wait] = [0, false]
    for (let i = 0; i < who.length; i++) {
      if (ready[i]) continue
      if (who[i]) {
        ready[i] = 1
        now++
      } else wait = true
    }
    if (now) this.o.writer.ready(g, now, this.stop)
    return wait
  }
}
