import { isTrouble, type GateResult, type Verdict } from '../check/result.ts'
import { labelOf } from '../plan/label-of.ts'
import { keysOf, type Records } from '../plan/records.ts'
import { verdictOrder, verdictWords } from './verdict-text.ts'

/** A verdict that a change would alter, with the gate's id and name; before it null: the change adds the gate. */
export interface Turn {
  gate: string
  name: string
  before: Verdict | null
  after: Verdict
}

/** The same of a gate that was there before. */
export interface Turned extends Turn {
  before: Verdict
}

/** What was told of gates, for one kind of player on one route. */
type Told = { gates: readonly Pick<GateResult, 'gate' | 'verdict'>[] }

/**
 * What a change alters of the verdicts of a route, for one kind of player: of gates that it adds those in trouble, after all others; of
 * gates that it removes nothing. `records`: the plan after it.
 */
export function turnsBetween(before: Told, after: Told, records: Records): Turn[] {
  const all = alteredBetween(before, after, records)
  return [...all.filter(isTurned), ...all.filter((turn) => !isTurned(turn) && isTrouble(turn.after))]
}

/** The same, without gates that it adds. */
export function turnedBetween(before: Told, after: Told, records: Records): Turned[] {
  return alteredBetween(before, after, records).filter(isTurned)
}

const isTurned = (turn: Turn): turn is Turned => turn.before !== null

/** Every gate that has another verdict than before, or was not there. */
function alteredBetween(before: Told, after: Told, records: Records): Turn[] {
  const [old, told] = apart(before.gates, after.gates)
  const was = new Map(old.map(({ gate, verdict }) => [gate, verdict]))
  return told.filter(({ gate, verdict }) => was.get(gate) !== verdict).map(({ gate, verdict }) => ({ gate, name: nameOf(records, gate), before: was.get(gate) ?? null, after: verdict }))
}

/** Of two lists what is not the very same in both: most changes leave most results as they were. */
function apart<T>(a: readonly T[], b: readonly T[]): [readonly T[], readonly T[]] {
  return a.length === b.length ? [a.filter((one, i) => one !== b[i]), b.filter((one, i) => one !== a[i])] : [a, b]
}

/** Whether fewer players come through, or nobody does any more. */
export function isWorse({ before, after }: Turn): boolean {
  return isTrouble(after) && (before === null || before === 'off_route' || verdictOrder.indexOf(after) > verdictOrder.indexOf(before))
}

/** `clear → short` */
export function turnText({ before, after }: Pick<Turned, 'before' | 'after'>): string {
  return `${verdictWords[before].one} → ${verdictWords[after].one}`
}

function nameOf(records: Records, id: string): string {
  const gate = records.gate.get(keysOf(records, 'gate').get(id) ?? '')
  return gate ? labelOf(gate) : id
}
