import type { GameEvent } from '../../rules/events.ts'
import type { State } from '../../rules/state.ts'
import type { Branch } from './branch.ts'

/** Told of the walk as it goes; each call is for one branch, with its weight. */
export interface Watcher {
  /** A gate is met for the first time, before it can open. `due`: the stop on whose leaving it is due at the latest. */
  met?(gate: number, stop: number, due: number): void
  /** The due moment of a gate has come (or it is about to open before that). `success`: it is open or could be opened. */
  due?(branch: Branch, gate: number, success: boolean, moment: DueMoment): void
  /** `passes`: how many were made over the place before, where one branch is walked alone. */
  opened?(branch: Branch, gate: number, stop: number, passes: number): void
  ready?(branch: Branch, gate: number, stop: number): void
  left?(branch: Branch, stop: number): void
  /** A place has been entered, and what resets or joins there has. */
  entered?(state: State, stop: number): void
  /** Units are taken (one, but where `takesAtOnce`), or a gate opens: the state is the one in which that is still to come. */
  moved?(cause: Cause, stop: number, units: number, state: State): void
  /** Whether units of a source that can be taken at once may be told of together. */
  readonly takesAtOnce?: boolean
  /** What happened, and what it was due to. The list is of use until it has been told of. */
  events?(events: readonly GameEvent[], cause: Cause, stop: number): void
  /** Whether amounts that change are to be among the events. */
  readonly asksAmounts?: boolean
}

/** When a gate's due moment was noted; `unmet`: it was needed before it was met. */
export type DueMoment = 'meeting' | 'opening' | 'leaving' | 'unmet'

export type Cause = { type: 'source' | 'gate'; index: number } | { type: 'enter' }
