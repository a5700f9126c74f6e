import { LanguageError } from './language-error.ts'
import { nameErrors, type Vocabulary } from './names.ts'
import { parse, type Node } from './parse.ts'

export type Reading = { node: Node | null; errors: LanguageError[] }

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
