import type { Diff } from '../../change/diff.ts'
import type { Verdict } from '../result.ts'

export const fixKinds = ['threshold', 'source', 'place', 'curve'] as const
export type FixKind = (typeof fixKinds)[number]

/** A change of the plan that would make a gate clear, as far as is known before it is tried. */
export interface Proposal {
  kind: FixKind
  /** What it does, as an order: "ask for level >= 7 instead of level >= 9". */
  says: string
  diff: Diff
}

/** A gate whose verdict a change alters, for one route and one kind of player. */
export interface Alteration {
  gate: string
  route: string
  profile: string
  before: Verdict
  after: Verdict
}

/** A change that was tried and does make the gate clear, with every other verdict that it alters (docs/checks.md 5). */
export interface Fix extends Proposal {
  alters: Alteration[]
}
