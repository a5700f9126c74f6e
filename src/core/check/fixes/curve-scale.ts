import { setFields } from '../../change/edits.ts'
import type { CurveRule } from '../../plan/curve.ts'
import { labelOf } from '../../plan/label-of.ts'
import type { Row } from '../../plan/records.ts'
import { curveValues } from '../../rules/curve-values.ts'
import { mentions } from '../../language/names.ts'
import { parseOrNull } from '../../language/requirement.ts'
import { allNodes } from '../../language/parse.ts'
import type { Proposal } from './fix.ts'
import { leastThat, type Trial } from './trial.ts'

/** Thousandths by which a curve is scaled down, at most. */
const most = 990

/** (d) The curve: for each level that is asked for, the factor by which its curve has to be scaled, as near to 1 as will do. */
export function* curveFixes(trial: Trial): Generator<Proposal> {
  const [, , g] = trial.parts()
  const characters = new Set(trial.game.gates[g]!.requires.reads.characters)
  const ids = new Set([...characters].flatMap((c) => trial.game.characters[c]?.curve?.id ?? []))
  for (const curve of trial.records.curve.values()) {
    if (!ids.has(curve.id)) continue
    const scaledBy = (thousandths: number) => setFields(trial.records, 'curve', curve.key, { rule: scaled(curve, (1000 - thousandths) / 1000) }, `scale ${labelOf(curve)} by ${(1000 - thousandths) / 1000}`)
    const less = leastThat(most, (n) => trial.isHopeful(trial.changed(scaledBy(n))))
    if (less === null || !trial.mends(scaledBy(less))) continue
    yield { kind: 'curve', says: `scale ${labelOf(curve)} by ${(1000 - less) / 1000}`, diff: scaledBy(less) }
  }
}

function scaled(curve: Row<'curve'>, factor: number): CurveRule {
  const times = (n: number) => Math.round(n * factor * 10_000) / 10_000
  const { rule } = curve
  if (rule.kind === 'growth') return { ...rule, base: times(rule.base), add: times(rule.add) }
  if (rule.kind === 'table') return { ...rule, values: rule.values.map(times) }
  const node = parseOrNull(rule.text)
  const usesPrev = node !== null && allNodes(node).some((part) => part.type === 'name' && part.name === 'prev')
  // A value that is made from the one before it cannot be scaled in its text.
  if (usesPrev || node === null || mentions(node).length) return { kind: 'table', values: curveValues(curve).values.map((value) => times(value.toNumber())) }
  return { kind: 'formula', text: `(${rule.text.replace(/#.*$/gm, '').trim()}) * ${factor}` }
}
