import { nearlyEqual, plainArithmetic } from './arithmetic.ts'
import { constantValue } from './evaluate.ts'
import { allNodes, type Node } from './parse.ts'

/** One number for each of many who are asked at once. */
export type Column = Float64Array

/** Gives the column of a name, or of a function of a name, anew each time; null: it has none. */
export type ResolveColumn = (node: Node & { type: 'name' | 'call' }) => (() => Column) | null

type Fill = (out: Column) => void

/**
 * Makes a tree, whose names have been checked, ready to be evaluated for many at once: the same values as `prepare` gives one
 * by one. null where a part can fail (a division, a product that is no number any more) or has no column. What it returns is
 * overwritten by its next call.
 */
export function prepareColumn(node: Node, size: number, resolve: ResolveColumn): (() => Column) | null {
  const constant = constantOf(node)
  if (constant !== null) return always(new Float64Array(size).fill(constant))
  if (node.type === 'name') return resolve(node)
  const parts = partsOf(node)
  if (!parts) return node.type === 'call' ? resolve(node) : null
  const columns = parts.map((part) => prepareColumn(part, size, resolve))
  if (columns.some((column) => column === null)) return null
  const fill = fillOf(node, columns as (() => Column)[])
  if (!fill) return null
  const out = new Float64Array(size)
  return () => {
    fill(out)
    return out
  }
}

/** The value of a tree without names; null where it has some, or fails. */
function constantOf(node: Node): number | null {
  if (node.type === 'number') return constantValue(node)
  return [...allNodes(node)].some((part) => part.type === 'name') ? null : constantValue(node)
}

function always(column: Column): () => Column {
  return () => column
}

/** The parts of a tree that are evaluated one by one; null where a function takes a name. */
function partsOf(node: Node): readonly Node[] | null {
  if (node.type === 'binary') return [node.left, node.right]
  if (node.type === 'not' || node.type === 'minus') return [node.of]
  return node.type === 'call' && Object.hasOwn(calls, node.name) ? node.args : null
}

function fillOf(node: Node, parts: readonly (() => Column)[]): Fill | null {
  if (node.type === 'call') return calls[node.name]!(parts)
  const [a, b] = parts
  if (node.type === 'not') return (out) => each(out, a!(), (x) => Number(isZero(x)))
  if (node.type === 'minus') return (out) => each(out, a!(), (x) => 0 - x)
  if (node.type !== 'binary' || !Object.hasOwn(fills, node.op) || !isSafe(node)) return null
  return (out) => fills[node.op]!(out, a!(), b!())
}

const { isZero, compare } = plainArithmetic

/** The greatest constant with which any amount can be multiplied and stay a number. */
const largestFactor = 1e9

function isSafe(node: Node & { type: 'binary' }): boolean {
  if (node.op !== '*') return true
  const products = [...allNodes(node)].filter((part) => part.type === 'binary' && part.op === '*')
  return products.length === 1 && [node.left, node.right].some((side) => Math.abs(constantOf(side) ?? Infinity) <= largestFactor)
}

function each(out: Column, a: Column, of: (x: number) => number): void {
  for (let i = 0; i < out.length; i++) out[i] = of(a[i]!)
}

/**
 * The operators that cannot fail, each a loop of its own, which is what makes it fast. That each does what its entry in the
 * table of operators does is tested.
 */
const fills: Record<string, (out: Column, a: Column, b: Column) => void> = {
  and: (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(!isZero(a[i]!) && !isZero(b[i]!)) },
  or: (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(!isZero(a[i]!) || !isZero(b[i]!)) },
  '>=': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(a[i]! >= b[i]! || nearlyEqual(a[i]!, b[i]!)) },
  '>': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(a[i]! > b[i]! && !nearlyEqual(a[i]!, b[i]!)) },
  '<=': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(a[i]! <= b[i]! || nearlyEqual(a[i]!, b[i]!)) },
  '<': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(a[i]! < b[i]! && !nearlyEqual(a[i]!, b[i]!)) },
  '==': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(nearlyEqual(a[i]!, b[i]!)) },
  '!=': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = Number(!nearlyEqual(a[i]!, b[i]!)) },
  '+': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! + b[i]! },
  '-': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! - b[i]! },
  '*': (out, a, b) => { for (let i = 0; i < out.length; i++) out[i] = a[i]! * b[i]! },
}

/** Whether a comparison holds, one by one; it does not where a side is no number. */
export function compareColumns(op: '>=' | '>' | '<=' | '<' | '==' | '!=', out: Column, a: Column, b: Column): Column {
  fills[op]!(out, a, b)
  if (op === '!=') for (let i = 0; i < out.length; i++) if (Number.isNaN(a[i]!) || Number.isNaN(b[i]!)) out[i] = 0
  return out
}

const extreme = (sign: 1 | -1) => (parts: readonly (() => Column)[]): Fill => (out) => {
  out.set(parts[0]!())
  for (const part of parts.slice(1)) {
    const next = part()
    for (let i = 0; i < out.length; i++) if (compare(next[i]!, out[i]!) * sign > 0) out[i] = next[i]!
  }
}

/** The functions of values alone. */
const calls: Record<string, (parts: readonly (() => Column)[]) => Fill> = {
  min: extreme(-1),
  max: extreme(1),
  at_least: ([least, ...conditions]) => (out) => {
    out.fill(0)
    for (const condition of conditions) {
      const holds = condition()
      for (let i = 0; i < out.length; i++) if (!isZero(holds[i]!)) out[i]! += 1
    }
    const n = least!()
    for (let i = 0; i < out.length; i++) out[i] = Number(compare(out[i]!, n[i]!) >= 0)
  },
}
