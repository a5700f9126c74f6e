import { readPlanValue } from '../src/core/plan/file.ts'
import type { Records } from '../src/core/plan/records.ts'
import { samplePlan, type SampleSize } from '../src/core/sample/sample-plan.ts'

/** The made-up plans that are measured. */
export const sizes = {
  S: { places: 20, sources: 200, gates: 80, seed: 1 },
  M: { places: 200, sources: 2_000, gates: 800, seed: 1 },
  L: { places: 2_000, sources: 50_000, gates: 10_000, seed: 1 },
} satisfies Record<string, SampleSize>
export type SizeName = keyof typeof sizes

/** Read as from a file. */
export function recordsOf(value: unknown): Records {
  const read = readPlanValue(value)
  if (!read.ok) throw new Error(JSON.stringify(read.issues))
  return read.records
}

export const sampleOf = (name: SizeName) => samplePlan(sizes[name])
