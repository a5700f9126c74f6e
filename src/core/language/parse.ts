import { LanguageError } from './language-error.ts'
import { binaryEntry, type BinaryOperator } from './operators.ts'
import { tokenize, type Span, type Token } from './tokens.ts'

/** `inner`, where a node stands in parentheses, is its span without them. */
export type Node = Span & { inner?: Span } & (
    | { type: 'number'; text: string }
    | { type: 'name'; name: string }
    | { type: 'call'; name: string; nameSpan: Span; args: Node[] }
    | { type: 'not'; of: Node }
    | { type: 'minus'; of: Node }
    | { type: 'binary'; op: BinaryOperator; left: Node; right: Node }
  )

export const deepest = 100

export const comparisons: ReadonlySet<string> = new Set(['>=', '>', '<=', '<', '==', '!='])
export function isComparison(node: Node): node is Node & { type: 'binary' } {
  return node.type === 'binary' && comparisons.has(node.op)
}

/**
 * Reads a requirement or formula into a tree with a span on every node, by the grammar of docs/model.md 6.
 * An empty text gives null. Throws LanguageError with the column of the fault.
 */
export function parse(text: string): Node | null {
  const known = trees.get(text)
  if (known !== undefined) return known
  const parser = new Parser(tokenize(text))
  const tree = parser.isAtEnd() ? null : parser.whole()
  if (trees.size >= mostTrees) trees.clear()
  trees.set(text, tree)
  return tree
}

/** A plan is read again after every edit, and all of its texts but one are as they were. Trees are never changed. */
const trees = new Map<string, Node | null>()
const mostTrees = 30_000

const atomExpected = 'a number, a name or "("'

class Parser {
  private at = 0
  private depth = 0

  constructor(private readonly tokens: Token[]) {}

  isAtEnd(): boolean {
    return this.peek().type === 'end'
  }

  whole(): Node {
    const node = this.any()
    const left = this.peek()
    if (left.type !== 'end') throw new LanguageError('left-over', left, { text: left.text })
    return node
  }

  private any = (): Node => this.chain(['or'], this.all)
  private all = (): Node => this.chain(['and'], this.no)
  private sum = (): Node => this.chain(['+', '-'], this.product)
  private product = (): Node => this.chain(['*', '/', '%'], this.unary)

  private no = (): Node => {
    const token = this.peek()
    if (!this.takeIf('not')) return this.compare()
    const of = this.deeper(token, this.no)
    return { type: 'not', of, from: token.from, to: of.to }
  }

  private compare = (): Node => {
    const left = this.sum()
    const op = this.peek().text
    if (!comparisons.has(op)) return left
    this.at++
    return joined(op as BinaryOperator, left, this.sum())
  }

  private unary = (): Node => {
    const token = this.peek()
    if (!this.takeIf('-')) return this.power()
    const of = this.deeper(token, this.unary)
    return { type: 'minus', of, from: token.from, to: of.to }
  }

  private power = (): Node => {
    const base = this.atom()
    const token = this.peek()
    if (!this.takeIf('^')) return base
    return joined('^', base, this.deeper(token, this.unary))
  }

  private atom = (): Node => {
    const token = this.peek()
    if (token.type === 'number') {
      this.at++
      return { type: 'number', text: token.text, from: token.from, to: token.to }
    }
    if (token.type === 'word' && !binaryEntry(token.text) && token.text !== 'not') {
      this.at++
      return this.peek().text === '(' ? this.call(token) : { type: 'name', name: token.text, from: token.from, to: token.to }
    }
    if (token.text !== '(') throw this.expected(atomExpected)
    this.at++
    const inner = this.deeper(token, this.any)
    const close = this.take(')')
    return { ...inner, inner: inner.inner ?? { from: inner.from, to: inner.to }, from: token.from, to: close.to }
  }

  private call(word: Token): Node {
    const open = this.take('(')
    const args: Node[] = []
    if (this.peek().text !== ')') {
      do args.push(this.deeper(open, this.any))
      while (this.takeIf(','))
    }
    const close = this.take(')')
    return { type: 'call', name: word.text, nameSpan: { from: word.from, to: word.to }, args, from: word.from, to: close.to }
  }

  private chain(ops: string[], part: () => Node): Node {
    let node = part()
    while (ops.includes(this.peek().text) && this.peek().type !== 'end') {
      const op = this.peek().text as BinaryOperator
      this.at++
      node = joined(op, node, part())
    }
    return node
  }

  private deeper(at: Span, part: () => Node): Node {
    if (++this.depth > deepest) throw new LanguageError('too-deep', at, { most: deepest })
    const node = part()
    this.depth--
    return node
  }

  private peek(): Token {
    return this.tokens[this.at]!
  }

  private takeIf(text: string): boolean {
    const found = this.peek().text === text && this.peek().type !== 'end'
    if (found) this.at++
    return found
  }

  private take(text: string): Token {
    const token = this.peek()
    if (!this.takeIf(text)) throw this.expected(text === ')' ? '")"' : `"${text}"`)
    return token
  }

  private expected(what: string): LanguageError {
    const token = this.peek()
    return new LanguageError('expected', token, { what, found: token.type === 'end' ? 'the end' : `"${token.text}"` })
  }
}

function joined(op: BinaryOperator, left: Node, right: Node): Node {
  return { type: 'binary', op, left, right, from: left.from, to: right.to }
}

/** A node as it was written, without parentheses around it. */
export function textOf(node: Node, text: string): string {
  const { from, to } = node.inner ?? node
  return text.slice(from, to)
}

/** The parts of a node, in the order written. */
export function children(node: Node): Node[] {
  if (node.type === 'call') return node.args
  if (node.type === 'not' || node.type === 'minus') return [node.of]
  return node.type === 'binary' ? [node.left, node.right] : []
}

/** Every node of the tree in the order written, parents before their parts. */
export function allNodes(node: Node, found: Node[] = []): Node[] {
  found.push(node)
  for (const child of children(node)) allNodes(child, found)
  return found
}
