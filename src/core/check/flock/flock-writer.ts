import { markWhere, type Column, type Marks } from '../../language/columns.ts'
import { fromUnits } from '../../rules/compile.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameComparison, GameCost, GameGate } from '../../rules/game.ts'
import { positionOf } from '../../rules/level-position.ts'
import type { MarkedTargets } from '../route/itinerary.ts'
import { positionParts, type RouteRecord } from '../route/record.ts'
import { valueOf } from '../route/comparison.ts'
import type { Flock } from './flock.ts'
import type { FlockReader } from './flock-reader.ts'

/** What is read of one comparison, or cost, of all at once. */
interface ComparisonColumns {
  has: () => Column
  need: () => Column
  markHolding: (out: Marks, has: Column, need: Column) => void
}

/** Writes what a flock comes to into the record of a route, each of them with a share of the weight. */
export class FlockWriter {
  private readonly position: Column
  private readonly holding: Marks
  private readonly comparisons = new Map<number, ComparisonColumns[]>()

  constructor(
    private readonly game: Game,
    private readonly record: RouteRecord,
    private readonly targets: MarkedTargets,
    private readonly flock: Flock,
    private readonly reader: FlockReader,
    private readonly share: number,
  ) {
    this.position = new Float64Array(flock.size)
    this.holding = new Uint8Array(flock.size)
  }

  met(g: number, stop: number, due: number): void {
    if (this.targets.gates[g]) this.record.toNote(g).noteMet(stop, due)
  }

  /** A gate's due moment has come for those marked in `who`; `success`: 1 where it is open or could be opened. */
  due(g: number, who: Marks, success: Marks): void {
    if (!this.targets.gates[g]) return
    const record = this.record.toNote(g)
    let [succeed, fail] = [0, 0]
    for (let i = 0; i < who.length; i++) {
      if (!who[i]) continue
      if (success[i]) succeed++
      else fail++
    }
    record.success += succeed * this.share
    record.everOpen ||= succeed > 0
    record.everClosed ||= fail > 0
    this.comparisonsOf(g).forEach(({ has, need, markHolding }, k) => {
      const [left, right] = [has(), need()]
      markHolding(this.holding, left, right)
      record.comparisons[k]!.addColumn(left, right, this.holding, who, this.share)
    })
  }

  opened(g: number, who: number, stop: number): void {
    if (this.targets.gates[g] && who > 0) this.record.toNote(g).noteOpened(stop, who * this.share)
  }

  ready(g: number, who: number, stop: number): void {
    this.record.toNote(g).noteReady(stop, who * this.share)
  }

  left(stop: number): void {
    const { flock, targets, record, share } = this
    const { tallies, levels, positions } = record.stops[stop]!
    for (const t of targets.tallies) tallies.at(t).addColumn(this.reader.amounts(t)(), share)
    for (const c of targets.characters) {
      levels.at(c).addColumn(flock.level[c]!, share)
      positions.at(c).addColumn(this.positions(c), share)
    }
  }

  private positions(c: number): Column {
    const { flock, position: out } = this
    const [curve, level, xp] = [this.game.characters[c]!.curve, flock.level[c]!, flock.xp[c]!]
    for (let i = 0; i < out.length; i++) out[i] = Math.round(positionOf(curve, level[i]!, flock.limit(c, i), xp[i]!) * positionParts) / positionParts
    return out
  }

  private comparisonsOf(g: number): ComparisonColumns[] {
    const known = this.comparisons.get(g)
    if (known) return known
    const gate = this.game.gates[g]!
    const all = [...gate.requires.comparisons.map((comparison) => this.asked(gate, comparison)), ...gate.costs.map((cost) => this.paid(gate, cost))]
    this.comparisons.set(g, all)
    return all
  }

  private asked(gate: GameGate, comparison: GameComparison): ComparisonColumns {
    const side = (name: 'left' | 'right') => this.reader.side(comparison, name, gate, (state) => valueOf(comparison[name], state))
    const [left, right] = [side('left'), side('right')]
    const isTurned = comparison.constant === 'left'
    return {
      has: isTurned ? right : left,
      need: isTurned ? left : right,
      markHolding: (out, has, need) => markWhere(comparison.op, out, isTurned ? need : has, isTurned ? has : need),
    }
  }

  private paid(gate: GameGate, { tally, amount }: GameCost): ComparisonColumns {
    const [{ min }, asked] = [this.game.tallies[tally]!, askedOf(gate.costs, tally)]
    return {
      has: this.reader.amounts(tally),
      need: () => this.reader.constant(fromUnits(amount)),
      markHolding: (out) => {
        const has = this.flock.tallies[tally]!
        for (let i = 0; i < out.length; i++) out[i] = min === -Infinity || has[i]! - asked >= min ? 1 : 0
      },
    }
  }
}
