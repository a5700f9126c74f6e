import { inOrder, type Records } from '../../../core/plan/records.ts'
import type { WalkMove } from '../../../core/play/walk.ts'
import { numberText } from '../../../core/view/numbers.ts'

/** A move as the log of a walk names it. */
export function moveText(records: Records, move: WalkMove): string {
  const name = (kind: 'source' | 'gate' | 'tally', id: string) => (inOrder(records, kind) as readonly { id: string; name: string }[]).find((row) => row.id === id)?.name ?? id
  if ('go' in move) return 'go'
  if ('take' in move) return `${move.units > 1 ? `${move.units} × ` : ''}${name('source', move.take)}`
  if ('open' in move) return `open ${name('gate', move.open)}`
  if ('give' in move) return `gift: ${numberText(move.amount)} ${name('tally', move.give)}`
  return 'fail' in move ? 'fail and try again' : 'quit and come back'
}
