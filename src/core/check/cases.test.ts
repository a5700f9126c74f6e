import { readdirSync, readFileSync } from 'node:fs'
import { assert } from 'chai'
import { readPlanValue, writePlan } from '../plan/file.ts'
import { type Case, differences } from '../testing/compare-case.ts'
import { check } from './check.ts'

const folder = new URL('../testing/cases/', import.meta.url)

/** Plans with answers that were computed by an exhaustive reading of docs/model.md and docs/checks.md. */
describe('known answers', () => {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
    const known = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case
    it(`${file.replace('.json', '')}: ${known.about}`, () => {
      const read = readPlanValue(known.plan)
      if (!read.ok) throw new Error(JSON.stringify(read.issues))
      const bound = known.expect.lockouts ? { states: 250_000 } : (false as const)
      const { result } = check(read.records, { lockouts: bound })
      assert.deepEqual(differences(known.expect.plan, result.plan, 'plan', 'plan'), [])
      for (const part of ['routes', 'reach', 'lockouts'] as const) {
        if (known.expect[part]) assert.deepEqual(differences(known.expect[part], result[part], part, part), [])
      }
    })
  }

  it('are plans that read and write again to the same bytes', () => {
    for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
      const read = readPlanValue((JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case).plan)
      if (!read.ok) throw new Error(file)
      const text = writePlan(read.records)
      const again = readPlanValue(JSON.parse(text))
      assert.isTrue(again.ok && writePlan(again.records) === text, file)
    }
  })
})
