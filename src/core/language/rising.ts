import { constantValue } from './evaluate.ts'
import { children, type Node } from './parse.ts'

/** What more of everything does to a value: never lowers it, never raises it, nothing, or either. */
export type Direction = 'rising' | 'falling' | 'constant' | 'mixed'

const turned = { rising: 'falling', falling: 'rising', constant: 'constant', mixed: 'mixed' } as const
const turn = (d: Direction): Direction => turned[d]

/** What all parts share; a constant part shares everything. */
function shared(parts: Direction[]): Direction {
  const moving = [...new Set(parts.filter((d) => d !== 'constant'))]
  return moving.length === 0 ? 'constant' : moving.length === 1 ? moving[0]! : 'mixed'
}

/**
 * Whether more of every tally, level, opened gate, visited place and taken unit can make a requirement false,
 * decided from the text part by part (docs/model.md 6). `someoneJoins`: a character is still to join.
 */
export function direction(node: Node, someoneJoins: boolean): Direction {
  return asTruth(node, someoneJoins)
}

function asTruth(node: Node, joins: boolean): Direction {
  const value = asValue(node, joins)
  if (value === 'constant') return value
  const arithmetic = node.type === 'minus' || (node.type === 'binary' && '+-*/%^'.includes(node.op))
  if (arithmetic) return 'mixed'
  if (node.type === 'call' && (node.name === 'min' || node.name === 'max')) {
    return shared(node.args.map((arg) => asTruth(arg, joins)))
  }
  return value
}

function asValue(node: Node, joins: boolean): Direction {
  switch (node.type) {
    case 'number':
      return 'constant'
    case 'name':
      return 'rising'
    case 'not':
      return turn(asTruth(node.of, joins))
    case 'minus':
      return turn(asValue(node.of, joins))
    case 'call':
      return callDirection(node, joins)
    case 'binary':
      return binaryDirection(node, joins)
  }
}

function callDirection(node: Node & { type: 'call' }, joins: boolean): Direction {
  const [first, ...rest] = node.args
  switch (node.name) {
    case 'at_least':
      return asValue(first!, joins) === 'constant' ? shared(rest.map((arg) => asTruth(arg, joins))) : 'mixed'
    case 'min':
    case 'max':
      return shared(node.args.map((arg) => asValue(arg, joins)))
    case 'lowest':
    case 'average':
      return joins ? 'mixed' : 'rising'
    default:
      return 'rising'
  }
}

function binaryDirection(node: Node & { type: 'binary' }, joins: boolean): Direction {
  if (node.op === 'and' || node.op === 'or') return shared(children(node).map((part) => asTruth(part, joins)))
  const left = asValue(node.left, joins)
  const right = asValue(node.right, joins)
  if (left === 'constant' && right === 'constant') return 'constant'
  switch (node.op) {
    case '+':
      return shared([left, right])
    case '-':
    case '>=':
    case '>':
      return shared([left, turn(right)])
    case '<=':
    case '<':
      return shared([turn(left), right])
    case '*':
      if (right === 'constant') return scaled(left, node.right)
      return left === 'constant' ? scaled(right, node.left) : 'mixed'
    case '/':
      return right === 'constant' ? scaled(left, node.right) : 'mixed'
    default:
      return 'mixed'
  }
}

function scaled(d: Direction, by: Node): Direction {
  const factor = constantValue(by)
  if (factor === null) return 'mixed'
  return factor > 0 ? d : factor < 0 ? turn(d) : 'constant'
}
