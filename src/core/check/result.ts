import type { Fix } from './fixes/fix.ts'
import type { LockoutBound } from './lockout/bound.ts'
import type { WalkResult } from '../play/check-walks.ts'
import type { PlanIssue } from '../plan/issue.ts'

/** The document that a check gives (docs/checks.md 7). Parts that were not computed are null. */
export interface CheckResult {
  plan: { id: string; revision: number }
  seed: number
  /** Whether gates have the sums behind them (`from`, `lost`): not where none were asked for, or all together would be too long. */
  sums: boolean
  routes: RouteResult[]
  reach: ReachResult | null
  lockouts: LockoutResult | null
  findings: Finding[] | null
  /** The walks that the plan keeps, as they go in it now. */
  walks: WalkResult[]
}

export interface RouteResult {
  route: string
  profiles: ProfileResult[]
}

/** Of each route and kind of player the verdicts alone. */
export interface RouteVerdicts {
  route: string
  profiles: readonly { profile: string; gates: readonly { gate: string; verdict: Verdict }[] }[]
}

/** The verdicts, without all that stands behind them. */
export function verdictsAlone(routes: readonly RouteVerdicts[]): RouteVerdicts[] {
  return routes.map(({ route, profiles }) => ({ route, profiles: profiles.map(({ profile, gates }) => ({ profile, gates: gates.map(({ gate, verdict }) => ({ gate, verdict })) })) }))
}

export interface ProfileResult {
  profile: string
  stops: StopResult[]
  gates: GateResult[]
}

/** Of a distribution: a quantile q is the smallest x with P(X ≤ x) ≥ q. */
export interface Quantiles {
  min: number
  q05: number
  median: number
  q95: number
  max: number
}

export interface StopResult {
  place: string
  minutes: number
  tallies: Record<string, Quantiles>
  levels: Record<string, Quantiles>
  /** Levels with the way made into the next one, as drawn: 4.5 is half-way from level 4 to 5. */
  positions: Record<string, Quantiles>
}

export type Verdict = 'clear' | 'depends' | 'short' | 'sealed' | 'off_route'

/** Whether a verdict is one to be mended. */
export function isTrouble(verdict: Verdict | undefined): boolean {
  return verdict === 'short' || verdict === 'depends' || verdict === 'sealed'
}

export interface StopRef {
  stop: number
  place: string
}

export interface GateResult {
  gate: string
  verdict: Verdict
  p: number
  interval: [number, number] | null
  exact: boolean
  met: StopRef | null
  due: StopRef | null
  opened: number | null
  ready: number | null
  wait: number | null
  comparisons: ComparisonResult[]
  from: FromEntry[]
  lost: LostEntry[]
  debt: DebtEntry[]
  /** Why the gate counts as closed, where it is in error. */
  error?: string
}

export interface ComparisonResult {
  text: string
  need: number | null
  has: Quantiles | null
  margin: number | null
  holds: number
  slack: number | null
}

/** One line of the sum behind an amount: what gave (or took) how much of which tally at which stop. */
export interface FromEntry {
  source: string | null
  /** A gate's cost or yield, where it was none of a source. */
  gate?: string
  /** The tally's start, or what a reset took away. */
  cause?: 'start' | 'reset'
  stop: number
  tally: string
  units: number
  total: number
}

export interface LostEntry {
  source: string | null
  gate?: string
  stop: number
  character: string
  why: 'top' | 'cleared'
  amount: number
}

export interface DebtEntry {
  source: string
  untaken: number
  repeats: number
  minutes: number
  /** Which comparison it mends, where no one source opens the gate. */
  mends?: string
}

export interface Wave {
  wave: number | null
  waveWithRepeats: number | null
}

export interface ReachResult {
  exact: boolean
  places: Record<string, Wave>
  sources: Record<string, Wave>
  gates: Record<string, Wave>
  closed: { gate: string; why: string[]; ring: string[] | null }[]
}

export type Move = { go: string } | { take: string; outcome?: Record<string, number> } | { open: string }

export interface LockoutPart {
  result: 'none' | 'found' | 'undecided'
  states: number
  witness: Move[] | null
  missing?: string
}

export interface LockoutResult {
  stuck: LockoutPart
  forcedGrind: LockoutPart
}

export interface Finding {
  id: string
  severity: 'fault' | 'risk' | 'note'
  item: { kind: string; id: string }
  route: string | null
  profile: string | null
  says: string
  /** A change that mends it, tried; null where there is none, or none was looked for. */
  fix: Fix | null
}

/** What a check needs beside the plan. */
export interface CheckOptions {
  revision?: number
  seed?: number
  /** Ids of the only route and the only profile to check. */
  route?: string
  profile?: string
  /** Id of the only gate to tell of. */
  gate?: string
  /** Whether to give the sums behind the gates (`from`, `lost`), as far as a document can hold them; they are when this is absent. */
  sums?: boolean
  /** How far to look for lock-outs; false: not at all. */
  lockouts?: Partial<LockoutBound> | false
  /** For how many gates at most to look for a fix, or asked before each whether to; 20 when this is absent. */
  fixes?: number | (() => boolean)
}

export interface CheckOutcome {
  result: CheckResult
  issues: PlanIssue[]
}
