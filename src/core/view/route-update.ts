import { equal } from '../change/diff.ts'
import type { GateResult, ProfileResult, StopResult } from '../check/result.ts'
import type { RouteTrace } from '../check/route/trace.ts'
import type { PlanIssue } from '../plan/issue.ts'
import { sameList, sameNumbers } from '../plan/same-list.ts'
import { packGates, packStops, unpackGates, unpackStops, type PackedGates, type PackedStops } from './packed-results.ts'
import { sameGate, sameStop } from './same-results.ts'

/** What the Route view is drawn from: verdicts and distributions, the middle walk, and what is wrong with the plan. */
export interface RouteView {
  result: ProfileResult | null
  trace: RouteTrace | null
  issues: PlanIssue[]
}

/** A list of which most stands as it stood: what is gone from it by index, then its length, and what is new in it by index, packed. */
interface Changed<P> {
  gone: number[]
  length: number
  at: number[]
  items: P
}

/** What of a view is new since the one before; parts that are the same are left out. */
export interface RouteUpdate {
  result: { profile: string; stops: Changed<PackedStops>; gates: Changed<PackedGates> } | null
  trace?: Omit<RouteTrace, 'keys'> & { keys: string[] | null } | null
  issues?: PlanIssue[]
}

/** What is to be sent for another thread to come from one view to the next; from null: all of it. */
export function updateBetween(before: RouteView | null, { result, trace, issues }: RouteView): RouteUpdate {
  const update: RouteUpdate = { result: result && { profile: result.profile, stops: changed(before?.result?.stops, result.stops, stops), gates: changed(before?.result?.gates, result.gates, gates) } }
  const was = before?.trace ?? null
  const keys = trace && was && (was === trace || sameList(was.keys, trace.keys)) ? null : (trace?.keys ?? null)
  if (!trace || !was || keys !== null || (was !== trace && !sameTrace(was, trace))) update.trace = trace && { ...trace, keys }
  if (!before || !equal(before.issues, issues)) update.issues = issues
  return update
}

/** The next view, made from the one before; what has not changed is the same object. */
export function updated(before: RouteView | null, { result, trace, issues }: RouteUpdate): RouteView {
  return {
    result: result && { profile: result.profile, stops: made(before?.result?.stops, result.stops, unpackStops), gates: made(before?.result?.gates, result.gates, unpackGates) },
    trace: trace === undefined ? before!.trace : trace && { ...trace, keys: trace.keys ?? before!.trace!.keys },
    issues: issues ?? before!.issues,
  }
}

/** A list of a view, and how it is sent. `nameOf`: what tells one of them from another. */
interface Listed<T, P> {
  isSame: (one: T, other: T) => boolean
  pack: (items: readonly T[]) => P
  nameOf: (one: T) => unknown
}

const stops: Listed<StopResult, PackedStops> = { isSame: sameStop, pack: packStops, nameOf: () => null }
const gates: Listed<GateResult, PackedGates> = { isSame: sameGate, pack: packGates, nameOf: ({ gate }) => gate }

function changed<T, P>(before: readonly T[] = [], after: readonly T[], { isSame, pack, nameOf }: Listed<T, P>): Changed<P> {
  if (before === after) return { gone: [], length: after.length, at: [], items: pack([]) }
  const gone = goneOf(before, after, nameOf)
  const left = without(before, gone)
  const at = newIn(after, left, isSame)
  return { gone, length: after.length, at, items: pack(at.map((i) => after[i]!)) }
}

/** By index what stands otherwise than it stood; in a plain loop: there are tens of thousands, after each edit. */
function newIn<T>(after: readonly T[], before: readonly T[], isSame: (one: T, other: T) => boolean): number[] {
  const at: number[] = []
  for (let i = 0; i < after.length; i++) if (i >= before.length || !isSame(before[i]!, after[i]!)) at.push(i)
  return at
}

function goneOf<T>(before: readonly T[], after: readonly T[], nameOf: (one: T) => unknown): number[] {
  if (before.length <= after.length && newIn(before, after, (one, other) => nameOf(one) === nameOf(other)).length === 0) return []
  const names = new Set(after.map(nameOf))
  return [...before.keys()].filter((i) => !names.has(nameOf(before[i]!)))
}

function without<T>(list: readonly T[], gone: readonly number[]): readonly T[] {
  if (gone.length === 0) return list
  const all = new Set(gone)
  return list.filter((_, i) => !all.has(i))
}

function made<T, P>(before: T[] = [], { gone, length, at, items }: Changed<P>, unpack: (items: P) => readonly T[]): T[] {
  if (gone.length === 0 && at.length === 0 && length === before.length) return before
  const after = without(before, gone).slice(0, length)
  const found = unpack(items)
  at.forEach((index, i) => (after[index] = found[i]!))
  return after
}

/** Whether two traces with the same keys are the same. */
function sameTrace(a: RouteTrace, b: RouteTrace): boolean {
  return (
    sameNumbers(a.entered, b.entered) && sameNumbers(a.left, b.left) && sameNumbers(a.items, b.items) && sameList(a.itemsFrom, b.itemsFrom) &&
    sameList(a.tallies, b.tallies) && sameList(a.characters, b.characters) && sameList(a.places, b.places)
  )
}
