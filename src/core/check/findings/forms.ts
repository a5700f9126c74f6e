import { labelOf } from '../../plan/label-of.ts'
import { inOrder } from '../../plan/records.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

/** form-gap, form-overlap: levels that no form or two forms cover, and forms beyond the top. */
export const forms: FindingRule = ({ records }) =>
  inOrder(records, 'character').flatMap((character): Finding[] => {
    const curve = inOrder(records, 'curve').find((row) => row.id === character.curve)
    if (!curve || character.forms.length === 0) return []
    const levels = Array.from({ length: curve.maxLevel - curve.firstLevel + 1 }, (_, i) => curve.firstLevel + i)
    const covering = (level: number) => character.forms.filter((form) => form.from <= level && level <= form.to)
    const gaps = levels.filter((level) => covering(level).length === 0)
    const double = levels.find((level) => covering(level).length > 1)
    const beyond = character.forms.find((form) => form.to > curve.maxLevel)
    return [
      ...(gaps.length ? [finding('form-gap', 'fault', 'character', character.id, `${labelOf(character)} has no form at level ${stretchesText(gaps)}.`)] : []),
      ...(double === undefined ? [] : [finding('form-overlap', 'fault', 'character', character.id, `${labelOf(character)} has ${covering(double).map(labelOf).join(' and ')} both at level ${double}.`)]),
      ...(beyond ? [finding('form-gap', 'fault', 'character', character.id, `${labelOf(beyond)} of ${labelOf(character)} goes to level ${beyond.to}, beyond the top, ${curve.maxLevel}.`)] : []),
    ]
  })

/** Numbers that rise, in words: `5`, `5, 8 to 10`. */
function stretchesText(numbers: readonly number[]): string {
  const stretches: [number, number][] = []
  for (const n of numbers) {
    const last = stretches.at(-1)
    if (last?.[1] === n - 1) last[1] = n
    else stretches.push([n, n])
  }
  return stretches.map(([from, to]) => (from === to ? `${from}` : `${from} to ${to}`)).join(', ')
}
