import { assert } from 'chai'
import fc from 'fast-check'
import type { Curve } from '../plan/curve.ts'
import { inOrder } from '../plan/records.ts'
import { smallPlan } from '../testing/plans.ts'
import { Bench } from '../view/bench.ts'
import { curveSteps, stopReached, xpUnits } from '../view/curve-table.ts'
import { formTroubles, mendedForms, statsAt, statValues } from '../view/stat-table.ts'
import { pasteColumn, readColumn, setCurveValue, withColumn } from './curve-edits.ts'
import { apply } from './diff.ts'
import { fitCurve, positionAt } from './fit-curve.ts'

const curve: Curve = {
  id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 6, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1.5, add: 0 },
  rounding: 'nearest', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard',
}

function planWith(curveFields: object, character: object = {}) {
  return smallPlan({
    curves: [{ ...curve, ...curveFields }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', ...character }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [{ source: { id: 'round', name: 'Round', kind: 'quest', yields: [{ tally: 'renown', min: 40, max: 60 }, { tally: 'stamps', min: 1, max: 1 }] } }] }],
  })
}

describe("a curve's steps", () => {
  it('are the same whether values count a step or the total', () => {
    assert.deepEqual(curveSteps(curve).map(({ from, to, step, total }) => [from, to, step, total]), [[1, 2, 100, 100], [2, 3, 150, 250], [3, 4, 225, 475], [4, 5, 338, 813], [5, 6, 507, 1320]])
    const total: Curve = { ...curve, counts: 'total', rule: { kind: 'table', values: [100, 250, 475, 813, 1320] } }
    assert.deepEqual(curveSteps(total).map(({ step }) => step), [100, 150, 225, 338, 507])
    assert.equal(curveSteps(curve)[1]!.growth, 1.5)
    assert.isNull(curveSteps(curve)[0]!.growth)
  })

  it('are counted in units of what gives XP, and found along the route', () => {
    assert.deepEqual(xpUnits(planWith({}), 'renown'), [{ id: 'round', name: 'Round', xp: 50 }])
    const stop = (median: number) => ({ levels: { courier: { median } } }) as never
    assert.deepEqual([stopReached([stop(1), stop(3), stop(5)], 'courier', 3), stopReached([stop(1)], 'courier', 2)], [1, null])
  })

  it('become a table when one of them is changed, or a column is pasted', () => {
    const records = planWith({})
    const row = inOrder(records, 'curve')[0]!
    const changed = inOrder(apply(records, setCurveValue(records, row, 3, 200)), 'curve')[0]!
    assert.deepEqual(changed.rule, { kind: 'table', values: [100, 150, 200, 338, 507] })
    assert.deepEqual(readColumn('XP\n1,000\n1200.5\n'), { values: [1000, 1200.5], says: null })
    assert.match(readColumn('100\nmany').says!, /line 2: "many" is no number/)
    // Whether the first number is for 1 → 2 or for 2 → 3 is what such columns are off by.
    assert.deepEqual(curveSteps(withColumn(curve, [80, 90], 1)).map(({ from, step }) => [from, step]), [[1, 80], [2, 90]])
    assert.deepEqual(curveSteps(withColumn(curve, [80, 90], 2)).map(({ from, step }) => [from, step]), [[1, 100], [2, 80], [3, 90]])
    const pasted = inOrder(apply(records, pasteColumn(records, row, [80, 90, 100], 1)), 'curve')[0]!
    assert.equal(pasted.maxLevel, 4)
  })
})

describe('the bench', () => {
  it('climbs by the rules of the plan, and tells what is over, lost and given', () => {
    const records = planWith({}, { stats: [{ id: 'pull', name: 'Pull', start: 10, growth: 'multiply', by: 1.1, rounding: 'nearest' }], forms: [{ id: 'new', name: 'New', from: 1, to: 2 }, { id: 'old', name: 'Old', from: 3, to: 6 }], rewards: [{ level: 3, yields: [{ tally: 'stamps', min: 4, max: 4 }] }] })
    const bench = Bench.of(records, inOrder(records, 'character')[0]!.key)!
    const gain = bench.gain(300)
    assert.deepInclude(gain, { levelsUp: 2, lost: 0, rewards: [{ name: 'Stamps', amount: 4 }] })
    assert.deepInclude(gain.before, { level: 1, xp: 0, needed: 100, form: 'New' })
    assert.deepInclude(gain.after, { level: 3, xp: 50, needed: 225, form: 'Old' })
    assert.deepEqual(gain.after.stats, [{ name: 'Pull', value: 12 }])
    bench.reset()
    assert.equal(bench.shown().level, 1)
  })

  it('loses at a cap what a curve discards there, and keeps it where it is banked', () => {
    const at = (atTop: string) => {
      const records = planWith({ atTop }, { cap: 2 })
      return Bench.of(records, inOrder(records, 'character')[0]!.key)!.gain(180)
    }
    assert.deepInclude(at('discard'), { lost: 80 })
    assert.deepInclude(at('bank'), { lost: 0 })
    assert.deepInclude(at('bank').after, { level: 2, xp: 80, needed: null })
  })

  it('begins where it is told, whatever the plan says', () => {
    const records = planWith({}, { cap: 2, joins: 'depot' })
    const bench = Bench.of(records, inOrder(records, 'character')[0]!.key, { level: 3, xp: 40, cap: null })!
    assert.deepInclude(bench.gain(500).after, { level: 4, xp: 315 })
    assert.isNull(Bench.of(planWith({ rule: { kind: 'table', values: [1] } }), inOrder(records, 'character')[0]!.key))
  })
})

describe('stats and forms', () => {
  it('grow from the first level to the last, each from the one before', () => {
    assert.deepEqual(statValues({ id: 's', name: 'S', start: 40, growth: 'add', by: 6, rounding: 'none' }, { firstLevel: 1, maxLevel: 4 }), [40, 46, 52, 58])
    assert.deepEqual(statValues({ id: 's', name: 'S', start: 10, growth: 'multiply', by: 1.15, rounding: 'nearest' }, { firstLevel: 0, maxLevel: 3 }), [10, 12, 14, 16])
  })

  it('at a level count from the first level of the curve', () => {
    const records = planWith({ firstLevel: 2 }, { stats: [{ id: 'load', name: 'Load', start: 10, growth: 'add', by: 5 }, { id: 'pull', name: '', start: 2, growth: 'multiply', by: 2 }] })
    assert.deepEqual(statsAt(records, 0, 2), [{ name: 'Load', value: 10 }, { name: 'pull', value: 2 }])
    assert.deepEqual(statsAt(records, 0, 4), [{ name: 'Load', value: 20 }, { name: 'pull', value: 8 }])
    assert.deepEqual(statsAt(records, 3, 4), [])
  })

  const form = (from: number, to: number) => ({ id: `f${from}_${to}`, name: 'F', from, to })
  it('show gaps, overlaps and what lies beyond the top, and are mended', () => {
    const forms = [form(1, 2), form(4, 5), form(5, 8)]
    assert.deepEqual(formTroubles({ forms }, curve), [{ kind: 'gap', from: 3, to: 3 }, { kind: 'overlap', from: 5, to: 5 }, { kind: 'beyond', from: 7, to: 8 }])
    assert.deepEqual(mendedForms({ forms }, curve).map(({ from, to }) => [from, to]), [[1, 3], [4, 4], [5, 6]])
  })

  it('are without trouble once they are mended, whatever they were', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 8 })), { minLength: 1, maxLength: 4 }), (pairs) => {
      const forms = pairs.map(([a, b]) => form(Math.min(a, b), Math.max(a, b)))
      const mended = mendedForms({ forms }, curve)
      if (mended.length) assert.deepEqual(formTroubles({ forms: mended }, curve), [])
    }))
  })
})

