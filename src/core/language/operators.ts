import type { Arithmetic } from './arithmetic.ts'

export type BinaryOperator = 'or' | 'and' | '>=' | '>' | '<=' | '<' | '==' | '!=' | '+' | '-' | '*' | '/' | '%' | '^'

interface BinaryEntry {
  /** How tightly it binds; a higher one first. */
  binds: number
  help: string
  apply: <T>(n: Arithmetic<T>, a: T, b: T) => T
}

/** What a function's arguments are: values, or the bare name of a record, or the word `level`. */
export type ArgumentKind = 'values' | 'character' | 'gate' | 'place' | 'source' | 'level'

export interface FunctionEntry {
  use: 'requirement' | 'formula' | 'both'
  argument: ArgumentKind
  /** Fewest and most arguments. */
  arity: readonly [number, number]
  help: string
  /** For functions of values alone. */
  apply?: <T>(n: Arithmetic<T>, args: T[]) => T
}

const truth = <T>(n: Arithmetic<T>, holds: boolean) => n.from(holds ? 1 : 0)
const extreme = (sign: 1 | -1) => <T>(n: Arithmetic<T>, args: T[]) =>
  args.reduce((best, next) => (n.compare(next, best) * sign > 0 ? next : best))
const many = Number.POSITIVE_INFINITY

/** The one table of operators and functions: how they bind, what they take, what they mean (docs/model.md 6). */
export const operators = {
  binary: {
    or: { binds: 1, help: 'a or b: one of both holds', apply: (n, a, b) => truth(n, !n.isZero(a) || !n.isZero(b)) },
    and: { binds: 2, help: 'a and b: both hold', apply: (n, a, b) => truth(n, !n.isZero(a) && !n.isZero(b)) },
    '>=': { binds: 4, help: 'at least', apply: (n, a, b) => truth(n, n.compare(a, b) >= 0) },
    '>': { binds: 4, help: 'more than', apply: (n, a, b) => truth(n, n.compare(a, b) > 0) },
    '<=': { binds: 4, help: 'at most', apply: (n, a, b) => truth(n, n.compare(a, b) <= 0) },
    '<': { binds: 4, help: 'less than', apply: (n, a, b) => truth(n, n.compare(a, b) < 0) },
    '==': { binds: 4, help: 'equal to', apply: (n, a, b) => truth(n, n.compare(a, b) === 0) },
    '!=': { binds: 4, help: 'other than', apply: (n, a, b) => truth(n, n.compare(a, b) !== 0) },
    '+': { binds: 5, help: 'plus', apply: (n, a, b) => n.add(a, b) },
    '-': { binds: 5, help: 'minus', apply: (n, a, b) => n.sub(a, b) },
    '*': { binds: 6, help: 'times', apply: (n, a, b) => n.mul(a, b) },
    '/': { binds: 6, help: 'divided by', apply: (n, a, b) => n.div(a, b) },
    '%': { binds: 6, help: 'what is left of a after whole b', apply: (n, a, b) => n.sub(a, n.mul(b, n.floor(n.div(a, b)))) },
    '^': { binds: 8, help: 'to the power of', apply: (n, a, b) => n.pow(a, b) },
  } satisfies Record<BinaryOperator, BinaryEntry>,
  functions: {
    level: { use: 'requirement', argument: 'character', arity: [1, 1], help: "a character's level" },
    cap: { use: 'requirement', argument: 'character', arity: [1, 1], help: "a character's level limit" },
    lowest: { use: 'requirement', argument: 'level', arity: [1, 1], help: 'the lowest level of those present' },
    highest: { use: 'requirement', argument: 'level', arity: [1, 1], help: 'the highest level of those present' },
    average: { use: 'requirement', argument: 'level', arity: [1, 1], help: 'the average level of those present' },
    open: { use: 'requirement', argument: 'gate', arity: [1, 1], help: 'the gate is open' },
    visited: { use: 'requirement', argument: 'place', arity: [1, 1], help: 'the place has been visited' },
    taken: { use: 'requirement', argument: 'source', arity: [1, 1], help: 'units taken of the source' },
    at_least: {
      use: 'requirement', argument: 'values', arity: [2, many], help: 'at_least(n, c1, c2, …): n of the conditions hold',
      apply: (n, [least, ...conditions]) =>
        truth(n, n.compare(n.from(conditions.filter((c) => !n.isZero(c)).length), least!) >= 0),
    },
    min: { use: 'both', argument: 'values', arity: [1, many], help: 'the least of its arguments', apply: extreme(-1) },
    max: { use: 'both', argument: 'values', arity: [1, many], help: 'the greatest of its arguments', apply: extreme(1) },
    floor: { use: 'formula', argument: 'values', arity: [1, 1], help: 'rounded down', apply: (n, [a]) => n.floor(a!) },
    ceil: { use: 'formula', argument: 'values', arity: [1, 1], help: 'rounded up', apply: (n, [a]) => n.ceil(a!) },
    round: { use: 'formula', argument: 'values', arity: [1, 1], help: 'rounded, half up', apply: (n, [a]) => n.round(a!) },
    abs: { use: 'formula', argument: 'values', arity: [1, 1], help: 'without its sign', apply: (n, [a]) => n.abs(a!) },
    sqrt: { use: 'formula', argument: 'values', arity: [1, 1], help: 'square root', apply: (n, [a]) => n.sqrt(a!) },
    log: { use: 'formula', argument: 'values', arity: [1, 1], help: 'natural logarithm', apply: (n, [a]) => n.log(a!) },
    exp: { use: 'formula', argument: 'values', arity: [1, 1], help: 'e to the power of', apply: (n, [a]) => n.exp(a!) },
  } satisfies Record<string, FunctionEntry>,
  /** Names with a meaning of their own, by where they are used. */
  names: {
    level: { use: 'requirement', help: "the leader's level" },
    cap: { use: 'requirement', help: "the leader's level limit" },
    L: { use: 'formula', help: 'the level' },
    prev: { use: 'formula', help: 'the value of the level before, 0 at the first' },
    first: { use: 'formula', help: "the curve's first level" },
  } as const,
}

/** What each comparison becomes when its sides change places. */
export const mirrored = { '>=': '<=', '>': '<', '<=': '>=', '<': '>', '==': '==', '!=': '!=' } as const

export type Comparison = keyof typeof mirrored

export type FunctionName = keyof typeof operators.functions

export function binaryEntry(op: string): BinaryEntry | undefined {
  return Object.hasOwn(operators.binary, op) ? operators.binary[op as BinaryOperator] : undefined
}

export function functionEntry(name: string): FunctionEntry | undefined {
  return Object.hasOwn(operators.functions, name) ? operators.functions[name as FunctionName] : undefined
}
