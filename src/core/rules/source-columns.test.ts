import { assert } from 'chai'
import fc from 'fast-check'
import { anySample } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { compile } from './compile.ts'
import { columnsAfter, columnsOf } from './source-columns.ts'

describe('sources side by side', () => {
  it('are, after some have changed, what they are when laid anew', () => {
    fc.assert(fc.property(anySample, fc.array(fc.tuple(fc.nat(1000), fc.nat(9), fc.nat(2)), { maxLength: 4 }), (records, changes) => {
      const { sources } = compile(records).game
      const before = columnsOf(sources)
      const next = [...sources]
      const changed = new Set<number>()
      for (const [which, count, yields] of changes) {
        const s = which % sources.length
        changed.add(s)
        next[s] = { ...next[s]!, count, main: !next[s]!.main, yields: next[s]!.yields.slice(0, yields).map((y) => ({ ...y, max: y.max + count })) }
      }
      assert.deepEqual(columnsAfter(before, next, changed), columnsOf(next))
      assert.deepEqual(before, columnsOf(sources))
    }), { numRuns: runs(40) })
  })
})
