import type { Span } from './tokens.ts'

export type LanguageCode =
  | 'too-long' | 'too-deep' | 'bad-character' | 'expected' | 'left-over'
  | 'unknown-name' | 'unknown-function' | 'wrong-use' | 'arguments' | 'argument-name'
  | 'no-leader' | 'division-by-zero' | 'not-finite' | 'in-error'

type Params = Record<string, string | number>

const sentences = {
  'too-long': (p) => `the text is longer than ${p.most} characters`,
  'too-deep': (p) => `the text nests more than ${p.most} deep`,
  'bad-character': (p) => `"${p.text}" means nothing here`,
  expected: (p) => `${p.what} expected, ${p.found} found`,
  'left-over': (p) => `"${p.text}" is left over: an operator such as "and" is missing before it`,
  'unknown-name': (p) => `"${p.name}" is no ${p.kind} of this plan`,
  'unknown-function': (p) => `there is no function "${p.name}"`,
  'wrong-use': (p) => `"${p.name}" cannot be used ${p.where}`,
  arguments: (p) => `${p.name} takes ${p.takes}, ${p.found} given`,
  'argument-name': (p) => `${p.name} takes the name of a ${p.kind}`,
  'no-leader': (p) => `"${p.name}" is the leader's, and this plan has no character yet`,
  'division-by-zero': () => 'division by zero',
  'not-finite': (p) => `${p.name} gives no finite number here`,
  'in-error': (p) => `${p.name} is itself in error`,
} satisfies Record<LanguageCode, (params: Params) => string>

/** What is wrong with a requirement or formula, and where: when it is read, checked or played. */
export class LanguageError extends Error {
  override readonly name = 'LanguageError'

  constructor(
    readonly code: LanguageCode,
    readonly span: Span,
    readonly params: Params = {},
    /** Names that would fit. */
    readonly fits: string[] = [],
  ) {
    super(sentences[code](params))
  }

  /** Column of the fault, from 1. */
  get column(): number {
    return this.span.from + 1
  }
}
