/** How wide texts are drawn: letters are measured once for each font, and added up. By font the widths of letters by their code. */
const measured = new Map<string, Float32Array>()
/** Letters that stand together are a little narrower than each alone. By font the widths of words that may come to the end of a line. */
const words = new Map<string, Map<string, number>>()
const codes = 65_536
let context: CanvasRenderingContext2D | null = null

/** The most that a text is wide in pixels, in a font as CSS writes it. */
function widthAtMost(text: string, font: string): number {
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
  words.clear()
}

/** Where nothing can be drawn all letters are as wide as this. */
const anyLetter = 7
const mostWords = 20_000

function measure(text: string, font: string): number {
  if (typeof document !== 'undefined') context ??= document.createElement('canvas').getContext('2d')
  if (!context) return anyLetter * text.length
  context.font = font
  return context.measureText(text).width
}

function wordWidth(word: string, font: string): number {
  let widths = words.get(font)
  if (!widths) words.set(font, (widths = new Map()))
  const known = widths.get(word)
  if (known !== undefined) return known
  const width = measure(word, font)
  if (widths.size < mostWords) widths.set(word, width)
  return width
}

/** Lines that a text takes when it is broken between words, in so many pixels. */
export function linesOf(text: string, room: number, font: string): number {
  if (widthAtMost(text, font) <= room) return 1
  const blank = wordWidth(' ', font)
  let lines = 1
  let used = 0
  for (const word of text.split(' ')) {
    const width = wordWidth(word, font)
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
