import { assert } from 'chai'
import { smallPlan } from '../testing/plans.ts'
import { missingOf } from './asked-for.ts'
import { check } from './check.ts'
import type { CheckOptions } from './result.ts'

const quick: CheckOptions = { lockouts: false, fixes: 0 }
const courier = { characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', cap: 2 }], curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }] }

/** A depot of many parcels and doors, each of which asks for all parcels; of the renown that they give most is lost at a cap. */
function crowded(parcels: number, doors: number) {
  const contents = [
    ...Array.from({ length: parcels }, (_, i) => ({ source: { id: `parcel_${i}`, name: 'Parcel', kind: 'quest', yields: [{ tally: 'stamps', min: 1, max: 1 }, { tally: 'renown', min: 60, max: 60 }] } })),
    ...Array.from({ length: doors }, (_, i) => ({ gate: { id: `door_${i}`, name: 'Door', kind: 'door', requires: `stamps >= ${parcels} and level >= 2` } })),
  ]
  return smallPlan({ ...courier, places: [{ id: 'depot', name: 'Depot', kind: 'area', goal: true, contents }] })
}

const gatesOf = (records: ReturnType<typeof crowded>, options: CheckOptions) => check(records, { ...quick, ...options }).result.routes[0]!.profiles[0]!.gates

describe('the document of a check', () => {
  it('tells the sum behind every gate, or behind the one that is asked for', () => {
    const records = crowded(5, 3)
    const all = gatesOf(records, {})
    assert.deepEqual(all.map(({ from, lost }) => [from.length, lost.length]), Array.from({ length: 3 }, () => [10, 4]))
    assert.deepEqual(gatesOf(records, { gate: 'door_1' }), [all[1]!])
    assert.deepEqual(gatesOf(records, { sums: false }), all.map((gate) => ({ ...gate, from: [], lost: [] })))
  })

  it('leaves what hangs on all gates to who asks for all', () => {
    const { reach, lockouts, findings, sums } = check(crowded(2, 2), { gate: 'door_0' }).result
    assert.deepEqual([reach, lockouts, findings, sums], [null, null, null, true])
  })

  it('leaves sums out that nobody could hold, and tells them of one gate all the same', () => {
    const records = crowded(1_200, 1_000)
    const { sums, routes } = check(records, quick).result
    assert.isFalse(sums)
    assert.isTrue(routes[0]!.profiles[0]!.gates.every(({ verdict, from, lost }) => verdict === 'clear' && from.length + lost.length === 0))
    const [alone] = gatesOf(records, { gate: 'door_999' })
    assert.deepEqual([alone!.from.length, alone!.from[0]!.source, alone!.lost.length], [2_400, 'parcel_0', 1_199])
  })
})

describe('what a check is asked for', () => {
  it('is in the plan, or it is said what is, or comes near', () => {
    const records = crowded(1, 20)
    assert.isEmpty(missingOf(records, { route: 'line', gate: 'door_7' }))
    assert.deepEqual(missingOf(records, { profile: 'hasty', gate: 'dor_7' }), [
      { kind: 'profile', says: 'there is no profile "hasty"; there are: straight' },
      { kind: 'gate', says: 'there is no gate "dor_7"; did you mean "door_7"?' },
    ])
    assert.match(missingOf(records, { gate: 'something_else' })[0]!.says, /there are 20 others/)
  })
})
