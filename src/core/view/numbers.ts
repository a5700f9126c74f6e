/** How numbers are written everywhere: with a thousands comma, a true minus, and no more decimals than they have. */

export function numberText(n: number): string {
  const [whole, fraction] = String(Math.abs(Math.round(n * 10_000) / 10_000)).split('.')
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',')
  return `${n < 0 ? '−' : ''}${grouped}${fraction ? `.${fraction}` : ''}`
}

const millions = new Intl.NumberFormat('en', { notation: 'compact', maximumFractionDigits: 2 })

/** Where there is little room: from a million on as `2.5M`. */
export function shortNumberText(n: number): string {
  return Math.abs(n) < 1_000_000 ? numberText(n) : millions.format(n).replace('-', '−')
}

/** Thousands parted by commas: `1,200`. Another comma between digits parts no thousands: `1,5`, `0,125`. */
const thousands = /(?<![\d.,])[1-9]\d{0,2}(?:,\d{3})+(?![\d,])/g

/** Numbers as they are reckoned with: without commas in them, and with the minus of the keyboard for that of print. */
export function plainNumbers(text: string): string {
  return text.replaceAll('−', '-').replace(thousands, (number) => number.replaceAll(',', ''))
}

/** A number as it is typed or shown: with commas between thousands, or one before decimals, or with neither; NaN: it is none. */
export function typedNumber(text: string): number {
  const plain = plainNumbers(text).trim()
  return plain === '' ? NaN : Number(plain.replace(/^([+-]?\d+),(\d+)$/, '$1.$2'))
}

/** With its sign: `+2`, `−1`, `0`. */
export function marginText(n: number): string {
  return n > 0 ? `+${numberText(n)}` : numberText(n)
}

export function shortMarginText(n: number): string {
  return n > 0 ? `+${shortNumberText(n)}` : shortNumberText(n)
}

/** A probability in percent, never rounded to a certainty that it is not. `mayBeCertain` false: all of some drawn walks, or none, are not all that there are. */
export function percentText(p: number, mayBeCertain = true): string {
  if (mayBeCertain && (p <= 0 || p >= 1)) return p <= 0 ? '0 %' : '100 %'
  const percent = p * 100
  if (percent < 1) return '< 1 %'
  return percent > 99 ? '> 99 %' : `${Math.round(percent)} %`
}

/** `1 unit`, `3 units`. */
export function countText(n: number, one: string, many = `${one}s`): string {
  return `${numberText(n)} ${n === 1 ? one : many}`
}

/** Minutes as a person says them. */
export function minutesText(minutes: number): string {
  if (minutes < 60) return `${numberText(Math.round(minutes * 10) / 10)} min`
  const hours = Math.floor(minutes / 60)
  return `${numberText(hours)} h ${Math.round(minutes - hours * 60)} min`
}