describe('fitting a curve', () => {
  const long: Curve = { ...curve, maxLevel: 20 }
  const wanted: Curve = { ...long, rule: { kind: 'growth', base: 120, factor: 1.12, add: 15 } }
  const points = [500, 1500, 3000, 5000, 7000].map((xp) => ({ xp, level: Math.round(positionAt(wanted, xp)) }))

  it('finds the numbers of a growth within half a level at five points', () => {
    const fit = fitCurve(long, points, 'growth')!
    assert.equal(fit.rule.kind, 'growth')
    for (const { miss } of fit.points) assert.isAtMost(Math.abs(miss), 0.5)
  })

  it('finds the numbers in a formula, and a table that goes through all points', () => {
    const formula: Curve = { ...long, rule: { kind: 'formula', text: '100 + 20 * (L - first)' } }
    const fit = fitCurve(formula, points, 'formula')!
    assert.match((fit.rule as { text: string }).text, /^[\d.]+ \+ [\d.]+ \* \(L - first\)$/)
    for (const { miss } of fit.points) assert.isAtMost(Math.abs(miss), 0.75)
    const table = fitCurve(long, points, 'table')!
    for (const { miss } of table.points) assert.isAtMost(Math.abs(miss), 0.02)
    const steps = curveSteps({ ...long, rule: table.rule })
    assert.isTrue(steps.every(({ step }) => step > 0))
    assert.isNull(fitCurve(long, points, 'formula'))
  })

  it('makes a sound table whatever is wanted', () => {
    fc.assert(fc.property(fc.array(fc.record({ xp: fc.integer({ min: 1, max: 9000 }), level: fc.integer({ min: 2, max: 19 }) }), { minLength: 1, maxLength: 6 }), (any) => {
      const fit = fitCurve(long, any, 'table')
      if (fit) assert.lengthOf(curveSteps({ ...long, rule: fit.rule }), 19)
    }))
  })
})
