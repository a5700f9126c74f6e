/** How a route is played (docs/model.md 8), and what is to be known of each gate on it (docs/checks.md 1), by a plain reading. */
import { isComparison, parse, type Node } from '../../language/parse.ts'
import type { PlanFile } from '../../plan/file.ts'
import type { RecordOf } from '../../plan/kinds.ts'
import { areJoined, gatesOf, inPlan, joins, whole, type Gate, type Passage } from './in-plan.ts'
import { Player, type Held } from './player.ts'
import type { Fall } from './ways.ts'

type Route = RecordOf['route']
type Profile = RecordOf['profile']
export type Comparison = Node & { type: 'binary' }

export interface GateNotes {
  met: number | null
  /** The stop of the due moment; null where the route neither meets nor needs the gate. */
  due: number | null
  /** Whether it was open, or could be opened, when it was due. */
  success: boolean
  opened: number | null
  ready: number | null
  /** By comparison and cost: both sides, and whether it held, at the due moment or just before the gate opened. */
  comparisons: { left: number; right: number; holds: boolean }[]
  /** The player at the due moment, where these are kept. */
  then: Player | null
}

export interface WalkNotes {
  stops: Held[]
  gates: Record<string, GateNotes>
}

/** Plays a route as one kind of player does, with chance falling in one way. */
export function walk(plan: PlanFile, routeId: string, profileId: string, fall: Fall, keepsPlayers = false): WalkNotes {
  return new Walk(plan, inPlan(plan, 'route', routeId), inPlan(plan, 'profile', profileId), fall, keepsPlayers).run()
}

class Walk {
  private readonly player: Player
  private readonly notes: WalkNotes = { stops: [], gates: {} }
  private readonly neededAt: Record<string, number> = {}
  /** By source: units wanted in the whole route, drawn when it is first come to. */
  private readonly wanted: Record<string, number> = {}
  /** Gates that could have been bought at some pass. */
  private readonly couldBuy = new Set<string>()
  /** Gates whose due moment has been noted. */
  private readonly noted = new Set<string>()
  private stop = 0

  constructor(
    private readonly plan: PlanFile,
    private readonly route: Route,
    private readonly profile: Profile,
    private readonly fall: Fall,
    private readonly keepsPlayers: boolean,
  ) {
    this.player = new Player(plan, fall)
    route.stops.slice(1).forEach((next, i) => {
      const passage = (plan.passages as Passage[]).find((p) => joins(p, route.stops[i]!, next))
      for (const { id, guards } of gatesOf(plan)) if (guards && (guards.place === next || (passage && guards.passage === passage.id))) this.neededAt[id] ??= i
    })
    for (const gate of gatesOf(plan)) {
      const due = this.neededAt[gate.id] ?? null
      this.notes.gates[gate.id] = { met: null, due, success: false, opened: null, ready: null, comparisons: [], then: null }
    }
  }

  run(): WalkNotes {
    for (const [stop, place] of this.route.stops.entries()) {
      this.stop = stop
      this.player.enter(place, this.profile.retries > 0)
      while (this.pass(place));
      this.leave()
    }
    return this.notes
  }

  private pass(stop: string): boolean {
    let changed = false
    for (const { source, gate } of this.plan.places.find((p) => p.id === stop)!.contents) {
      if (source) changed = this.passSource(source) || changed
      if (gate) changed = this.passGate(gate) || changed
    }
    for (const gate of this.plan.anywhere) {
      const guarded = gate.guards?.place
      if (guarded === undefined || areJoined(this.plan, stop, guarded)) changed = this.passGate(gate) || changed
    }
    return changed
  }

  private passSource(given: RecordOf['source']): boolean {
    const source = whole(this.plan, given)
    this.wanted[source.id] ??= this.fall.units(source.count, source.role === 'main' ? this.profile.main : this.profile.side)
    let changed = false
    while (this.player.unitsOf(source.id) < this.wanted[source.id]! && this.player.canTake(source)) {
      this.player.take(source)
      changed = true
    }
    return changed
  }

  private passGate(gate: Gate): boolean {
    if (gate.stays === 'open' && this.player.isOpen(gate)) return false
    const notes = this.notes.gates[gate.id]!
    if (notes.met === null) this.meet(gate, notes)
    if (gate.due === 'meeting') this.noteDue(gate, notes)
    if (!this.player.hasWhatItAsks(gate)) return false
    if (gate.stays === 'live') notes.opened ??= this.stop
    else if (gate.role === 'side' && gate.costs.length > 0 && this.profile.buys !== 'all') this.couldBuy.add(gate.id)
    else {
      this.noteDue(gate, notes)
      notes.opened = this.stop
      this.player.open(gate)
      return true
    }
    return false
  }

  private meet(gate: Gate, notes: GateNotes): void {
    notes.met = this.stop
    const own = gate.due === 'route' ? this.route.stops.length - 1 : this.stop
    notes.due = Math.min(own, this.neededAt[gate.id] ?? Infinity)
  }

  /** What there is at the due moment, or just before the gate opens if that is earlier: the first time it is called. */
  private noteDue(gate: Gate, notes: GateNotes): void {
    if (this.noted.has(gate.id)) return
    this.noted.add(gate.id)
    const { player } = this
    if (this.keepsPlayers) notes.then = player.copy()
    notes.success = notes.met !== null && (player.isOpen(gate) || player.hasWhatItAsks(gate) || this.couldBuy.has(gate.id))
    const asked = comparisonsIn(parse(gate.requires)).map((comparison) => {
      const [left, right] = [player.valueOf(comparison.left), player.valueOf(comparison.right)]
      return { left, right, holds: player.valueOf(comparison) === 1 }
    })
    const paid = gate.costs.map((cost) => {
      const all = gate.costs.filter(({ tally }) => tally === cost.tally)
      return { left: player.amountOf(cost.tally), right: cost.amount, holds: player.canPay(all) }
    })
    notes.comparisons = [...asked, ...paid]
  }

  private leave(): void {
    for (const gate of gatesOf(this.plan)) {
      const notes = this.notes.gates[gate.id]!
      // The meeting is a moment of its own, unless the route needs the gate before.
      const isDue = notes.due === this.stop && (gate.due !== 'meeting' || notes.met === null)
      if (isDue) this.noteDue(gate, notes)
      if (notes.met !== null && (this.player.isOpen(gate) || this.player.hasWhatItAsks(gate))) notes.ready ??= this.stop
    }
    this.notes.stops.push(this.player.held)
  }
}

/** The comparisons of a requirement, in the order written. */
export function comparisonsIn(node: Node | null): Comparison[] {
  if (node === null) return []
  switch (node.type) {
    case 'number':
    case 'name':
      return []
    case 'minus':
    case 'not':
      return comparisonsIn(node.of)
    case 'call':
      return node.args.flatMap(comparisonsIn)
    case 'binary': {
      const { left, right } = node
      return isComparison(node) ? [node] : [left, right].flatMap(comparisonsIn)
    }
  }
}
