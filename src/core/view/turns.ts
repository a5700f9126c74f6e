import type { ProfileResult, Verdict } from '../check/result.ts'

/** A verdict that a change would alter. */
export interface Turn {
  gate: string
  before: Verdict
  after: Verdict
}

/** What a change alters of the verdicts of a route, for one kind of player; of gates that it adds or removes nothing. */
export function turnsBetween(before: ProfileResult, after: ProfileResult): Turn[] {
  const verdicts = new Map(after.gates.map(({ gate, verdict }) => [gate, verdict]))
  return before.gates.flatMap(({ gate, verdict }) => {
    const now = verdicts.get(gate)
    return now === undefined || now === verdict ? [] : [{ gate, before: verdict, after: now }]
  })
}
