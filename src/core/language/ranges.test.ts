import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../testing/runs.ts'
import { plainArithmetic } from './arithmetic.ts'
import { prepare } from './evaluate.ts'
import { LanguageError } from './language-error.ts'
import { parse, type Node } from './parse.ts'
import { prepareRange, truthOf, type Range } from './ranges.ts'

type Ranges = Record<string, Range>
type Values = Record<string, number>

const nameIn = (node: Node) => (node.type === 'name' ? node.name : '')
const rangeOf = (text: string, ranges: Ranges) => prepareRange<Ranges>(parse(text)!, (node) => (context) => context[nameIn(node)]!)(ranges)
const valueOf = (text: string, values: Values) => prepare<Values, number>(parse(text)!, plainArithmetic, (node) => (context) => context[nameIn(node)]!)(values)

const names = ['stamps', 'glass', 'renown']
const { text: anyText } = fc.letrec<{ text: string }>((tie) => ({
  text: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom(...names), fc.integer({ min: 0, max: 6 }).map(String),
    fc.tuple(tie('text'), fc.constantFrom('+', '-', '*', '/', '%', '^', '>=', '>', '<=', '<', '==', '!=', 'and', 'or'), tie('text')).map(([a, op, b]) => `(${a} ${op} ${b})`),
    tie('text').map((a) => `(-${a})`), tie('text').map((a) => `(not ${a})`),
    fc.tuple(fc.constantFrom('min', 'max'), tie('text'), tie('text')).map(([name, a, b]) => `${name}(${a}, ${b})`),
    fc.tuple(fc.integer({ min: 0, max: 3 }), tie('text'), tie('text')).map(([n, a, b]) => `at_least(${n}, ${a}, ${b})`),
  ),
}))
const anyHeld = fc.tuple(fc.integer({ min: -4, max: 6 }), fc.nat(5), fc.nat(5)).map(([low, width, at]) => ({ range: { low, high: low + width }, value: low + Math.min(at, width) }))

describe('ranges of values', () => {
  it('hold whatever comes of values within those of the names, and are sure only of what is', () => {
    let sure = 0
    fc.assert(fc.property(anyText, fc.tuple(anyHeld, anyHeld, anyHeld), (text, held) => {
      const range = rangeOf(text, Object.fromEntries(names.map((name, i) => [name, held[i]!.range])))
      if (range === null) return
      const value = valueOf(text, Object.fromEntries(names.map((name, i) => [name, held[i]!.value])))
      const hair = 1e-6 * Math.max(1, Math.abs(value))
      assert.isAtLeast(value, range.low - hair)
      assert.isAtMost(value, range.high + hair)
      const truth = truthOf(range)
      if (truth === 'maybe') return
      sure++
      assert.equal(truth === 'yes', !plainArithmetic.isZero(value))
    }), { numRuns: runs(2000) })
    assert.isAbove(sure, 500)
  })

  const stamps = { stamps: { low: 3, high: 7 }, glass: { low: 0, high: 2 } }
  const cases: [text: string, truth: ReturnType<typeof truthOf>][] = [
    ['stamps >= 3', 'yes'], ['stamps >= 4', 'maybe'], ['stamps >= 8', 'no'], ['stamps > 7', 'no'], ['stamps < 8 and glass <= 2', 'yes'],
    ['glass == 3', 'no'], ['glass != 3', 'yes'], ['not glass', 'maybe'], ['stamps', 'yes'], ['stamps - glass > 0', 'yes'],
    ['at_least(2, stamps >= 1, glass >= 0, glass > 5)', 'yes'], ['at_least(3, stamps >= 1, glass >= 1, glass > 5)', 'no'],
    ['stamps >= 9 and stamps / glass > 1', 'no'], ['stamps >= 2 or stamps / glass > 1', 'yes'], ['max(stamps, glass) >= 3', 'yes'], ['stamps >= 3 - 1e-12', 'yes'],
  ]
  for (const [text, truth] of cases) it(`know of "${text}": ${truth}`, () => assert.equal(truthOf(rangeOf(text, stamps)), truth))

  it('are unknown where a value may fail', () => {
    assert.isNull(rangeOf('stamps / glass', stamps))
    assert.isNull(rangeOf('stamps % 2', stamps))
    assert.throws(() => valueOf('stamps / glass', { stamps: 3, glass: 0 }), LanguageError)
  })
})
