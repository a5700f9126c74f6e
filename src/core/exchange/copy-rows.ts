import { inOrder, type ItemRow, type Records } from '../plan/records.ts'
import { wholeFrom } from '../plan/source.ts'
import { tableText } from './paste.ts'
import { asksText, givesText } from './row-text.ts'

const headings = ['name', 'place', 'kind', 'role', 'gives', 'asks for', 'minutes', 'text']

/** Rows as a table with headings, parted by tabs: what a spreadsheet takes, and what the sheet takes back. */
export function copyRows(records: Records, items: readonly ItemRow[]): string {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const cells = items.map(({ kind, row }) => {
    const place = records.place.get(row.place ?? '')?.name ?? ''
    if (kind === 'gate') return [row.name, place, row.kind, row.role, '', asksText(row), String(row.minutes), row.lockedText]
    const whole = wholeOf(row)
    return [row.name, place, whole.kind, row.role, givesText(whole), whole.requires, String(whole.minutes), '']
  })
  return tableText([headings, ...cells])
}
