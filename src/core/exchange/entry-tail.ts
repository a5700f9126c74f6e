import type { RecordOf } from '../plan/kinds.ts'
import { sourceKinds } from '../plan/source.ts'

export type SourceKind = RecordOf['source']['kind']

/** Words at the end of a line that say something of the whole: taken off one by one. */
export interface Tail {
  role: 'main' | 'side'
  minutes: number
  kind: SourceKind | undefined
  respawns: boolean
}

export function takeTail(words: string[]): { rest: string[]; tail: Tail } {
  const rest = [...words]
  const tail: Tail = { role: 'main', minutes: 0, kind: undefined, respawns: false }
  for (;;) {
    const last = rest.at(-1)?.toLowerCase() ?? ''
    const isMinutes = /^min(utes?)?$/.test(last) && /^\d+(\.\d+)?$/.test(rest.at(-2) ?? '')
    if (last === 'main' || last === 'side') tail.role = last
    else if (last === 'respawns' || last === 'respawning') tail.respawns = true
    else if ((sourceKinds as readonly string[]).includes(last) && rest.length > 2) tail.kind = last as SourceKind
    else if (isMinutes) tail.minutes = Number(rest.at(-2))
    else return { rest, tail }
    rest.splice(isMinutes ? -2 : -1)
  }
}

