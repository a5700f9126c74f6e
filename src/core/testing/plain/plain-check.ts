/**
 * A plain reading of the route check (docs/checks.md 1): a route is walked in every way in which chance can fall, and what is said
 * of each gate is counted over these walks. What the check does is held against it.
 */
import { parse, type Node } from '../../language/parse.ts'
import type { PlanFile } from '../../plan/file.ts'
import { furtherUnits, type Further } from './further.ts'
import { gatesOf, inPlan, type Gate } from './in-plan.ts'
import { comparisonsIn, walk, type Comparison, type GateNotes, type WalkNotes } from './walk.ts'
import { everyWay, middleFall } from './ways.ts'

/** A quantity and how likely it is to be each of its values. */
export class Spread {
  private readonly sorted: [value: number, p: number][]

  constructor(values: readonly [value: number, p: number][]) {
    this.sorted = [...values].sort(([a], [b]) => a - b)
  }

  /** The smallest x with P(X ≤ x) ≥ q; sums that differ in their last digits alone count as the same. */
  quantile(q: number): number {
    let sum = 0
    for (const [value, p] of this.sorted) {
      sum += p
      if (sum >= q - 1e-9) return value
    }
    return this.max
  }

  get min(): number {
    return this.sorted[0]![0]
  }

  get max(): number {
    return this.sorted.at(-1)![0]
  }
}

export interface PlainComparison {
  has: Spread
  need: number
  holds: number
  slack: number | null
}

export interface PlainGate {
  gate: string
  /** Null where it was not found out whether further units open it. */
  verdict: 'clear' | 'depends' | 'short' | 'sealed' | 'off_route' | null
  p: number
  met: number | null
  due: number | null
  opened: number | null
  ready: number | null
  comparisons: PlainComparison[]
  /** Where it is short. */
  debt: Further['debt'] | null
}

export interface PlainResult {
  stops: { tallies: Record<string, Spread>; levels: Record<string, Spread> }[]
  gates: PlainGate[]
}

type Ways = [WalkNotes, number][]

/** Checks a route for one kind of player; null where chance can fall in more than `most` ways. */
export function plainCheck(plan: PlanFile, route: string, profile: string, most: number): PlainResult | null {
  const ways = everyWay(most, (fall) => walk(plan, route, profile, fall))
  if (!ways) return null
  const middle = walk(plan, route, profile, middleFall, true)
  const { stops } = inPlan(plan, 'route', route)
  return { stops: stops.map((_, i) => stopOf(ways, i)), gates: gatesOf(plan).map((gate) => gateOf(plan, gate, ways, middle.gates[gate.id]!, stops)) }
}

function stopOf(ways: Ways, stop: number): PlainResult['stops'][number] {
  const spreads = (kind: 'tallies' | 'levels') => {
    const ids = Object.keys(ways[0]![0].stops[stop]![kind])
    return Object.fromEntries(ids.map((id) => [id, new Spread(ways.map(([{ stops }, p]) => [stops[stop]![kind][id]!, p]))]))
  }
  return { tallies: spreads('tallies'), levels: spreads('levels') }
}

function gateOf(plan: PlanFile, gate: Gate, ways: Ways, middle: GateNotes, stops: readonly string[]): PlainGate {
  const notes = ways.map(([{ gates }, p]): [GateNotes, number] => [gates[gate.id]!, p])
  const [{ met, due }] = notes[0]!
  const p = notes.reduce((sum, [{ success }, q]) => (success ? sum + q : sum), 0)
  const median = (of: (note: GateNotes) => number | null) => {
    const stop = new Spread(notes.map(([note, q]) => [of(note) ?? Infinity, q])).quantile(0.5)
    return stop === Infinity ? null : stop
  }
  const further = due !== null && p === 0 && met !== null && met <= due ? furtherUnits(middle.then!, gate, stops[due]!) : null
  const short = further && (further.opens === null ? null : further.opens ? 'short' : 'sealed')
  const whenClosed = further ? short : 'sealed'
  return {
    gate: gate.id,
    verdict: due === null ? 'off_route' : p > 1 - 1e-9 ? 'clear' : p > 0 ? 'depends' : whenClosed,
    p, met, due,
    opened: median(({ opened }) => opened),
    ready: median(({ ready }) => ready),
    comparisons: due === null ? [] : [...comparisonsIn(parse(gate.requires)), ...gate.costs].map((asked, k) => comparisonOf(plan, gate, asked, notes.map(([note, q]) => [note.comparisons[k]!, q]))),
    debt: further?.opens ? further.debt : null,
  }
}

function comparisonOf(plan: PlanFile, gate: Gate, asked: Comparison | Gate['costs'][number], found: [GateNotes['comparisons'][number], number][]): PlainComparison {
  const holds = found.reduce((sum, [one, p]) => (one.holds ? sum + p : sum), 0)
  const spread = (side: 'left' | 'right') => new Spread(found.map(([one, p]) => [one[side], p]))
  const [left, right] = [spread('left'), spread('right')]
  if ('tally' in asked) {
    const { min } = inPlan(plan, 'tally', asked.tally)
    const all = gate.costs.filter(({ tally }) => tally === asked.tally).reduce((sum, { amount }) => sum + amount, 0)
    return { has: left, need: asked.amount, holds, slack: holds > 1 - 1e-9 && min !== null ? left.min - min - all : null }
  }
  const isTurned = isConstant(asked.left) && !isConstant(asked.right)
  const [has, need] = isTurned ? [right, left] : [left, right]
  const isSure = holds > 1 - 1e-9 && (isConstant(asked.left) || isConstant(asked.right))
  return { has, need: need.quantile(0.5), holds, slack: isSure ? slackOf(asked.op, isTurned, has, need.min) : null }
}

/** By how much the constant can be moved against the player; it is undefined here for comparisons of which the rules do not say it. */
function slackOf(op: Comparison['op'], isTurned: boolean, has: Spread, need: number): number | null {
  if (op === '==' || op === '!=') return null
  const isAtLeast = (op === '>=' || op === '>') !== isTurned
  return isAtLeast ? has.min - need : need - has.max
}

/** Whether it names nothing of the plan. */
function isConstant(node: Node): boolean {
  switch (node.type) {
    case 'number':
      return true
    case 'name':
      return false
    case 'minus':
    case 'not':
      return isConstant(node.of)
    case 'call':
      return ['min', 'max', 'at_least'].includes(node.name) && node.args.every(isConstant)
    case 'binary':
      return isConstant(node.left) && isConstant(node.right)
  }
}
