import type { Arithmetic } from './arithmetic.ts'
import { plainArithmetic } from './arithmetic.ts'
import { LanguageError } from './language-error.ts'
import { functionEntry, operators } from './operators.ts'
import type { Node } from './parse.ts'

/** A text made ready to be evaluated again and again in a context, such as the state of a game. */
export type Evaluate<C, T = number> = (context: C) => T

/** Gives the value of a name, or of a function whose argument is a name (`level(dog)`, `open(gate)`). */
export type Resolve<C, T> = (node: Node & { type: 'name' | 'call' }) => Evaluate<C, T>

/**
 * Makes a tree, whose names have been checked, ready to be evaluated.
 * What it returns throws LanguageError on a division by zero or a number that is not finite.
 */
export function prepare<C, T>(node: Node, n: Arithmetic<T>, resolve: Resolve<C, T>): Evaluate<C, T> {
  switch (node.type) {
    case 'number': {
      const value = n.literal(node.text)
      return () => value
    }
    case 'name':
      return resolve(node)
    case 'call':
      return prepareCall(node, n, resolve)
    case 'not': {
      const of = prepare(node.of, n, resolve)
      return (context) => n.from(n.isZero(of(context)) ? 1 : 0)
    }
    case 'minus': {
      const of = prepare(node.of, n, resolve)
      const zero = n.from(0)
      return (context) => n.sub(zero, of(context))
    }
    case 'binary':
      return prepareBinary(node, n, resolve)
  }
}

function prepareCall<C, T>(node: Node & { type: 'call' }, n: Arithmetic<T>, resolve: Resolve<C, T>): Evaluate<C, T> {
  const apply = functionEntry(node.name)?.apply
  if (!apply) return resolve(node)
  const args = node.args.map((arg) => prepare(arg, n, resolve))
  return (context) => finite(n, node.name, node, apply(n, args.map((arg) => arg(context))))
}

function prepareBinary<C, T>(node: Node & { type: 'binary' }, n: Arithmetic<T>, resolve: Resolve<C, T>): Evaluate<C, T> {
  const left = prepare(node.left, n, resolve)
  const right = prepare(node.right, n, resolve)
  if (node.op === 'and') return (context) => n.from(!n.isZero(left(context)) && !n.isZero(right(context)) ? 1 : 0)
  if (node.op === 'or') return (context) => n.from(!n.isZero(left(context)) || !n.isZero(right(context)) ? 1 : 0)
  const apply = operators.binary[node.op].apply
  const divides = node.op === '/' || node.op === '%'
  return (context) => {
    const a = left(context)
    const b = right(context)
    if (divides && n.isZero(b)) throw new LanguageError('division-by-zero', node.right)
    return finite(n, `"${node.op}"`, node, apply(n, a, b))
  }
}

function finite<T>(n: Arithmetic<T>, name: string, node: Node, value: T): T {
  if (!n.isFinite(value)) throw new LanguageError('not-finite', node, { name })
  return value
}

/** The value of a text without names, or null when it has some or fails. */
export function constantValue(node: Node): number | null {
  try {
    return prepare<null, number>(node, plainArithmetic, () => {
      throw new LanguageError('unknown-name', node, { name: '', kind: 'constant' })
    })(null)
  } catch (error) {
    if (error instanceof LanguageError) return null
    throw error
  }
}
