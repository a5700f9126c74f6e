import { readdirSync, readFileSync } from 'node:fs'
import { assert } from 'chai'
import fc from 'fast-check'
import { type PlanFile, readPlanValue, toFile } from '../plan/file.ts'
import type { Records } from '../plan/records.ts'
import { playRoute } from '../testing/plain-reading.ts'
import type { Case } from '../testing/compare-case.ts'
import { anySample } from '../testing/plans.ts'
import { check } from './check.ts'

const folder = new URL('../testing/cases/', import.meta.url)

/** Everything that the engine holds on leaving each stop, against the plain reading. */
function compare(records: Records, plan: PlanFile): void {
  const sure = (plan.profiles as { id: string; main: number; side: number }[]).filter((p) => p.main % 1 === 0 && p.side % 1 === 0)
  for (const { route, profiles } of sure.flatMap(({ id }) => check(records, { profile: id }).result.routes)) {
    for (const { profile, stops } of profiles) {
      const plain = playRoute(plan, route, profile)
      stops.forEach((stop, i) => {
        for (const [id, held] of Object.entries(stop.tallies)) assert.closeTo(held.median, plain[i]!.tallies[id]!, 1e-9, `${route} ${profile} stop ${i} ${id}`)
        for (const [id, held] of Object.entries(stop.levels)) assert.equal(held.median, plain[i]!.levels[id], `${route} ${profile} stop ${i} level ${id}`)
      })
    }
  }
}

/** The same plan with every yield at its least, so that nothing is left to chance. */
function fixed(plan: PlanFile): PlanFile {
  const copy = JSON.parse(JSON.stringify(plan)) as PlanFile
  const settle = (yields: { min: number; max: number }[] | undefined) => yields?.forEach((y) => (y.max = y.min))
  for (const place of copy.places) for (const item of place.contents) settle(item.source?.yields ?? item.gate?.yields)
  return copy
}

describe('the compiled engine and the plain reading of the rules', () => {
  it('agree on made-up plans', () => {
    fc.assert(fc.property(anySample, (sample) => {
      const plan = fixed(toFile(sample))
      const read = readPlanValue(plan)
      if (!read.ok) throw new Error('a sample with fixed yields is no plan')
      compare(read.records, plan)
    }), { numRuns: 40 })
  })

  it('agree on the plans with known answers', () => {
    for (const file of readdirSync(folder).filter((name) => name.endsWith('.json') && !/random|odds|live_ring/.test(name))) {
      const read = readPlanValue((JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case).plan)
      if (!read.ok) throw new Error(file)
      compare(read.records, toFile(read.records))
    }
  })
})
