import { operators } from './operators.ts'

/** Every word that means something in the language: none of them can be a tally's id (docs/model.md 6). */
export const reservedWords: ReadonlySet<string> = new Set([
  'and', 'or', 'not',
  ...Object.keys(operators.names),
  ...Object.keys(operators.functions),
])
