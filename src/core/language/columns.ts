import { nearlyEqual, plainArithmetic } from './arithmetic.ts'
import { constantValue } from './evaluate.ts'
import type { Comparison } from './operators.ts'
import { allNodes, type Node } from './parse.ts'

/** One number for each of many who are asked at once. */
export type Column = Float64Array

/** 1 for those of many who are meant, 0 for all others. */
export type Marks = Uint8Array

/** Gives the column of a name, or of a function of a name, anew each time; null: it has none. */
export type ResolveColumn = (node: Node & { type: 'name' | 'call' }) => (() => Column) | null

type Numbers = () => Column
type Truths = (out: Marks) => void

/** Columns and marks that trees are worked out in, the same for all of them: what is used again is near the processor. */
export class Scratch {
  private readonly columns: Column[] = []
  private readonly allMarks: Marks[] = []
  private readonly constants = new Map<number, Column>()

  constructor(readonly size: number) {}

  column(at: number): Column {
    return (this.columns[at] ??= new Float64Array(this.size))
  }

  marks(at: number): Marks {
    return (this.allMarks[at] ??= new Uint8Array(this.size))
  }

  /** A column of one number, which nobody writes into. */
  constant(value: number): Column {
    if (!this.constants.has(value)) this.constants.set(value, new Float64Array(this.size).fill(value))
    return this.constants.get(value)!
  }
}

/** What trees are made ready with: where names have their columns, and where the trees are worked out. */
export interface ColumnScope {
  resolve: ResolveColumn
  scratch: Scratch
}

/**
 * Makes a tree, whose names have been checked, ready to be evaluated for many at once: the same values as `prepare` gives one
 * by one. null where a part can fail (a division, a product that is no number any more) or has no column. What it returns
 * stands until anything else is evaluated that uses the scratch columns from `at` on.
 */
export function prepareColumn(node: Node, scope: ColumnScope, at = 0): Numbers | null {
  const { scratch, resolve } = scope
  const constant = constantOf(node)
  if (constant !== null) return () => scratch.constant(constant)
  if (node.type === 'name' || (node.type === 'call' && !isOfValues(node))) return resolve(node)
  const truths = logical(node, scope, at + 1)
  return truths === undefined ? arithmetic(node, scope, at) : numbered(truths, scratch.column(at), scratch.marks(at))
}

/** Makes a tree ready to be evaluated as a truth, in the same way: it marks those for whom it holds. */
export function prepareMarks(node: Node, scope: ColumnScope, at = 0): Truths | null {
  const constant = constantOf(node)
  if (constant !== null) return (out) => out.fill(isZero(constant) ? 0 : 1)
  const truths = logical(node, scope, at)
  if (truths !== undefined) return truths
  const numbers = prepareColumn(node, scope, at)
  return numbers && ((out) => {
    const column = numbers()
    for (let i = 0; i < out.length; i++) out[i] = isZero(column[i]!) ? 0 : 1
  })
}

const { isZero, compare } = plainArithmetic

/** The value of a tree without names; null where it has some, or fails. */
function constantOf(node: Node): number | null {
  if (node.type === 'number') return constantValue(node)
  return allNodes(node).some((part) => part.type === 'name') ? null : constantValue(node)
}

function isOfValues({ name }: Node & { type: 'call' }): boolean {
  return name === 'at_least' || Object.hasOwn(extremes, name)
}

function isComparison(op: string): op is Comparison {
  return Object.hasOwn(comparisons, op)
}

/** What is a truth in itself; undefined: a number. */
function logical(node: Node, scope: ColumnScope, at: number): Truths | null | undefined {
  if (node.type === 'not') return negated(prepareMarks(node.of, scope, at))
  if (node.type === 'call' && node.name === 'at_least') return counted(node.args, scope, at)
  if (node.type !== 'binary') return undefined
  if (node.op === 'and' || node.op === 'or') return joined(node.op, node, scope, at)
  return isComparison(node.op) ? compared(node.op, node, scope, at) : undefined
}

/** A truth as the number 1 or 0. */
function numbered(truths: Truths | null, out: Column, marks: Marks): Numbers | null {
  return truths && (() => {
    truths(marks)
    out.set(marks)
    return out
  })
}

function negated(of: Truths | null): Truths | null {
  return of && ((out) => {
    of(out)
    for (let i = 0; i < out.length; i++) out[i] = 1 - out[i]!
  })
}

