import { LanguageError } from '../../language/language-error.ts'

/** The language's arithmetic (docs/model.md 6), by a plain reading. Truth is 1 and 0. */
export function binaryOf(op: string, left: number, right: number): number {
  const same = Math.abs(left - right) < 1e-9 * Math.max(1, Math.abs(left), Math.abs(right))
  const truth = (holds: boolean) => (holds ? 1 : 0)
  switch (op) {
    case '>=': return truth(same || left > right)
    case '>': return truth(!same && left > right)
    case '<=': return truth(same || left < right)
    case '<': return truth(!same && left < right)
    case '==': return truth(same)
    case '!=': return truth(!same)
    case 'and': return truth(isTrue(left) && isTrue(right))
    case 'or': return truth(isTrue(left) || isTrue(right))
    case '+': return finite(left + right)
    case '-': return finite(left - right)
    case '*': return finite(left * right)
    case '/': return finite(left / right)
    case '^': return finite(left ** right)
    default: return finite(left - right * Math.floor(left / right))
  }
}

export function isTrue(value: number): boolean {
  return Math.abs(value) >= 1e-9
}

function finite(value: number): number {
  if (Number.isFinite(value)) return value
  throw new LanguageError('not-finite', { from: 0, to: 0 })
}

/** What is read, or the other where reading it fails. */
export function orElse<T, U>(read: () => T, other: U): T | U {
  try {
    return read()
  } catch (error) {
    if (error instanceof LanguageError) return other
    throw error
  }
}
