import type { PlanIssue } from '../../plan/issue.ts'
import type { KindName } from '../../plan/kinds.ts'
import type { Records } from '../../plan/records.ts'
import type { Game } from '../../rules/game.ts'
import type { Reach } from '../reach/reach.ts'
import type { Finding, LockoutResult, ReachResult, RouteResult } from '../result.ts'
import type { Lag } from '../rhythm/behind.ts'
import type { Rhythm } from '../rhythm/rhythm.ts'
import type { RouteTrace } from '../route/trace.ts'

/** The middle walk of a route for a kind of player. */
export interface Played {
  route: string
  profile: string
  trace: RouteTrace
  rhythm: Rhythm
  /** By character the gain after which its level was furthest behind its XP. */
  behind: ReadonlyMap<number, Lag>
}

/** Everything that a finding may rest on. */
export interface FindingContext {
  records: Records
  game: Game
  issues: readonly PlanIssue[]
  routes: readonly RouteResult[]
  reach: ReachResult
  /** What is held at the end of reach, with repeats. */
  held: Reach
  lockouts: LockoutResult | null
  /** The middle walk of each route and profile. */
  played: readonly Played[]
}

/** Finds one kind of thing in a plan (docs/checks.md 4). */
export type FindingRule = (context: FindingContext) => Finding[]

export function finding(id: FindingId, severity: Finding['severity'], kind: KindName | 'plan', item: string, says: string, where: { route?: string; profile?: string } = {}): Finding {
  return { id, severity, item: { kind, id: item }, route: where.route ?? null, profile: where.profile ?? null, says: ended(says), fix: null }
}

/** A sentence has one mark at its end: a reason that is told within it may bring its own. */
function ended(says: string): string {
  return says.replace(/([.?!])\.$/, '$1')
}

export const findingIds = [
  'gate-sealed', 'gate-short', 'gate-depends', 'unreachable', 'needs-repeats', 'ring', 'stuck', 'forced-grind', 'off-by-one', 'cap-below-gate', 'xp-lost',
  'level-lag', 'curve-error', 'curve-dip', 'form-gap', 'form-overlap', 'reset-starves', 'reset-surprise', 'reward-chain', 'text-mismatch', 'no-text', 'dead-end',
  'one-way-loss', 'unaffordable', 'side-needed', 'loose', 'drought', 'pile-up', 'unused', 'zero-yield',
] as const
export type FindingId = (typeof findingIds)[number]
