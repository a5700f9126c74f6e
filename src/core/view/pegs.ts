import { constantValue } from '../language/evaluate.ts'
import { allNodes, isComparison, textOf, type Node } from '../language/parse.ts'
import { parseOrNull } from '../language/requirement.ts'
import { mirrored } from '../language/operators.ts'
import type { RecordOf } from '../plan/kinds.ts'
import type { LaneId } from './lanes.ts'

/** A threshold of a gate in a lane. */
export interface Peg {
  lane: LaneId
  at: number
  /** Which of the gate's comparisons (its costs come after those of the requirement). */
  index: number
  op: string
  text: string
  /** Where the number stands in the requirement, so that it can be changed by hand; null for a cost. */
  span: { from: number; to: number } | null
}

type Asking = Pick<RecordOf['gate'], 'requires' | 'costs'>
const known = new WeakMap<Asking, { leader: string | null; pegs: readonly Peg[] }>()

/** The thresholds of a gate that stand in a lane: a level or a tally against a number. */
export function pegsOf(gate: Asking, leader: string | null): readonly Peg[] {
  const before = known.get(gate)
  if (before?.leader === leader) return before.pegs
  const pegs = foundPegs(gate, leader)
  known.set(gate, { leader, pegs })
  return pegs
}

function foundPegs(gate: Asking, leader: string | null): Peg[] {
  const node = parseOrNull(gate.requires)
  const comparisons = node ? allNodes(node).filter(isComparison).sort((a, b) => a.from - b.from) : []
  const asked = comparisons.flatMap((comparison, index): Peg[] => {
    const [side, number, op] = constantValue(comparison.right) !== null
      ? [comparison.left, comparison.right, comparison.op]
      : [comparison.right, comparison.left, mirrored[comparison.op as keyof typeof mirrored]]
    const lane = laneOf(side, leader)
    const at = constantValue(number)
    return lane === null || at === null ? [] : [{ lane, at, index, op, text: textOf(comparison, gate.requires), span: { from: number.from, to: number.to } }]
  })
  const paid = gate.costs.map(({ tally, amount }, i): Peg => ({ lane: `tally ${tally}`, at: amount, index: comparisons.length + i, op: '>=', text: `${amount} ${tally}`, span: null }))
  return [...asked, ...paid]
}

function laneOf(side: Node, leader: string | null): LaneId | null {
  if (side.type === 'name') {
    if (side.name === 'level') return leader === null ? null : `level ${leader}`
    return side.name === 'cap' ? null : `tally ${side.name}`
  }
  const arg = side.type === 'call' && side.name === 'level' ? side.args[0] : undefined
  return arg?.type === 'name' ? `level ${arg.name}` : null
}
