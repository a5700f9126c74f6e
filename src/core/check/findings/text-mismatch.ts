import { allNodes } from '../../language/parse.ts'
import { labelOf } from '../../plan/label-of.ts'
import { fromUnits } from '../../rules/compile.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const known = new Set(['need', 'have', 'short'])

/** text-mismatch: a number in the text that the gate does not ask for, or a word in braces that means nothing. */
export const textMismatch: FindingRule = ({ game }) => {
  // Numbers in names, such as Row 2, are no amounts.
  const names = [...game.places.map(labelOf), ...game.gates.map(labelOf)].filter((name) => /\d/.test(name))
  return game.gates.flatMap((gate): Finding[] => {
    const words = [...gate.lockedText.matchAll(/\{([^{}]*)\}/g)].map((match) => match[1]!)
    const wrong = words.find((word) => !known.has(word))
    if (wrong !== undefined) return [finding('text-mismatch', 'fault', 'gate', gate.id, `The text of ${labelOf(gate)} has {${wrong}}, which means nothing; {need}, {have} and {short} do.`)]
    const plain = gate.lockedText.replace(/\{[^{}]*\}/g, '')
    if (!/\d/.test(plain)) return []
    const asked = new Set([
      ...(gate.requires.node ? [...allNodes(gate.requires.node)].flatMap((node) => (node.type === 'number' ? [Number(node.text)] : [])) : []),
      ...gate.costs.map((cost) => fromUnits(cost.amount)),
    ])
    const bare = names.reduce((text, name) => text.replaceAll(name, ''), plain)
    const told = [...bare.matchAll(/\d+(?:\.\d+)?/g)].map((match) => Number(match[0]))
    const stray = told.find((number) => !asked.has(number))
    if (stray === undefined) return []
    return [finding('text-mismatch', 'risk', 'gate', gate.id, `The text of ${labelOf(gate)} says ${stray}, and the gate asks for ${gate.requires.text || [...asked].join(', ') || 'nothing'}.`)]
  })
}
