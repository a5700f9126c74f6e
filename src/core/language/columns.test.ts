import { assert } from 'chai'
import fc from 'fast-check'
import { runs } from '../testing/runs.ts'
import { plainArithmetic } from './arithmetic.ts'
import { markWhere, prepareColumn, prepareMarks, Scratch, type ResolveColumn } from './columns.ts'
import { prepare } from './evaluate.ts'
import { operators, type Comparison } from './operators.ts'
import { parse } from './parse.ts'

const size = 4
const names = ['a', 'b', 'c']

/** The same text one by one, and for all at once; null where it is not evaluated at once. */
function both(text: string, columns: Record<string, number[]>): { one: number[]; all: number[] | null; marks: number[] | null } {
  const node = parse(text)!
  const value = prepare<number, number>(node, plainArithmetic, (named) => (i) => columns[(named as { name: string }).name]![i]!)
  const resolve: ResolveColumn = (named) => () => Float64Array.from(columns[(named as { name: string }).name]!)
  const column = prepareColumn(node, { resolve, scratch: new Scratch(size) })
  const [marks, mark] = [new Uint8Array(size), prepareMarks(node, { resolve, scratch: new Scratch(size) })]
  mark?.(marks)
  return { one: Array.from({ length: size }, (_, i) => value(i)), all: column ? [...column()] : null, marks: mark ? [...marks] : null }
}

function compared(op: Comparison, a: number[], b: number[]): number[] {
  const marks = new Uint8Array(a.length)
  markWhere(op, marks, Float64Array.from(a), Float64Array.from(b))
  return [...marks]
}

const amount = fc.oneof(fc.integer({ min: -3, max: 6 }), fc.double({ min: -5, max: 5, noNaN: true }))
const anyColumns = fc.record(Object.fromEntries(names.map((name) => [name, fc.array(amount, { minLength: size, maxLength: size })])))
const atom = fc.constantFrom(...names, '2', '0.5', '0')
const { tree } = fc.letrec<{ tree: string }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 4 },
    atom,
    fc.tuple(tie('tree'), fc.constantFrom('>=', '>', '<=', '<', '==', '!=', '+', '-', 'and', 'or'), tie('tree')).map(([x, op, y]) => `(${x}) ${op} (${y})`),
    fc.tuple(fc.constantFrom('2', '-3'), atom).map(([x, y]) => `(${x}) * ${y}`),
    fc.tuple(fc.constantFrom('min', 'max', 'at_least'), tie('tree'), tie('tree'), tie('tree')).map(([name, x, y, z]) => `${name}(${x}, ${y}, ${z})`),
    tie('tree').map((x) => `-(${x})`),
    tie('tree').map((x) => `(not (${x}))`),
  ),
}))

describe('a text for many at once', () => {
  it('has the values that it has one by one', () => {
    fc.assert(fc.property(tree, anyColumns, (text, columns) => {
      const { one, all, marks } = both(text, columns)
      assert.isNotNull(all)
      all!.forEach((value, i) => assert.closeTo(value, one[i]!, 1e-12, text))
      assert.deepEqual(marks, one.map((value) => (plainArithmetic.isZero(value) ? 0 : 1)), text)
    }), { numRuns: runs(300) })
  })

  it('is left to be evaluated one by one where it can fail', () => {
    for (const text of ['a / b >= 1', 'a % 2 == 0', 'a ^ 2 >= 4', 'a * b >= 4', '1000000000000 * a > 1', '2 * (2 * a) > 1']) assert.isNull(both(text, { a: [1, 2, 3, 4], b: [1, 2, 3, 4] }).all, text)
    assert.isNull(prepareColumn(parse('a >= 1')!, { resolve: () => null, scratch: new Scratch(size) }))
  })

  it('compares as the table of operators does, and no number with anything', () => {
    fc.assert(fc.property(fc.constantFrom('>=', '>', '<=', '<', '==', '!=' as const), fc.array(amount, { minLength: size, maxLength: size }), fc.array(amount, { minLength: size, maxLength: size }), (op, a, b) => {
      assert.deepEqual(compared(op as '>=', a, b), a.map((x, i) => operators.binary[op as '>='].apply(plainArithmetic, x, b[i]!)))
    }))
    for (const op of ['>=', '<', '==', '!='] as const) assert.deepEqual(compared(op, [NaN, 1], [1, NaN]), [0, 0])
  })
})
