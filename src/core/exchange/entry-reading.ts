import type { FreeGate } from '../change/behind-gate.ts'
import type { Vocabulary } from '../language/names.ts'
import type { RecordOf } from '../plan/kinds.ts'
import type { TallyName } from './gives.ts'
import { faultOf, type LineFault } from './line-fault.ts'

/** What the entry line needs to know of the plan. */
export interface EntryContext {
  tallies: readonly TallyName[]
  vocabulary: Vocabulary
  /** Ids and names of places, and the passages out of the present one. */
  places: readonly { id: string; name: string }[]
  waysOut: readonly { passage: string; to: string }[]
  /** Gates of the place to which a new one joins itself that bar no way yet. */
  freeGates: readonly FreeGate[]
  patterns: readonly { id: string; name: string }[]
}

/** How a line was read: what it would add, or what is missing in it. */
export type EntryReading =
  | { kind: 'source'; record: Omit<RecordOf['source'], 'id'>; says: string }
  | { kind: 'gate'; record: Omit<RecordOf['gate'], 'id'>; says: string }
  | { kind: 'place'; record: Omit<RecordOf['place'], 'id'>; says: string }
  | { kind: 'tally'; record: Omit<RecordOf['tally'], 'id'>; says: string }
  | ({ kind: 'nothing' } & LineFault)

export function nothing(fault: string | LineFault): EntryReading {
  return { kind: 'nothing', ...faultOf(fault) }
}
