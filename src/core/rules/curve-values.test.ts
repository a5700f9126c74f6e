import { assert } from 'chai'
import fc from 'fast-check'
import type { Curve } from '../plan/curve.ts'
import { growth } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { curveValues } from './curve-values.ts'

function values(curve: Partial<Curve>): number[] {
  return curveValues({ ...growth, ...curve }).values.map((v) => v.toNumber())
}

describe('curve values', () => {
  it('are exact decimals: 100 and a tenth more is 110 even when rounded up', () => {
    assert.deepEqual(values({}), [100, 110, 121, 134, 148])
    assert.deepEqual(values({ rounding: 'none', maxLevel: 4 }), [100, 110, 121])
  })

  it('round half-way values in five ways, and compound them', () => {
    const of = (rounding: Curve['rounding']) => values({ rounding, maxLevel: 4, rule: { kind: 'growth', base: 10, factor: 1.25, add: 0 } })
    assert.deepEqual(of('nearest'), [10, 13, 16])
    assert.deepEqual(of('nearest_even'), [10, 12, 15])
    assert.deepEqual(of('down'), [10, 12, 15])
    assert.deepEqual(of('up'), [10, 13, 17])
    assert.deepEqual(of('none'), [10, 12.5, 15.625])
  })

  it('come from formulas with prev, L and first', () => {
    assert.deepEqual(values({ maxLevel: 4, rounding: 'none', rule: { kind: 'formula', text: 'prev + 10 * L + first' } }), [11, 32, 63])
  })

  it('say at which level they fail', () => {
    const faults = (curve: Partial<Curve>) => curveValues({ ...growth, ...curve }).faults.map(({ code, level }) => `${code} ${level}`)
    assert.deepEqual(faults({ rule: { kind: 'table', values: [10, 20] } }), ['length 3', 'value 3'])
    assert.deepEqual(faults({ rule: { kind: 'table', values: [10, 20, 0, 5, 5] } }), ['value 3'])
    assert.deepEqual(faults({ counts: 'total', rule: { kind: 'table', values: [10, 20, 20, 30, 40] } }), ['value 3'])
    assert.deepEqual(faults({ rule: { kind: 'formula', text: '10 / (L - 3)' } }), ['value 1', 'value 2', 'formula 3'])
    assert.deepEqual(faults({ rule: { kind: 'formula', text: 'stamps' } }), ['formula 1'])
    assert.deepEqual(faults({ firstLevel: 6 }), ['limits 6'])
  })

  it('are what whole numbers come to by growth, whatever the rounding', () => {
    const tenth = fc.integer({ min: -200_000, max: 2_000_000 })
    fc.assert(fc.property(fc.integer({ min: 1, max: 5_000 }), fc.integer({ min: 1, max: 30_000 }), tenth, fc.constantFrom('nearest', 'nearest_even', 'down', 'up'), (base, factor, add, rounding) => {
      const made = values({ maxLevel: 8, rounding, rule: { kind: 'growth', base, factor: factor / 10_000, add: add / 10_000 } })
      made.forEach((value, i) => assert.equal(BigInt(value), i === 0 ? BigInt(base) : roundedQuotient(BigInt(made[i - 1]!) * BigInt(factor) + BigInt(add), 10_000n, rounding)))
    }), { numRuns: runs(200) })
  })

  it('know no last level: a curve of levels 0 to 999 has 999 values', () => {
    assert.equal(values({ firstLevel: 0, maxLevel: 999, rule: { kind: 'formula', text: 'L + 1' } }).at(-1), 999)
  })

  it('may fall where each level counts by itself, and never where they count in total', () => {
    const falling = { rule: { kind: 'table' as const, values: [50, 40, 30, 20, 10] } }
    assert.deepEqual(curveValues({ ...growth, ...falling }).faults, [])
    assert.deepEqual(curveValues({ ...growth, ...falling, counts: 'total' }).faults.map(({ level }) => level), [2, 3, 4, 5])
  })

  it('are in error where rounding leaves nothing', () => {
    assert.deepEqual(curveValues({ ...growth, rounding: 'down', rule: { kind: 'growth', base: 0.9, factor: 1, add: 1 } }).faults.map(({ level }) => level), [1])
  })

  it('count with 34 digits within a formula: thirds of 100 in all are 100, sums of tenths are whole', () => {
    const text = (formula: string) => values({ maxLevel: 2, rounding: 'none', rule: { kind: 'formula', text: formula } })[0]
    assert.equal(text('100 / 3 * 3 - 99.9999999'), 1e-7)
    assert.equal(text('0.1 + 0.2'), 0.3)
    assert.equal(text('floor(10 * 1.1) + ceil(0.3 * 10) + round(2.5)'), 17)
    assert.equal(text('7 % 3 + min(4, 2, 3) + max(1, 5) + abs(-6) + sqrt(16)'), 18)
  })

  it('end where they are no finite numbers', () => {
    const of = (text: string) => curveValues({ ...growth, rule: { kind: 'formula', text } }).faults.map(({ code, level }) => `${code} ${level}`)
    assert.deepEqual(of('10 / (L - 2)'), ['value 1', 'formula 2'])
    assert.deepEqual(of('log(3 - L)'), ['value 2', 'formula 3'])
    assert.deepEqual(of('sqrt(2 - L)'), ['value 2', 'formula 3'])
    assert.deepEqual(of(''), ['formula 1'])
  })
})

/** A quotient of whole numbers, rounded, by whole numbers alone. */
function roundedQuotient(n: bigint, by: bigint, rounding: string): bigint {
  const down = n / by - (n < 0n && n % by !== 0n ? 1n : 0n)
  const over = 2n * (n - down * by)
  const isUp = { down: false, up: over > 0n, nearest: over >= by, nearest_even: over > by || (over === by && down % 2n !== 0n) }[rounding]
  return isUp ? down + 1n : down
}
