import fc from 'fast-check'
import type { Curve } from '../plan/curve.ts'
import { readPlanValue, type PlanFile } from '../plan/file.ts'
import type { Records } from '../plan/records.ts'
import { samplePlan, type SampleSize } from '../sample/sample-plan.ts'

/** Records of a plan file's value; a shape that is not right fails the test with its faults. */
export function recordsOf(value: unknown): Records {
  const read = readPlanValue(value)
  if (!read.ok) throw new Error(JSON.stringify(read.issues))
  return read.records
}

/** A plan with as little as it takes: one place, and what a test adds. */
export function smallPlan(parts: Partial<Record<keyof PlanFile, unknown>> = {}): Records {
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'small', name: 'Small', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area' }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
    profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    ...parts,
  })
}

/** A curve that a test changes: 100 XP, and a tenth more for each further level. */
export const growth: Curve = {
  id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 6, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1.1, add: 0 },
  rounding: 'up', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard',
}

/** Keys that are never given twice. */
export function newKeys(stem = 'new'): () => string {
  let given = 0
  return () => `${stem}_${given++}`
}

/** A made-up plan in which a purse holds no more than a few stamps: what is in it is no mere sum, and what it buys is left to be drawn. */
export function samplePurse(size: SampleSize): Records {
  // Made-up plans share what is the same in all of them.
  const plan = samplePlan(size) as { tallies: { id: string }[] }
  return recordsOf({ ...plan, tallies: plan.tallies.map((tally) => (tally.id === 'stamps' ? { ...tally, max: 7 } : tally)) })
}

/** Made-up plans of a few places, with everything in them. */
export const anySample: fc.Arbitrary<Records> = fc
  .record({ places: fc.integer({ min: 1, max: 6 }), each: fc.integer({ min: 1, max: 6 }), gates: fc.integer({ min: 1, max: 4 }), seed: fc.nat(1_000_000) })
  .map(({ places, each, gates, seed }) => recordsOf(samplePlan({ places, sources: places * each, gates: places * gates, seed })))
