import type { GateRecord } from '../route/gate-record.ts'
import type { KeptBounds } from './bounds.ts'
import type { GateNotes } from './gate-notes.ts'
import type { KeptStrands } from './strands.ts'

/** Where a walk on strands stood before it entered a stop: one that is the same up to there can go on from it. */
export interface StrandMilestone {
  stop: number
  bounds: KeptBounds
  strands: KeptStrands
  /** By source and gate: how far it had come. */
  sources: Uint8Array
  gates: Uint8Array
  /** Gates of which something was still to be noted. */
  open: readonly GateNotes[]
  /** What had been noted of gates. */
  records: readonly (GateRecord | undefined)[]
}

/** What a walk on strands leaves to the next one of the same portion, or of some of what is in it. All of it could be told. */
export interface StrandPast {
  milestones: readonly StrandMilestone[]
  met: ReadonlyMap<number, GateNotes>
  openings: ReadonlyMap<number, number | null>
}
