import { kindEntry, kindNames, type KindName } from '../plan/kinds.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { countText } from '../view/numbers.ts'
import type { Diff } from './diff.ts'
import { freeId, renameId, setFields } from './edits.ts'
import { slugFrom } from './slug.ts'
import { Steps } from './steps.ts'

export interface Replacement {
  kind: KindName
  key: string
  what: 'name' | 'id' | 'text for the player'
  before: string
  after: string
}

export interface ReplaceOptions {
  find: string
  by: string
  matchCase: boolean
  names: boolean
  ids: boolean
}

/** Everything that finding and replacing would change: in names and in what players read as typed, in ids as a slug. */
export function replacements(records: Records, { find, by, matchCase, names, ids }: ReplaceOptions): Replacement[] {
  if (find === '') return []
  const inText = replacer(find, by, matchCase)
  const slug = slugFrom(find)
  const inId = slug ? replacer(slug, slugFrom(by), true) : (id: string) => id
  return kindNames.flatMap((kind) => inOrder(records, kind).flatMap((row): Replacement[] => {
    const { key, id, name, lockedText } = row as { key: string; id: string; name?: string; lockedText?: string }
    const found = (what: Replacement['what'], before: string | undefined, change: (text: string) => string): Replacement[] => {
      const after = before === undefined ? undefined : change(before)
      return before === undefined || after === undefined || after === before ? [] : [{ kind, key, what, before, after }]
    }
    return [...(names ? [...found('name', name, inText), ...found('text for the player', lockedText, inText)] : []), ...(ids ? found('id', id, inId) : [])]
  }))
}

function replacer(find: string, by: string, matchCase: boolean): (text: string) => string {
  const pattern = new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), matchCase ? 'g' : 'gi')
  return (text) => text.replace(pattern, () => by)
}

/** All replacements as one step. An id that would not be one, or is taken, gets the nearest that is free. */
export function replaceAll(records: Records, all: readonly Replacement[], name: string): Diff {
  const steps = new Steps(records)
  for (const { kind, key, what, before, after } of all) {
    const { records: now } = steps
    steps.add(what === 'id' ? renameId(now, kind, key, freeId(now, kind, after || before)) : setFields(now, kind, key, { [what === 'name' ? 'name' : 'lockedText']: after } as never, name))
  }
  return steps.as(name)
}

export function replaceName({ find, by }: ReplaceOptions, all: readonly Replacement[]): string {
  return `replace ${find} by ${by || 'nothing'} (${countText(all.length, 'place')})`
}

export function replacementLabel({ kind, what }: Replacement): string {
  return `${kindEntry(kind).word}, ${what}`
}
