import { LanguageError } from './language-error.ts'
import { nameErrors, type Vocabulary } from './names.ts'
import { parse, type Node } from './parse.ts'

export type Reading = { node: Node | null; errors: LanguageError[] }

/** The tree of a text, or null where it is empty or cannot be read. */
export function parseOrNull(text: string): Node | null {
  try {
    return parse(text)
  } catch (error) {
    if (error instanceof LanguageError) return null
    throw error
  }
}

/** Reads a text and checks its names: all errors, and the tree where it could be read at all. */
export function readText(text: string, vocabulary: Vocabulary): Reading {
  try {
    const node = parse(text)
    return { node, errors: node ? nameErrors(node, vocabulary) : [] }
  } catch (error) {
    if (error instanceof LanguageError) return { node: null, errors: [error] }
    throw error
  }
}
