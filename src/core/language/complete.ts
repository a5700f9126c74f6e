import type { NamedKind, Vocabulary } from './names.ts'
import { functionEntry, operators } from './operators.ts'

export interface Completion {
  label: string
  /** What kind of thing it is, or what it does. */
  detail: string
  /** What is put in; a function opens its parenthesis. */
  insert: string
}

export interface Completions {
  /** Where the word that is being typed begins. */
  from: number
  options: Completion[]
}

/** The names that fit at an offset of a text: within `open(` gates, within `level(` characters, else everything. */
export function complete(text: string, at: number, vocabulary: Vocabulary): Completions {
  const before = text.slice(0, at)
  const word = /[A-Za-z_][A-Za-z0-9_]*$/.exec(before)?.[0] ?? ''
  const from = at - word.length
  const within = /([a-z_]+)\(\s*$/.exec(before.slice(0, from))?.[1]
  const argument = within ? functionEntry(within)?.argument : undefined
  const options = argument && argument !== 'values' ? argumentOptions(argument, vocabulary) : allOptions(vocabulary)
  return { from, options: options.filter((option) => option.label.startsWith(word) && option.label !== word) }
}

function argumentOptions(argument: NamedKind | 'level', vocabulary: Vocabulary): Completion[] {
  if (argument === 'level') return [{ label: 'level', detail: 'of those present', insert: 'level' }]
  return named(argument, vocabulary)
}

function named(kind: NamedKind, vocabulary: Vocabulary): Completion[] {
  return [...vocabulary.ids(kind)].map((id) => ({ label: id, detail: kind, insert: id }))
}

function allOptions(vocabulary: Vocabulary): Completion[] {
  const names = Object.entries(operators.names).filter(([, entry]) => entry.use === vocabulary.use)
  const functions = Object.entries(operators.functions).filter(([, entry]) => entry.use === vocabulary.use || entry.use === 'both')
  return [
    ...named('tally', vocabulary),
    ...names.map(([label, entry]) => ({ label, detail: entry.help, insert: label })),
    ...functions.map(([label, entry]) => ({ label, detail: entry.help, insert: `${label}(` })),
    ...['and', 'or', 'not'].map((label) => ({ label, detail: label === 'not' ? 'does not hold' : operators.binary[label as 'and' | 'or'].help, insert: `${label} ` })),
  ]
}
