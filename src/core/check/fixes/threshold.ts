import { setFields } from '../../change/edits.ts'
import { mirrored } from '../../language/operators.ts'
import { labelOf } from '../../plan/label-of.ts'
import type { Cost } from '../../plan/yield.ts'
import { fromUnits } from '../../rules/compile.ts'
import type { GameGate } from '../../rules/game.ts'
import type { GateResult, Quantiles } from '../result.ts'
import { squash, type Diff } from '../../change/diff.ts'
import type { Records } from '../../plan/records.ts'
import { gateResult } from '../route/route-check.ts'
import type { Proposal } from './fix.ts'
import { planWith } from './plan-as.ts'
import type { Trial } from './trial.ts'

/** Lowering one threshold can show another that was hidden behind it; so often at most. */
const mostRounds = 4

/** (a) The thresholds: for what fails the largest at which it holds for every player. */
export function* thresholdFix(trial: Trial): Generator<Proposal> {
  let plan = trial.plan
  const steps: Diff[] = []
  for (let round = 0; round < mostRounds; round++) {
    const { records, compiled: { game } } = plan
    const [route, profile, g] = trial.parts(game)
    const step = lowered(records, trial.keys.gate, game.gates[g]!, gateResult(game, route, profile, g))
    if (!step) return
    steps.push(step)
    plan = planWith(plan, step)
    const gate = plan.records.gate.get(trial.keys.gate)!
    const before = trial.records.gate.get(trial.keys.gate)!
    const diff = squash(steps, `lower what ${labelOf(gate)} asks for`)
    if (!trial.mends(diff)) continue
    const parts = [gate.requires === before.requires ? [] : [`ask for ${gate.requires || 'nothing'} instead of ${before.requires}`], costsText(before.costs, gate.costs)]
    yield { kind: 'threshold', says: parts.flat().join(', '), diff }
    return
  }
}

function costsText(before: readonly Cost[], after: readonly Cost[]): string[] {
  return before.flatMap((cost, i) => (after[i]!.amount === cost.amount ? [] : [`cost ${after[i]!.amount} ${cost.tally} instead of ${cost.amount}`]))
}

function lowered(records: Records, key: string, gate: GameGate, result: GateResult): Diff | null {
  const row = records.gate.get(key)!
  const { comparisons } = gate.requires
  let requires = row.requires
  // From the last to the first, so that columns stay right.
  for (let i = comparisons.length - 1; i >= 0; i--) {
    const { constant, op, leftNode, rightNode } = comparisons[i]!
    const { has, holds, need } = result.comparisons[i]!
    if (constant === null || !has || (holds === 1 && result.comparisons[i]!.slack !== null)) continue
    const number = surely(constant === 'left' ? mirrored[op] : op, has)
    const node = constant === 'left' ? leftNode : rightNode
    if (number === null || number === need) continue
    requires = requires.slice(0, node.from) + numberFor(number) + requires.slice(node.to)
  }
  const costs = row.costs.map((cost, i): Cost => {
    const { has, slack } = result.comparisons[comparisons.length + i]!
    return !has || slack !== null ? cost : { ...cost, amount: Math.max(0, Math.min(cost.amount, fromUnits(Math.floor(has.min * 10_000)))) }
  })
  const paysLess = costs.some((cost, i) => cost.amount !== row.costs[i]!.amount)
  if (requires === row.requires && !paysLess) return null
  const diff = setFields(records, 'gate', key, { requires, ...(paysLess && { costs: costs.filter((cost) => cost.amount > 0) }) }, `lower what ${labelOf(row)} asks for`)
  return paysLess && costs.some((cost) => cost.amount === 0) ? null : diff
}

/** The constant furthest on the asking side with which the comparison holds for everything that a player may have. */
function surely(op: string, has: Quantiles): number | null {
  const step = Number.isInteger(has.min) && Number.isInteger(has.max) ? 1 : 0.0001
  const rounded = (n: number) => Math.round(n * 10_000) / 10_000
  switch (op) {
    case '>=':
      return has.min
    case '>':
      return rounded(has.min - step)
    case '<=':
      return has.max
    case '<':
      return rounded(has.max + step)
    default:
      return null
  }
}

function numberFor(n: number): string {
  return n < 0 ? `(${n})` : String(n)
}
