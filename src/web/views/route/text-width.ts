/** How wide texts are drawn: letters are measured once for each font, and added up. By font the widths of letters by their code. */
const measured = new Map<string, Float32Array>()
const codes = 65_536
let context: CanvasRenderingContext2D | null = null

/** The width of a text in pixels, in a font as CSS writes it. */
export function textWidth(text: string, font: string): number {
  let widths = measured.get(font)
  if (!widths) measured.set(font, (widths = new Float32Array(codes)))
  let sum = 0
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    const width = widths[code]!
    sum += width === 0 ? (widths[code] = measure(text[i]!, font)) : width
  }
  return sum
}

/** Letters measured before a font was there are not those of the font: they are measured again. */
export function forgetWidths(): void {
  measured.clear()
}

/** Where nothing can be drawn all letters are as wide as this. */
const anyLetter = 7

function measure(letter: string, font: string): number {
  if (typeof document !== 'undefined') context ??= document.createElement('canvas').getContext('2d')
  if (!context) return anyLetter
  context.font = font
  return context.measureText(letter).width
}

/** Lines that a text takes when it is broken between words, in so many pixels. */
export function linesOf(text: string, room: number, font: string): number {
  if (textWidth(text, font) <= room) return 1
  const blank = textWidth(' ', font)
  let lines = 1
  let used = 0
  for (const word of text.split(' ')) {
    const width = textWidth(word, font)
    if (used > 0 && used + blank + width > room) {
      lines++
      used = 0
    }
    // A word longer than a line is broken within.
    lines += used === 0 ? Math.max(0, Math.ceil(width / room) - 1) : 0
    used += width + (used > 0 ? blank : 0)
  }
  return lines
}
