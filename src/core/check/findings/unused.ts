import { mentions } from '../../language/names.ts'
import { parseOrNull } from '../../language/requirement.ts'
import { kindEntry, kindNames, type KindName } from '../../plan/kinds.ts'
import { labelOf } from '../../plan/label-of.ts'
import { inOrder, type Records } from '../../plan/records.ts'
import { eachReference, eachText, type Told } from '../../plan/references.ts'
import { remembered } from '../../plan/remembered.ts'
import { finding, type FindingRule } from './finding-rule.ts'

const readKinds = ['tally', 'curve', 'pattern'] as const satisfies KindName[]
type Read = ReadonlyMap<KindName, ReadonlySet<string>>

/** The ids of these kinds that a requirement or another record of the game reads; what only gives a tally does not read it. */
function idsRead(records: Records): Read {
  const byKind = kindNames.filter((kind) => !kindEntry(kind).loose).map((kind) => idsReadBy(records, kind))
  return new Map(readKinds.map((kind) => [kind, new Set(byKind.flatMap((read) => [...read.get(kind)!]))]))
}

/** By what was read, what it reads: most edits are of one kind. */
const known = new WeakMap<object, Read>()

function idsReadBy(records: Records, kind: KindName): Read {
  return remembered(known, records[kind], () => {
    const read = new Map<KindName, Set<string>>(readKinds.map((named) => [named, new Set()]))
    const texts = new Set<string>()
    const tellReference: Told = (id, { named, steps }) => {
      if (!steps.includes('yields')) read.get(named!)?.add(id)
    }
    const tellText: Told = (text) => texts.add(text)
    for (const row of inOrder(records, kind)) {
      eachReference(kind, row, tellReference)
      eachText(kind, row, tellText)
    }
    for (const text of texts) {
      const node = parseOrNull(text)
      if (node) for (const mention of mentions(node)) read.get(mention.kind)?.add(mention.id)
    }
    return read
  })
}

/** unused: a tally, curve or pattern that nothing reads, a form that no level of its character shows, and a passage that nobody comes to. */
export const unused: FindingRule = ({ records, game, held }) => {
  const read = idsRead(records)
  const unread = readKinds.flatMap((kind) => (inOrder(records, kind) as readonly { id: string; name: string }[]).filter((row) => !read.get(kind)!.has(row.id)).map((row) => finding('unused', 'note', kind, row.id, `Nothing reads ${labelOf(row)}.`)))
  const shown = inOrder(records, 'character').flatMap((character) => {
    const curve = inOrder(records, 'curve').find((row) => row.id === character.curve)
    return character.forms.filter((form) => curve && (form.from > curve.maxLevel || form.to < curve.firstLevel)).map((form) => finding('unused', 'note', 'character', character.id, `${labelOf(form)} of ${labelOf(character)} is never shown.`))
  })
  const isReached = (place: number) => held.has('places', place)
  const unwalked = game.passages.filter(({ from, to, twoWay }) => !isReached(from) && !(twoWay && isReached(to))).map((passage) => finding('unused', 'note', 'passage', passage.id, `Nobody ever comes to where the passage ${passage.id} could be taken.`))
  return [...unread, ...shown, ...unwalked]
}
