import { assert } from 'chai'
import { curveSteps } from '../../core/view/curve-table.ts'
import { inOrder } from '../../core/plan/records.ts'
import { recordsOf } from '../../core/testing/plans.ts'
import { curveChart, type ChartCurve } from './curve-scale.ts'

const curveOf = (id: string, values: number[], firstLevel = 1) => ({ id, name: id, firstLevel, maxLevel: firstLevel + values.length, counts: 'step', rule: { kind: 'table', values } })
const records = recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', curves: [curveOf('rank', [100, 200, 400]), curveOf('steep', [1000, 9000], 3), curveOf('long', Array.from({ length: 200 }, (_, i) => 10 + i))] })
const chartOf = (ids: string[], isLog = false, width = 600) => curveChart(ids.map((id): ChartCurve => {
  const curve = inOrder(records, 'curve').find((one) => one.id === id)!
  return { key: curve.key, name: curve.name, steps: curveSteps(curve) }
}), { width, height: 300 }, isLog)

describe('the chart of curves', () => {
  it('has a bar for each step, beside each other, as high as what it takes', () => {
    const { bars, foot, margin } = chartOf(['rank'])
    assert.deepEqual(bars.map(({ step }) => [step.from, step.step]), [[1, 100], [2, 200], [3, 400]])
    for (let i = 1; i < bars.length; i++) assert.isAtLeast(bars[i]!.left, bars[i - 1]!.left + bars[i - 1]!.width)
    assert.closeTo(foot - bars[1]!.top, 2 * (foot - bars[0]!.top), 0.01)
    assert.closeTo(bars[2]!.top, margin.top, 0.01)
  })

  it('has a line for each curve, in the scale of all of them', () => {
    const [alone, together] = [chartOf(['rank']), chartOf(['rank', 'steep'])]
    assert.deepEqual(together.lines.map(({ name }) => name), ['rank', 'steep'])
    assert.isNotEmpty(together.lines[1]!.path)
    // The steeper one leaves the other less height.
    assert.isAbove(together.dots.at(-1)!.y, alone.dots.at(-1)!.y)
    assert.deepEqual(together.levels.map(({ level }) => level), [1, 2, 3, 4, 5])
  })

  it('lies within its picture, whatever the scale', () => {
    for (const isLog of [false, true]) {
      const { bars, dots, stepTicks, totalTicks, foot, margin } = chartOf(['long', 'steep'], isLog)
      for (const y of [...bars.map(({ top }) => top), ...dots.map((dot) => dot.y), ...stepTicks.map((tick) => tick.y), ...totalTicks.map((tick) => tick.y)]) assert.isTrue(y >= margin.top - 0.01 && y <= foot + 0.01, `${isLog} ${y}`)
    }
  })

  it('has no more labels than can be read', () => {
    for (const isLog of [false, true]) for (const width of [200, 600]) {
      const { levels, stepTicks, totalTicks } = chartOf(['long'], isLog, width)
      assert.isAtMost(stepTicks.length, 7)
      assert.isAtMost(totalTicks.length, 7)
      for (let i = 1; i < levels.length; i++) assert.isAtLeast(levels[i]!.x - levels[i - 1]!.x, 20)
    }
  })

  it('is empty without steps', () => {
    const { bars, lines, dots } = curveChart([], { width: 600, height: 300 }, false)
    assert.deepEqual([bars, lines, dots], [[], [], []])
  })
})
