import { asksText, conditionText, givesText } from '../../../core/exchange/row-text.ts'
import { labelOf } from '../../../core/plan/label-of.ts'
import type { Records } from '../../../core/plan/records.ts'
import { countText, numberText } from '../../../core/view/numbers.ts'
import { placeSumText, type PlaceSum } from '../../../core/view/place-sums.ts'
import type { SheetRow } from '../../../core/view/sheet.ts'
import { wholeOf } from './sheet-actions.ts'

/** What a row gives or asks for, with the pattern that says it. */
export function askedText(records: Pick<Records, 'pattern'>, row: SheetRow): string {
  if (row.type === 'gate') return asksText(row.gate)
  if (row.type !== 'source') return ''
  const { pattern } = row.source
  return `${givesText(wholeOf(records, row.source))}${pattern ? ` (${pattern})` : ''}${conditionText(row.source)}`
}

/** What a row is called, and what is said behind it. */
export function nameOf(row: SheetRow): { name: string; says: string } {
  switch (row.type) {
    case 'heading':
      return { name: row.text, says: '' }
    case 'place':
      return { name: labelOf(row.place), says: row.again ? ' · visited again' : '' }
    case 'source':
      return { name: labelOf(row.source), says: '' }
    case 'gate':
      return { name: labelOf(row.gate), says: row.gate.stays === 'live' ? ' · live' : '' }
  }
}

/** What a place is, how long it takes, and what it gives in all. */
export function placeLine({ place, folded, again, items }: SheetRow & { type: 'place' }, sums: readonly PlaceSum[]): string {
  const all = again ? '' : placeSumText(sums)
  return [`${place.kind}${place.goal ? ', goal' : ''}`, `${numberText(place.minutes)} min`, ...(folded ? [countText(items.length, 'row')] : []), ...(all ? [all] : [])].join(' · ')
}
