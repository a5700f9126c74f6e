import { mentions } from '../language/names.ts'
import { parseOrNull } from '../language/requirement.ts'
import { kindNames, type KindName } from '../plan/kinds.ts'
import { labelOf } from '../plan/label-of.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { referencesOf, textsOf } from '../plan/references.ts'

/** What names a record, in its fields or in a requirement: the names of those records, in plan order. */
export function usersOfId(records: Records, kind: KindName, id: string): string[] {
  return kindNames.flatMap((other) => (inOrder(records, other) as readonly { id: string; name?: string }[]).filter((row) => {
    const texts = textsOf(other, row).map(({ text }) => parseOrNull(text))
    const isMentioned = texts.some((node) => node && mentions(node).some((mention) => mention.kind === kind && mention.id === id))
    return isMentioned || referencesOf(other, row).some((reference) => reference.kind === kind && reference.id === id)
  }).map(labelOf))
}
