import { nearest } from '../plan/nearest.ts'
import { LanguageError } from './language-error.ts'
import { functionEntry, operators, type ArgumentKind } from './operators.ts'
import { children, type Node } from './parse.ts'

export type NamedKind = 'tally' | Exclude<ArgumentKind, 'values' | 'level'>

/** The names that a text may use: a requirement those of the plan, a formula none but the language's own. */
export interface Vocabulary {
  use: 'requirement' | 'formula'
  has(kind: NamedKind, id: string): boolean
  /** All ids of a kind, for suggestions. */
  ids(kind: NamedKind): Iterable<string>
}

export const formulaVocabulary: Vocabulary = { use: 'formula', has: () => false, ids: () => [] }

/** Everything wrong with the names and arguments of a text, in the order written. */
export function nameErrors(node: Node, vocabulary: Vocabulary): LanguageError[] {
  if (node.type === 'name') return nameError(node, vocabulary)
  if (node.type !== 'call') return children(node).flatMap((child) => nameErrors(child, vocabulary))
  return callErrors(node, vocabulary)
}

function nameError(node: Node & { type: 'name' }, vocabulary: Vocabulary): LanguageError[] {
  const own = Object.hasOwn(operators.names, node.name) ? operators.names[node.name as keyof typeof operators.names] : undefined
  if (own?.use === 'requirement' && vocabulary.use === 'requirement' && isEmpty(vocabulary.ids('character'))) {
    return [new LanguageError('no-leader', node, { name: node.name })]
  }
  if (own?.use === vocabulary.use || (!own && vocabulary.has('tally', node.name))) return []
  if (functionEntry(node.name)) return [new LanguageError('expected', node, { what: `"(" after ${node.name}`, found: 'none' })]
  const kind = vocabulary.use === 'formula' ? 'name of a formula' : 'tally'
  return [new LanguageError('unknown-name', node, { name: node.name, kind }, nearest(node.name, usableNames(vocabulary)))]
}

function isEmpty(ids: Iterable<string>): boolean {
  return [...ids].length === 0
}

function usableNames(vocabulary: Vocabulary): string[] {
  const own = Object.entries(operators.names).filter(([, entry]) => entry.use === vocabulary.use)
  return [...own.map(([name]) => name), ...vocabulary.ids('tally')]
}

function callErrors(node: Node & { type: 'call' }, vocabulary: Vocabulary): LanguageError[] {
  const entry = functionEntry(node.name)
  if (!entry) {
    const fits = nearest(node.name, Object.keys(operators.functions))
    return [new LanguageError('unknown-function', node.nameSpan, { name: node.name }, fits)]
  }
  if (entry.use !== 'both' && entry.use !== vocabulary.use) {
    return [new LanguageError('wrong-use', node.nameSpan, { name: node.name, where: `in a ${vocabulary.use}` })]
  }
  const [fewest, most] = entry.arity
  if (node.args.length < fewest || node.args.length > most) {
    const takes = most === fewest ? `${most} argument${most === 1 ? '' : 's'}` : `at least ${fewest} arguments`
    return [new LanguageError('arguments', node, { name: node.name, takes, found: node.args.length })]
  }
  if (entry.argument === 'values') return node.args.flatMap((arg) => nameErrors(arg, vocabulary))
  return argumentErrors(node.name, node.args[0]!, entry.argument, vocabulary)
}

function argumentErrors(name: string, arg: Node, kind: ArgumentKind, vocabulary: Vocabulary): LanguageError[] {
  if (kind === 'level') {
    return arg.type === 'name' && arg.name === 'level' ? [] : [new LanguageError('expected', arg, { what: `"level" in ${name}(…)`, found: 'something else' })]
  }
  if (arg.type !== 'name') return [new LanguageError('argument-name', arg, { name, kind })]
  const named = kind as NamedKind
  if (vocabulary.has(named, arg.name)) return []
  return [new LanguageError('unknown-name', arg, { name: arg.name, kind: named }, nearest(arg.name, vocabulary.ids(named)))]
}

/** Where a text names a record: the kind, the id and its place in the text. */
export interface Mention {
  kind: NamedKind
  id: string
  from: number
  to: number
}

/** Every record that a requirement names, in the order written. */
export function mentions(node: Node): Mention[] {
  if (node.type === 'name') {
    return Object.hasOwn(operators.names, node.name) ? [] : [{ kind: 'tally', id: node.name, from: node.from, to: node.to }]
  }
  const argument = node.type === 'call' ? functionEntry(node.name)?.argument : undefined
  if (node.type !== 'call' || argument === undefined || argument === 'values') return children(node).flatMap(mentions)
  return argument === 'level' ? [] : node.args.flatMap((arg) => (arg.type === 'name' ? [{ kind: argument, id: arg.name, from: arg.from, to: arg.to }] : []))
}
