import { plainArithmetic } from './arithmetic.ts'
import type { BinaryOperator, Comparison } from './operators.ts'
import type { Node } from './parse.ts'

/** All that a value can be: from `low` to `high`, both within. */
export interface Range {
  low: number
  high: number
}

/** Gives the range of a value in a context; null: it may fail, or nothing is known of it. */
export type Ranged<C> = (context: C) => Range | null

/** Gives the range of a name, or of a function whose argument is a name. */
export type ResolveRange<C> = (node: Node & { type: 'name' | 'call' }) => Ranged<C>

/**
 * Makes a tree, whose names have been checked, ready to be asked what its value can be when all that one knows of its names is a range
 * of each. What it gives holds every value that can come of them, and may hold more: what is written twice is taken for two.
 */
export function prepareRange<C>(node: Node, resolve: ResolveRange<C>): Ranged<C> {
  switch (node.type) {
    case 'number': {
      const only = exactly(Number(node.text))
      return () => only
    }
    case 'name':
      return resolve(node)
    case 'call':
      return prepareCall(node, resolve)
    case 'not': {
      const of = prepareRange(node.of, resolve)
      return (context) => turned(of(context))
    }
    case 'minus': {
      const of = prepareRange(node.of, resolve)
      return (context) => negative(of(context))
    }
    case 'binary':
      return prepareBinary(node, resolve)
  }
}

/** Whether a value is true for certain, false for certain, or either. */
export type Outcome = 'yes' | 'no' | 'maybe'

/** Whether all of a range is true, or none of it. */
export function truthOf(range: Range | null): Outcome {
  if (range === null) return 'maybe'
  if (isZero(range.low) && isZero(range.high)) return 'no'
  return (range.low > 0 && !isZero(range.low)) || (range.high < 0 && !isZero(range.high)) ? 'yes' : 'maybe'
}

const { isZero, compare } = plainArithmetic
const exactly = (value: number): Range => ({ low: value, high: value })
const outcomes: Record<Outcome, Range> = { yes: exactly(1), no: exactly(0), maybe: { low: 0, high: 1 } }

function prepareCall<C>(node: Node & { type: 'call' }, resolve: ResolveRange<C>): Ranged<C> {
  const ofValues = functionsOfValues[node.name]
  if (!ofValues) return resolve(node)
  const args = node.args.map((arg) => prepareRange(arg, resolve))
  return (context) => {
    const known = args.map((arg) => arg(context)).filter((range) => range !== null)
    return known.length < args.length ? null : ofValues(known)
  }
}

/** The functions of values that a requirement may have. */
const functionsOfValues: Partial<Record<string, (args: Range[]) => Range>> = {
  min: (args) => ({ low: Math.min(...args.map(({ low }) => low)), high: Math.min(...args.map(({ high }) => high)) }),
  max: (args) => ({ low: Math.max(...args.map(({ low }) => low)), high: Math.max(...args.map(({ high }) => high)) }),
  at_least: ([least, ...conditions]) => {
    const truths = conditions.map(truthOf)
    const [sure, possible] = [truths.filter((truth) => truth === 'yes').length, truths.filter((truth) => truth !== 'no').length]
    return compared('>=', { low: sure, high: possible }, least!)
  },
}

function prepareBinary<C>(node: Node & { type: 'binary' }, resolve: ResolveRange<C>): Ranged<C> {
  const [left, right] = [prepareRange(node.left, resolve), prepareRange(node.right, resolve)]
  // What is decided by the left side alone is not asked of the right one.
  if (node.op === 'and' || node.op === 'or') {
    const decides = node.op === 'and' ? 'no' : 'yes'
    return (context) => {
      const first = left(context)
      if (first === null) return null
      const truth = truthOf(first)
      if (truth === decides) return outcomes[decides]
      const second = right(context)
      if (second === null) return null
      const other = truthOf(second)
      return other === decides ? outcomes[decides] : outcomes[truth === other ? truth : 'maybe']
    }
  }
  const apply = ofTwo[node.op]
  return (context) => {
    const a = left(context)
    const b = right(context)
    return a && b && finite(apply(a, b))
  }
}

function finite(range: Range | null): Range | null {
  return range && Number.isFinite(range.low) && Number.isFinite(range.high) ? range : null
}

const ofTwo: Record<Exclude<BinaryOperator, 'and' | 'or'>, (a: Range, b: Range) => Range | null> = {
  '+': (a, b) => ({ low: a.low + b.low, high: a.high + b.high }),
  '-': (a, b) => ({ low: a.low - b.high, high: a.high - b.low }),
  '*': (a, b) => atCorners(a, b, (x, y) => x * y),
  '/': (a, b) => (b.low === b.high && !isZero(b.low) ? atCorners(a, b, (x, y) => x / y) : null),
  // What they do between two ends is not looked into.
  '%': (a, b) => (isOne(a) && isOne(b) && !isZero(b.low) ? exactly(a.low - b.low * plainArithmetic.floor(a.low / b.low)) : null),
  '^': (a, b) => (isOne(a) && isOne(b) ? exactly(a.low ** b.low) : null),
  '>=': (a, b) => compared('>=', a, b),
  '>': (a, b) => compared('>', a, b),
  '<=': (a, b) => compared('<=', a, b),
  '<': (a, b) => compared('<', a, b),
  '==': (a, b) => equal(a, b),
  '!=': (a, b) => turned(equal(a, b)),
}

function isOne({ low, high }: Range): boolean {
  return low === high
}

function atCorners(a: Range, b: Range, of: (x: number, y: number) => number): Range {
  const all = [of(a.low, b.low), of(a.low, b.high), of(a.high, b.low), of(a.high, b.high)]
  return { low: Math.min(...all), high: Math.max(...all) }
}

const holdsBy: Record<Exclude<Comparison, '==' | '!='>, (order: number) => boolean> = {
  '>=': (order) => order >= 0,
  '>': (order) => order > 0,
  '<=': (order) => order <= 0,
  '<': (order) => order < 0,
}

function compared(op: keyof typeof holdsBy, a: Range, b: Range): Range {
  const holds = holdsBy[op]
  const first = holds(compare(a.low, b.high))
  const last = holds(compare(a.high, b.low))
  return outcomes[first !== last ? 'maybe' : first ? 'yes' : 'no']
}

function equal(a: Range, b: Range): Range {
  if (compare(a.low, b.high) > 0 || compare(a.high, b.low) < 0) return outcomes.no
  return outcomes[isOne(a) && isOne(b) ? 'yes' : 'maybe']
}

function turned(range: Range | null): Range | null {
  if (range === null) return null
  const truth = truthOf(range)
  return outcomes[truth === 'yes' ? 'no' : truth === 'no' ? 'yes' : 'maybe']
}

function negative(range: Range | null): Range | null {
  return range && { low: -range.high, high: -range.low }
}
