const token = /\s+|"(?:[^"\\]|\\.)*"|[{}[\],:]|[^\s{}[\],:"]+/y

/**
 * The line, from 1, on which the value at each path of a JSON text begins, by the path's text (`places[2].contents[0].gate`).
 * The text is one that JSON.parse takes.
 */
export function jsonLines(text: string): Map<string, number> {
  const lines = new Map<string, number>()
  const scanner = new Scanner(text)
  scanner.value('', lines)
  return lines
}

class Scanner {
  private at = 0
  private line = 1

  constructor(private readonly text: string) {}

  value(path: string, lines: Map<string, number>): void {
    const first = this.next()
    lines.set(path, this.line)
    if (first === '{') this.object(path, lines)
    if (first === '[') this.list(path, lines)
  }

  private object(path: string, lines: Map<string, number>): void {
    for (let key = this.next(); key !== '}' && key !== ''; key = this.next()) {
      if (key === ',') continue
      this.next()
      this.value(path === '' ? (JSON.parse(key) as string) : `${path}.${JSON.parse(key) as string}`, lines)
    }
  }

  private list(path: string, lines: Map<string, number>): void {
    for (let i = 0; this.peek() !== ']' && this.peek() !== ''; i++) {
      this.value(`${path}[${i}]`, lines)
      if (this.peek() === ',') this.next()
    }
    this.next()
  }

  private peek(): string {
    const { at, line } = this
    const found = this.next()
    this.at = at
    this.line = line
    return found
  }

  /** The next token that is no white space; empty at the end. */
  private next(): string {
    for (;;) {
      token.lastIndex = this.at
      const found = token.exec(this.text)?.[0] ?? ''
      this.at += found.length
      for (const letter of found) if (letter === '\n') this.line++
      if (found === '' || !/^\s/.test(found)) return found
    }
  }
}

