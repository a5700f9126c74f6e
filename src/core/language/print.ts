import { binaryEntry, operators } from './operators.ts'
import { comparisons, type Node } from './parse.ts'

const notBinds = 3
const minusBinds = 7
const atomBinds = 9

function bindsOf(node: Node): number {
  if (node.type === 'binary') return operators.binary[node.op].binds
  if (node.type === 'not') return notBinds
  return node.type === 'minus' ? minusBinds : atomBinds
}

/** The tree as text that reads back to the same tree, with no more parentheses than it needs. */
export function print(node: Node): string {
  switch (node.type) {
    case 'number':
      return node.text
    case 'name':
      return node.name
    case 'call':
      return `${node.name}(${node.args.map(print).join(', ')})`
    case 'not':
      return `not ${within(node.of, notBinds)}`
    case 'minus':
      return `-${within(node.of, minusBinds)}`
    case 'binary':
      return printBinary(node)
  }
}

function within(node: Node, least: number): string {
  const text = print(node)
  return bindsOf(node) < least ? `(${text})` : text
}

function printBinary(node: Node & { type: 'binary' }): string {
  const binds = binaryEntry(node.op)!.binds
  // Comparisons do not chain, and the left of a power is an atom; its right may be a unary.
  const leftLeast = comparisons.has(node.op) || node.op === '^' ? binds + 1 : binds
  const rightLeast = node.op === '^' ? minusBinds : binds + 1
  return `${within(node.left, leftLeast)} ${node.op} ${within(node.right, rightLeast)}`
}
