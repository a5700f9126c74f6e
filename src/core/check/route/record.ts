import { fromUnits } from '../../rules/compile.ts'
import { mirrored } from '../../language/operators.ts'
import { askedOf } from '../../rules/engine.ts'
import type { Game, GameComparison, GameGate, GameRoute } from '../../rules/game.ts'
import { levelPosition } from '../../rules/level-position.ts'
import type { State } from '../../rules/state.ts'
import { Histogram } from '../histogram.ts'
import type { ComparisonResult, Quantiles } from '../result.ts'
import type { Branch } from './branch.ts'
import { constantOf, sidesHold, sidesOf } from './comparison.ts'
import type { Watcher } from './walk-route.ts'

/** A probability that is 0 or 1 but for rounding is taken for it. */
const hair = 1e-12

export function settled(p: number): number {
  return p < hair ? 0 : p > 1 - hair ? 1 : p
}

/** What a walk, or many, showed of one gate: distributions gathered branch by branch. */
export class GateRecord {
  met: number | null = null
  due: number | null = null
  success = 0
  readonly opened = new Histogram()
  readonly ready = new Histogram()
  openedWeight = 0
  readyWeight = 0
  readonly comparisons: ComparisonRecord[]

  constructor(game: Game, gate: GameGate) {
    const asked = gate.requires.comparisons.map((comparison) => new ComparisonRecord(requirementReader(comparison)))
    const paid = gate.costs.map((cost) => new ComparisonRecord(costReader(game, gate, cost.tally, cost.amount)))
    this.comparisons = [...asked, ...paid]
  }

  /** The median stop of a moment that may never come; null: never. `weight`: how often it came. */
  medianStop(stops: Histogram, weight: number): number | null {
    if (settled(weight) < 1) stops.add(Infinity, 1 - weight)
    const median = stops.median()
    return median === null || median === Infinity ? null : median
  }
}

interface Reading {
  has: number
  need: number
  holds: boolean
}

/** How a comparison, or a cost, is read from a state and made into a result. */
interface Reader {
  text: string
  /** The side that does not vary, or null. */
  constant: number | null
  read(state: State): Reading
  slack(has: Quantiles): number
}

function requirementReader(comparison: GameComparison): Reader {
  const { op, constant } = comparison
  return {
    text: comparison.text,
    constant: constant === null ? null : constantOf(comparison),
    read(state) {
      const sides = sidesOf(comparison, state)
      const [has, need] = constant === 'left' ? [sides.right, sides.left] : [sides.left, sides.right]
      return { has, need, holds: sidesHold(op, sides) }
    },
    slack: (has) => slackOf(constant === 'left' ? mirrored[op] : op, has, constantOf(comparison)),
  }
}

/** By how much the constant could move against the player with the comparison still certain. */
function slackOf(op: GameComparison['op'], has: Quantiles, need: number): number {
  switch (op) {
    case '>=':
    case '>':
      return has.min - need
    case '<=':
    case '<':
      return need - has.max
    case '!=':
      return Math.min(...[has.min - need, need - has.max].filter((room) => room > 0), Infinity)
    case '==':
      return 0
  }
}

function costReader(game: Game, gate: GameGate, tally: number, amount: number): Reader {
  const { id, min } = game.tallies[tally]!
  const floor = min === -Infinity ? null : fromUnits(min)
  const asked = askedOf(gate.costs, tally)
  return {
    text: `${id} >= ${fromUnits(amount)}`,
    constant: fromUnits(amount),
    read: (state) => ({
      has: fromUnits(state.tallies[tally]!),
      need: fromUnits(amount),
      holds: floor === null || state.tallies[tally]! - asked >= min,
    }),
    slack: (has) => has.min - (floor ?? -Infinity) - fromUnits(asked),
  }
}

class ComparisonRecord {
  private readonly has = new Histogram()
  private readonly need = new Histogram()
  private holds = 0

  constructor(private readonly reader: Reader) {}

  add(state: State, weight: number): void {
    const { has, need, holds } = this.reader.read(state)
    this.has.add(has, weight)
    if (this.reader.constant === null) this.need.add(need, weight)
    if (holds) this.holds += weight
  }

  result(): ComparisonResult {
    const has = this.has.quantiles()
    const need = this.reader.constant ?? this.need.median()
    const holds = settled(this.holds)
    const margin = has === null || need === null ? null : tidy(has.median - need)
    const certain = holds === 1 && has !== null && this.reader.constant !== null
    const slack = certain ? tidy(this.reader.slack(has)) : null
    return { text: this.reader.text, need, has, margin, holds, slack: slack !== null && Number.isFinite(slack) ? slack : null }
  }
}

/** Differences of amounts, without what binary fractions leave behind. */
export function tidy(n: number): number {
  return Math.round(n * 1e10) / 1e10
}

interface StopRecord {
  tallies: Histogram[]
  levels: Histogram[]
  positions: Histogram[]
}

/** Gathers a walk's gates and stops; many walks can be gathered in one, each with its share of the weight. */
export class RouteRecord implements Watcher {
  readonly gates: GateRecord[]
  readonly stops: StopRecord[]

  constructor(
    private readonly game: Game,
    route: GameRoute,
    private readonly share: number,
    neededAt: Int32Array,
  ) {
    this.gates = game.gates.map((gate) => new GateRecord(game, gate))
    this.gates.forEach((record, g) => (record.due = neededAt[g] === -1 ? null : neededAt[g]!))
    this.stops = route.stops.map(() => ({
      tallies: game.tallies.map(() => new Histogram()),
      levels: game.characters.map(() => new Histogram()),
      positions: game.characters.map(() => new Histogram()),
    }))
  }

  met(g: number, stop: number, due: number): void {
    this.gates[g]!.met = stop
    this.gates[g]!.due = due
  }

  due(branch: Branch, g: number, _moment: string, success: boolean): void {
    const record = this.gates[g]!
    const weight = branch.weight * this.share
    if (success) record.success += weight
    for (const comparison of record.comparisons) comparison.add(branch.state, weight)
  }

  opened(branch: Branch, g: number, stop: number): void {
    this.gates[g]!.opened.add(stop, branch.weight * this.share)
    this.gates[g]!.openedWeight += branch.weight * this.share
  }

  ready(branch: Branch, g: number, stop: number): void {
    this.gates[g]!.ready.add(stop, branch.weight * this.share)
    this.gates[g]!.readyWeight += branch.weight * this.share
  }

  left(branch: Branch, stop: number): void {
    const weight = branch.weight * this.share
    const record = this.stops[stop]!
    record.tallies.forEach((histogram, t) => histogram.add(fromUnits(branch.state.tallies[t]!), weight))
    record.levels.forEach((histogram, c) => histogram.add(branch.state.level[c]!, weight))
    record.positions.forEach((histogram, c) => histogram.add(levelPosition(this.game, branch.state, c), weight))
  }
}
