import type { Diff } from '../../change/diff.ts'
import { apply } from '../../change/diff.ts'
import { setFields } from '../../change/edits.ts'
import { labelOf } from '../../plan/label-of.ts'
import { inOrder, type Records } from '../../plan/records.ts'
import { wholeFrom } from '../../plan/source.ts'
import { compile } from '../../rules/compile.ts'
import { numberText } from '../../view/numbers.ts'
import type { LockoutBound } from '../lockout/bound.ts'
import { checkLockouts } from '../lockout/lockout-check.ts'
import type { LockoutPart, Move } from '../result.ts'

export type LockoutKind = 'stuck' | 'forcedGrind'

/** A change that mends the way into a lock-out that the witness shows. */
export interface LockoutFix {
  /** What it does, as an order. */
  says: string
  diff: Diff
  /** What a player lacks in a lock-out that remains after it, which is harder to come by; null: none remains. */
  remains: string | null
}

type Proposal = Pick<LockoutFix, 'says' | 'diff'>

/** Proposals tried for one lock-out: each is a search of its own. */
const mostTried = 12

/**
 * Changes of one number or passage after which nobody comes into a lock-out any more, or only by more moves than its witness
 * has; each was tried by searching the changed plan within the bound (docs/checks.md 5).
 */
export function* lockoutFixes(records: Records, kind: LockoutKind, before: LockoutPart, bound: LockoutBound): Generator<LockoutFix> {
  const witness = before.witness ?? []
  let tried = 0
  for (const proposal of proposals(records, kind, witness)) {
    if (++tried > mostTried) return
    const after = checkLockouts(compile(apply(records, proposal.diff)).game, bound)[kind]
    const isMended = after.result === 'none' || (after.result === 'found' && after.witness!.length > witness.length)
    if (isMended) yield { ...proposal, remains: after.result === 'none' ? null : (after.missing ?? 'it takes more moves') }
  }
}

function* proposals(records: Records, kind: LockoutKind, witness: readonly Move[]): Generator<Proposal> {
  yield* bothWays(records, witness)
  const spent = spentIn(records, witness)
  for (const [tally, amount] of spent) {
    yield* cheaper(records, tally)
    yield* moreOf(records, tally, amount)
    if (kind === 'stuck') yield* withoutEnd(records, tally)
  }
}

/** A one-way passage that the witness goes through, the last first, leads both ways. */
function* bothWays(records: Records, witness: readonly Move[]): Generator<Proposal> {
  const gone = [...new Set(witness.flatMap((move) => ('go' in move ? [move.go] : [])).reverse())]
  for (const id of gone) {
    const passage = inOrder(records, 'passage').find((row) => row.id === id)
    if (passage && !passage.twoWay) yield { says: `let ${id} lead both ways`, diff: setFields(records, 'passage', passage.key, { twoWay: true }, `${id} leads both ways`) }
  }
}

/** By tally what the witness spends and uses up of it, the most first. */
function spentIn(records: Records, witness: readonly Move[]): [string, number][] {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const costs = new Map([
    ...inOrder(records, 'source').map((row) => [row.id, wholeOf(row).takes] as const),
    ...inOrder(records, 'gate').map((row) => [`gate ${row.id}`, row.costs] as const),
  ])
  const spent = new Map<string, number>()
  for (const move of witness) {
    for (const { tally, amount } of ('take' in move ? costs.get(move.take) : 'open' in move ? costs.get(`gate ${move.open}`) : []) ?? []) spent.set(tally, (spent.get(tally) ?? 0) + amount)
  }
  return [...spent].sort(([, a], [, b]) => b - a)
}

/** A main gate costs nothing of the tally any more: what it asks for is only to be had. */
function* cheaper(records: Records, tally: string): Generator<Proposal> {
  for (const gate of inOrder(records, 'gate').filter(({ role, costs }) => role === 'main' && costs.some((cost) => cost.tally === tally))) {
    const amount = gate.costs.find((cost) => cost.tally === tally)!.amount
    const costs = gate.costs.filter((cost) => cost.tally !== tally)
    yield { says: `let ${labelOf(gate)} cost no ${tally} (${numberText(amount)} now)`, diff: setFields(records, 'gate', gate.key, { costs }, `${labelOf(gate)} costs no ${tally}`) }
  }
}

/** Sources that everyone can come to give as much more as is spent. */
function* moreOf(records: Records, tally: string, amount: number): Generator<Proposal> {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  for (const row of inOrder(records, 'source').slice(0, 400)) {
    const { yields, count } = wholeOf(row)
    const at = yields.findIndex((y) => y.tally === tally && y.min > 0)
    if (at < 0 || row.requires !== '') continue
    const more = Math.ceil(amount / count)
    const raised = yields.map((y, i) => (i === at ? { ...y, min: y.min + more, max: y.max + more } : y))
    yield { says: `let ${labelOf(row)} give ${numberText(more)} ${tally} more a unit`, diff: setFields(records, 'source', row.key, { yields: raised }, `${labelOf(row)} gives ${numberText(more)} more ${tally}`) }
    return
  }
}

/** A source of the tally can be repeated. */
function* withoutEnd(records: Records, tally: string): Generator<Proposal> {
  const wholeOf = wholeFrom(inOrder(records, 'pattern'))
  const row = inOrder(records, 'source').find((source) => !wholeOf(source).respawns && source.requires === '' && wholeOf(source).takes.length === 0 && wholeOf(source).yields.some((y) => y.tally === tally && y.min > 0))
  if (row) yield { says: `let ${labelOf(row)} be repeated, as grinding for ${tally}`, diff: setFields(records, 'source', row.key, { respawns: true }, `${labelOf(row)} can be repeated`) }
}