function joined(op: 'and' | 'or', node: Node & { type: 'binary' }, scope: ColumnScope, at: number): Truths | null {
  const [left, right] = [prepareMarks(node.left, scope, at), prepareMarks(node.right, scope, at + 1)]
  if (!left || !right) return null
  const other = scope.scratch.marks(at)
  return (out) => {
    left(out)
    right(other)
    if (op === 'and') for (let i = 0; i < out.length; i++) out[i]! &= other[i]!
    else for (let i = 0; i < out.length; i++) out[i]! |= other[i]!
  }
}

/** at_least(n, c1, c2, …) */
function counted([least, ...conditions]: readonly Node[], scope: ColumnScope, at: number): Truths | null {
  const n = prepareColumn(least!, scope, at + 1)
  const truths = conditions.map((condition) => prepareMarks(condition, scope, at + 1))
  if (!n || truths.includes(null)) return null
  const [sum, holds] = [scope.scratch.column(at), scope.scratch.marks(at)]
  return (out) => {
    sum.fill(0)
    for (const truth of truths) {
      truth!(holds)
      for (let i = 0; i < sum.length; i++) sum[i]! += holds[i]!
    }
    const asked = n()
    for (let i = 0; i < out.length; i++) out[i] = compare(sum[i]!, asked[i]!) >= 0 ? 1 : 0
  }
}

function compared(op: Comparison, node: Node & { type: 'binary' }, scope: ColumnScope, at: number): Truths | null {
  const [left, right] = [prepareColumn(node.left, scope, at), prepareColumn(node.right, scope, at + 1)]
  if (!left || !right) return null
  return (out) => markWhere(op, out, left(), right())
}

/** Marks for whom a comparison holds; it does not where a side is no number. */
export function markWhere(op: Comparison, out: Marks, a: Column, b: Column): void {
  comparisons[op](out, a, b)
}

/**
 * The comparisons, each a loop of its own, which is what makes it fast. That each does what its entry in the table of
 * operators does is tested.
 */
const comparisons: Record<Comparison, (out: Marks, a: Column, b: Column) => void> = {
  '>=': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! >= b[i]! || nearlyEqual(a[i]!, b[i]!) ? 1 : 0 },
  '>': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! > b[i]! && !nearlyEqual(a[i]!, b[i]!) ? 1 : 0 },
  '<=': (out, a, b) => comparisons['>='](out, b, a),
  '<': (out, a, b) => comparisons['>'](out, b, a),
  '==': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = nearlyEqual(a[i]!, b[i]!) ? 1 : 0 },
  '!=': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! === a[i]! && b[i]! === b[i]! && !nearlyEqual(a[i]!, b[i]!) ? 1 : 0 },
}

function arithmetic(node: Node, scope: ColumnScope, at: number): Numbers | null {
  const parts = node.type === 'binary' ? [node.left, node.right] : node.type === 'minus' ? [node.of] : node.type === 'call' ? node.args : []
  const columns = parts.map((part, i) => prepareColumn(part, scope, i === 0 ? at : at + 1))
  if (columns.length === 0 || columns.includes(null)) return null
  const [first, ...others] = columns as Numbers[]
  const out = scope.scratch.column(at)
  if (node.type === 'minus') return () => minus(out, first!())
  const fill = node.type === 'call' ? extremes[node.name] : node.type === 'binary' && isSafe(node) ? fills[node.op] : undefined
  if (!fill) return null
  return () => {
    let sum = first!()
    for (const other of others) {
      fill(out, sum, other())
      sum = out
    }
    return sum
  }
}

function minus(out: Column, a: Column): Column {
  for (let i = 0; i < out.length; i++) out[i] = 0 - a[i]!
  return out
}

type Fill = (out: Column, a: Column, b: Column) => void

/** The operators that cannot fail. */
const fills: Record<string, Fill | undefined> = {
  '+': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! + b[i]! },
  '-': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! - b[i]! },
  '*': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! * b[i]! },
}

const extreme = (sign: 1 | -1): Fill => (out, a, b) => {
  for (let i = 0; i < out.length; i++) out[i] = compare(b[i]!, a[i]!) * sign > 0 ? b[i]! : a[i]!
}

const extremes: Record<string, Fill | undefined> = { min: extreme(-1), max: extreme(1) }

/** The greatest constant with which any amount can be multiplied and stay a number. */
const largestFactor = 1e9

function isSafe(node: Node & { type: 'binary' }): boolean {
  if (node.op !== '*') return true
  const products = allNodes(node).filter((part) => part.type === 'binary' && part.op === '*')
  return products.length === 1 && [node.left, node.right].some((side) => Math.abs(constantOf(side) ?? Infinity) <= largestFactor)
}
