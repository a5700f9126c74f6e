import { assert } from 'chai'
import fc from 'fast-check'
import { inOrder } from '../plan/records.ts'
import { anySample, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { apply, equal } from './diff.ts'
import { freeId, moveItem, setFields } from './edits.ts'
import { Steps } from './steps.ts'

describe('what is done at each edit of a large plan', () => {
  it('finds two values the same where they are written alike, whatever the order of their keys', () => {
    const turned = (value: unknown): unknown => {
      if (Array.isArray(value)) return value.map(turned)
      return value && typeof value === 'object' ? Object.fromEntries(Object.entries(value).reverse().map(([key, part]) => [key, turned(part)])) : value
    }
    const sorted = (value: unknown) => JSON.stringify(value, (_, part: unknown) => (part && typeof part === 'object' && !Array.isArray(part) ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1))) : part))
    fc.assert(fc.property(fc.jsonValue({ maxDepth: 3 }), fc.jsonValue({ maxDepth: 3 }), (a, b) => {
      assert.isTrue(equal(a, turned(a)))
      if (sorted(a) !== sorted(b)) assert.isFalse(equal(a, b))
    }), { numRuns: runs(200) })
    assert.deepEqual([equal({}, []), equal([1], [1, 2]), equal({ a: 1 }, { a: 1, b: undefined }), equal({ a: undefined }, { b: undefined }), equal(null, {})], [false, false, false, false, false])
  })

  it('gives the first free number after a name that is taken: one written with a nought is another name', () => {
    const place = (id: string) => ({ id, name: id, kind: 'area' })
    const ids = (...all: string[]) => smallPlan({ start: all[0], places: all.map(place), routes: [{ id: 'line', name: 'L', stops: [all[0]] }] })
    assert.equal(freeId(ids('quay', 'quay_2', 'quay_4'), 'place', 'quay'), 'quay_3')
    assert.equal(freeId(ids('quay', 'quay_02', 'quayside_2'), 'place', 'quay'), 'quay_2')
    assert.equal(freeId(ids('quay_2', 'quay_3'), 'place', 'quay_3'), 'quay_4')
    assert.equal(freeId(ids('quay_2', 'quay_9'), 'place', 'quay'), 'quay')
  })

  it('keeps rows in the order in which they are put anew', () => {
    fc.assert(fc.property(anySample, fc.array(fc.nat(1000), { minLength: 1, maxLength: 5 }), (sample, picks) => {
      let records = sample
      inOrder(records, 'source')
      for (const pick of picks) {
        const rows = inOrder(records, 'source')
        const row = rows[pick % rows.length]!
        records = apply(records, pick % 3 ? setFields(records, 'source', row.key, { count: row.count + 1 }, 'one more') : moveItem(records, { kind: 'source', row }, { place: row.place, after: null }))
        assert.deepEqual(inOrder(records, 'source'), inOrder({ ...records, source: new Map(records.source) }, 'source'))
      }
    }), { numRuns: runs(40) })
  })

  it('shows each step the plan as the ones before left it, and leaves them as one', () => {
    const plan = smallPlan()
    const key = [...plan.place.keys()][0]!
    const steps = new Steps(plan)
    for (const minutes of [3, 5]) steps.add(setFields(steps.records, 'place', key, { minutes }, 'minutes'))
    assert.equal(steps.records.place.get(key)!.minutes, 5)
    const whole = steps.as('both')
    assert.deepEqual(whole.changes.map(({ before, after }) => [before, after]), [[{ minutes: 0 }, { minutes: 5 }]])
    assert.deepEqual(apply(plan, whole), steps.records)
  })
})
