import { LanguageError } from './language-error.ts'

/** A piece of the text: offsets from 0, the end not included. */
export interface Span {
  from: number
  to: number
}

export type Token = Span & { type: 'number' | 'word' | 'symbol' | 'end'; text: string }

export const longestText = 2000

const pattern = /(\s+|#[^\n]*)|([0-9]+(?:\.[0-9]+)?(?:[eE][+-]?[0-9]+)?)|([A-Za-z_][A-Za-z0-9_]*)|(>=|<=|==|!=|[-+*/%^()<>,])/y

/** Cuts a text into tokens, the last of type `end`; white space and comments are left out (docs/model.md 6). */
export function tokenize(text: string): Token[] {
  if (text.length > longestText) throw new LanguageError('too-long', { from: longestText, to: text.length }, { most: longestText })
  const tokens: Token[] = []
  let at = 0
  while (at < text.length) {
    pattern.lastIndex = at
    const match = pattern.exec(text)
    if (!match) throw new LanguageError('bad-character', { from: at, to: at + 1 }, { text: text[at]! })
    const [found, , number, word, symbol] = match
    const type = number !== undefined ? 'number' : word !== undefined ? 'word' : symbol !== undefined ? 'symbol' : null
    if (type) tokens.push({ type, text: found, from: at, to: pattern.lastIndex })
    at = pattern.lastIndex
  }
  tokens.push({ type: 'end', text: '', from: text.length, to: text.length })
  return tokens
}
