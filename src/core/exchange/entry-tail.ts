import type { RecordOf } from '../plan/kinds.ts'
import { placeKinds } from '../plan/place.ts'
import { sourceKinds } from '../plan/source.ts'

export type SourceKind = RecordOf['source']['kind']

/** What the last words of a line may say of the whole. */
export interface Tail {
  role: 'main' | 'side'
  minutes: number
  kind: SourceKind
  respawns: boolean
  placeKind: RecordOf['place']['kind']
  goal: boolean
}

/** Says what the last words mean, and how many they are; null: nothing. */
type Ending = (words: readonly string[], last: string) => { words: number; says: Partial<Tail> } | null

const oneWord = (says: Partial<Tail>) => ({ words: 1, says })
const among = <T extends string>(all: readonly T[], word: string): T | undefined => all.find((one) => one === word)

const endings = {
  role: (_, last) => (last === 'main' || last === 'side' ? oneWord({ role: last }) : null),
  minutes: (words, last) => (/^min(utes?)?$/.test(last) && /^\d+(\.\d+)?$/.test(words.at(-2) ?? '') ? { words: 2, says: { minutes: Number(words.at(-2)) } } : null),
  respawns: (_, last) => (last === 'respawns' || last === 'respawning' ? oneWord({ respawns: true }) : null),
  // What is left has a name and an amount; a place at least a name.
  kind: (words, last) => (words.length > 2 && among(sourceKinds, last) ? oneWord({ kind: last as SourceKind }) : null),
  placeKind: (words, last) => (words.length > 1 && among(placeKinds, last) ? oneWord({ placeKind: last as Tail['placeKind'] }) : null),
  goal: (words, last) => (words.length > 1 && last === 'goal' ? oneWord({ goal: true }) : null),
} satisfies Partial<Record<keyof Tail, Ending>>

const endingsOf = {
  source: [endings.role, endings.minutes, endings.respawns, endings.kind],
  gate: [endings.role, endings.minutes],
  place: [endings.minutes, endings.placeKind, endings.goal],
} satisfies Record<string, readonly Ending[]>

/** Takes words off the end of a line, in any order, that say something of the whole. */
export function takeTail(words: readonly string[], of: keyof typeof endingsOf): { rest: string[]; tail: Partial<Tail> } {
  const rest = [...words]
  const tail: Partial<Tail> = {}
  for (;;) {
    const last = rest.at(-1)?.toLowerCase() ?? ''
    const found = endingsOf[of].map((ending) => ending(rest, last)).find((read) => read !== null)
    if (!found) return { rest, tail }
    Object.assign(tail, found.says)
    rest.splice(-found.words)
  }
}
