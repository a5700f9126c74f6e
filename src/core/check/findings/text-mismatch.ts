import { allNodes } from '../../language/parse.ts'
import { labelOf } from '../../plan/label-of.ts'
import { remembered } from '../../plan/remembered.ts'
import type { Game } from '../../rules/game.ts'
import { fromUnits } from '../../rules/compile.ts'
import { plainNumbers } from '../../view/numbers.ts'
import type { Finding } from '../result.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const known = new Set(['need', 'have', 'short'])

/** text-mismatch: a number in the text that the gate does not ask for, or a word in braces that means nothing. */
export const textMismatch: FindingRule = ({ game }) => {
  const named = namesByNumber(game)
  return game.gates.flatMap((gate): Finding[] => {
    const words = [...gate.lockedText.matchAll(/\{([^{}]*)\}/g)].map((match) => match[1]!)
    const wrong = words.find((word) => !known.has(word))
    if (wrong !== undefined) return [finding('text-mismatch', 'fault', 'gate', gate.id, `The text of ${labelOf(gate)} has {${wrong}}, which means nothing; {need}, {have} and {short} do.`)]
    const plain = plainNumbers(gate.lockedText.replace(/\{[^{}]*\}/g, ''))
    if (!/\d/.test(plain)) return []
    const asked = new Set([
      ...(gate.requires.node ? allNodes(gate.requires.node).flatMap((node) => (node.type === 'number' ? [Number(node.text)] : [])) : []),
      ...gate.costs.map((cost) => fromUnits(cost.amount)),
    ])
    const strays = numbersIn(plain).filter((number) => !asked.has(Number(number)))
    const bare = withoutNames(plain, strays.flatMap((number) => named.get(number) ?? []))
    const stray = numbersIn(bare).map(Number).find((number) => !asked.has(number))
    if (stray === undefined) return []
    return [finding('text-mismatch', 'risk', 'gate', gate.id, `The text of ${labelOf(gate)} says ${stray}, and the gate asks for ${gate.requires.text || [...asked].join(', ') || 'nothing'}.`)]
  })
}

function numbersIn(text: string): string[] {
  return [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([number]) => number)
}

/** Names of places and gates by the numbers in them: those are no amounts. */
function namesByNumber(game: Game): Map<string, string[]> {
  const named = new Map<string, string[]>()
  for (const name of [...game.places.map(labelOf), ...game.gates.map(labelOf)]) {
    for (const number of numbersIn(name)) remembered(named, number, () => []).push(name)
  }
  return named
}

/** The longest first: Row 2 is found in Row 22. */
function withoutNames(text: string, names: readonly string[]): string {
  return [...names].sort((a, b) => b.length - a.length).reduce((left, name) => left.replaceAll(name, ''), text)
}
