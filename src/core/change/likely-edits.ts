import { contentsByPlace, inOrder, type ItemRow, type Records, type Row } from '../plan/records.ts'
import type { Diff } from './diff.ts'
import { moveItem, neighbourSpot, setFields } from './edits.ts'
import { withThresholds } from './threshold.ts'

type Edit = (records: Records, item: ItemRow) => Diff | null

/** What designers do most, and to what. */
const habits: readonly { kind: ItemRow['kind']; edit: Edit }[] = [
  { kind: 'source', edit: withOneMore },
  { kind: 'gate', edit: withHigherThresholds },
  { kind: 'source', edit: movedDown },
]

/**
 * `many` edits such as a designer may make next: counts, thresholds and rows in turn, spread along the plan in its order. Each is an edit of
 * the plan as it is; null where nothing is left to be edited so.
 */
export function* likelyEdits(records: Records, many: number): Generator<Diff | null> {
  const contents = contentsByPlace(records)
  const items = inOrder(records, 'place').flatMap(({ key }) => contents.get(key) ?? [])
  for (let i = 0; i < many; i++) {
    const { kind, edit } = habits[i % habits.length]!
    const from = Math.floor((i / many) * items.length)
    const item = items.find((one, at) => at >= from && one.kind === kind)
    yield item ? edit(records, item) : null
  }
}

function withOneMore(records: Records, { row }: ItemRow): Diff {
  return setFields(records, 'source', row.key, { count: (row as Row<'source'>).count + 1 }, 'one unit more')
}

function withHigherThresholds(records: Records, { row }: ItemRow): Diff {
  const leader = inOrder(records, 'character')[0]?.id ?? null
  return setFields(records, 'gate', row.key, withThresholds(row as Row<'gate'>, leader, () => true, ({ at }) => at + 1), 'higher thresholds')
}

function movedDown(records: Records, item: ItemRow): Diff | null {
  const spot = neighbourSpot(records, item, 1, inOrder(records, 'place').map(({ key }) => key))
  return spot && moveItem(records, item, spot)
}
