import { isTrouble, type ProfileResult, type Verdict } from '../check/result.ts'
import { labelOf } from '../plan/label-of.ts'
import { keysOf, type Records } from '../plan/records.ts'

/** A verdict that a change would alter, with the gate's id and name; before it null: the change adds the gate. */
export interface Turn {
  gate: string
  name: string
  before: Verdict | null
  after: Verdict
}

/**
 * What a change alters of the verdicts of a route, for one kind of player: of gates that it adds those in trouble, after all others; of
 * gates that it removes nothing. `records`: the plan after it.
 */
export function turnsBetween(before: ProfileResult, after: ProfileResult, records: Records): Turn[] {
  const was = new Map(before.gates.map(({ gate, verdict }) => [gate, verdict]))
  const turned = after.gates.filter(({ gate, verdict }) => was.has(gate) && was.get(gate) !== verdict)
  const added = after.gates.filter(({ gate, verdict }) => !was.has(gate) && isTrouble(verdict))
  return [...turned, ...added].map(({ gate, verdict }) => ({ gate, name: nameOf(records, gate), before: was.get(gate) ?? null, after: verdict }))
}

function nameOf(records: Records, id: string): string {
  const gate = records.gate.get(keysOf(records, 'gate').get(id) ?? '')
  return gate ? labelOf(gate) : id
}
