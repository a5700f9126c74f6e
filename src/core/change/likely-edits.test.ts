import { assert } from 'chai'
import { inOrder, type Records } from '../plan/records.ts'
import { recordsOf, smallPlan } from '../testing/plans.ts'
import { samplePlan } from '../sample/sample-plan.ts'
import { apply } from './diff.ts'
import { likelyEdits } from './likely-edits.ts'

const records = recordsOf(samplePlan({ places: 12, sources: 90, gates: 40, seed: 5 }))
const many = 30
const all = [...likelyEdits(records, many)]

const placeOf = (of: Records, key: string) => inOrder(of, 'place').findIndex((place) => place.key === key)

describe('likely edits', () => {
  it('are counts, thresholds and rows in turn, from the first place to the last', () => {
    const fields = (i: number) => all.filter((_, at) => at % 3 === i).flatMap((diff) => diff?.changes.flatMap(({ after }) => Object.keys(after ?? {})) ?? [])
    assert.include(fields(0), 'count')
    assert.include(fields(1), 'requires')
    assert.include(fields(2), 'order')
    const places = all.filter((_, at) => at % 3 === 0).map((diff) => placeOf(records, records.source.get(diff!.changes[0]!.key)!.place!))
    assert.deepEqual(places, [...places].sort((a, b) => a - b))
    assert.equal(places[0], 0)
    assert.isAbove(places.at(-1)!, 9)
  })

  it('can each be made on the plan as it is', () => {
    for (const diff of all) if (diff) assert.notDeepEqual(apply(records, diff), records, diff.name)
  })

  it('are none where there is nothing to be edited', () => {
    assert.isTrue([...likelyEdits(smallPlan(), many)].every((diff) => diff === null))
  })
})
