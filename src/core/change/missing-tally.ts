import type { Tally } from '../plan/tally.ts'
import type { Records } from '../plan/records.ts'
import type { Edited } from './diff.ts'
import { addRecord, freeId } from './edits.ts'
import { shapeFault } from './shape.ts'
import { slugFrom } from './slug.ts'

/** A tally that a text names and the plan has not: how it would be called, and its kinds, the likeliest first. */
export interface MissingTally {
  id: string
  name: string
  kinds: TallyKind[]
}

export type TallyKind = Tally['kind']

/** As what a text names a tally, which says what kind it most likely is. */
export type NamedAs = 'given' | 'paid' | 'asked' | 'truth'

const likeliest: Record<NamedAs, TallyKind> = { given: 'collectible', paid: 'currency', asked: 'collectible', truth: 'flag' }

/** The tally of which a name makes one; undefined where it makes none. `isFirst`: the plan has no tally yet. */
export function missingTally(name: string, as: NamedAs, isFirst = false): MissingTally | undefined {
  const id = slugFrom(name)
  if (id === '') return undefined
  const words = name.replace(/_/g, ' ')
  const first = isFirst ? 'experience' : likeliest[as]
  const others = (['collectible', 'currency', 'score', 'flag', 'experience'] as const).filter((kind) => kind !== first)
  return { id, name: `${words[0]!.toUpperCase()}${words.slice(1)}`, kinds: [first, ...others] }
}

/** A new tally with what is usual for its kind. */
export function plainTally(name: string, kind: TallyKind): Omit<Tally, 'id'> {
  return { name, kind, start: 0, min: 0, max: kind === 'flag' ? 1 : null, resets: 'never', saved: true }
}

/** The change that adds such a tally, or why the plan cannot have it. */
export function addMissingTally(records: Records, { name }: MissingTally, kind: TallyKind, key: string): Edited {
  const diff = addRecord(records, 'tally', key, { id: freeId(records, 'tally', name), ...plainTally(name, kind) })
  const says = shapeFault(records, diff)
  return says === null ? { diff } : { says }
}
