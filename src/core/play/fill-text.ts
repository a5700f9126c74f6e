import { numberText } from '../view/numbers.ts'

/** A gate's text as the player reads it, its words in braces filled in with numbers (docs/model.md 5); without numbers they are a dash. */
export function fillText(text: string, of: { need: number; have: number } | undefined): string {
  const numbers = of && { ...of, short: Math.abs(of.need - of.have) }
  return text.replace(/\{(need|have|short)\}/g, (_, word: 'need' | 'have' | 'short') => (numbers ? numberText(numbers[word]) : '–'))
}
