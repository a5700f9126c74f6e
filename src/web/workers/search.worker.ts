import { expose } from 'comlink'
import { config } from 'zod'
import { lockouts as lockoutFindings } from '../../core/check/findings/lockouts.ts'
import { fitCurve, type Fit, type FitKind, type FitPoint } from '../../core/change/fit-curve.ts'
import { alterationsBy, fixesOf } from '../../core/check/fixes/fixes.ts'
import type { Fix } from '../../core/check/fixes/fix.ts'
import { lockoutFixes, type LockoutFix, type LockoutKind } from '../../core/check/fixes/lockout-fixes.ts'
import { defaultBound } from '../../core/check/lockout/bound.ts'
import { checkLockouts } from '../../core/check/lockout/lockout-check.ts'
import type { Finding, GateResult, LockoutPart, LockoutResult } from '../../core/check/result.ts'
import type { Curve } from '../../core/plan/curve.ts'
import { mapOf, type MapData } from '../../core/view/map.ts'
import { layoutMap, type MapLayout } from '../../core/view/map-layout.ts'
import { compile } from '../../core/rules/compile.ts'
import type { HandedPlan } from './check.worker.ts'
import { restingClock, type BusyFlag } from './resting-clock.ts'

// The page's content security policy allows no code made from strings.
config({ jitless: true })

export interface MapView {
  data: MapData
  layouts: { once: MapLayout; repeated: MapLayout }
}

export interface LockoutReport {
  lockouts: LockoutResult
  findings: Finding[]
}

/** The plan, as soon as it has been handed over. */
let plan: Promise<HandedPlan> = new Promise(() => {})

/** What takes seconds; whoever no longer wants the answer ends the worker. */
const search = {
  /** The plan comes through this port, before anything is asked of it. */
  receive(port: MessagePort): void {
    plan = new Promise((done) => {
      port.onmessage = ({ data }: MessageEvent<HandedPlan>) => {
        port.close()
        done(data)
      }
    })
  },

  /** It rests while hands are busy, if it is given where that is told. */
  async lockouts(hands: BusyFlag = null): Promise<LockoutReport> {
    const { game } = compile((await plan).records)
    const lockouts = checkLockouts(game, { ...defaultBound, now: restingClock(hands) })
    return { lockouts, findings: lockoutFindings({ game, lockouts }) }
  },

  /** Changes that mend a lock-out, each told as it is found: each is a search of some seconds at the most. */
  async lockoutFixes(kind: LockoutKind, before: LockoutPart, found: (fix: LockoutFix) => void): Promise<void> {
    const bound = { ...defaultBound, states: 300_000, milliseconds: 3_000, now: () => performance.now() }
    for (const fix of lockoutFixes((await plan).records, kind, before, bound)) found(fix)
  },

  /** The map of the plan, laid out by its waves without and with repeats. */
  async map(): Promise<MapView> {
    const data = mapOf(compile((await plan).records).game)
    return { data, layouts: { once: layoutMap(data, false), repeated: layoutMap(data, true) } }
  },

  /** The rule of a kind that comes closest to the wanted levels. */
  fit(curve: Curve, points: FitPoint[], kind: FitKind): Fit | null {
    return fitCurve(curve, points, kind)
  },

  /** Fixes of a gate for a route and a kind of player, each told as it is found; none before the verdicts of the plan are known. */
  async fixes(keys: { route: string; profile: string; gate: string }, result: GateResult, found: (fix: Fix) => void | Promise<void>): Promise<void> {
    const { records, verdicts } = await plan
    if (!verdicts) return
    const as = { records, compiled: compile(records) }
    // Each comes on a way of its own: the answer, after which nobody listens, waits until it is there.
    for (const proposal of fixesOf(as, keys, result)) await found({ ...proposal, alters: alterationsBy(proposal, as, verdicts) })
  },
}

export type SearchWorker = typeof search
expose(search)
