import { max } from 'd3-array'
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import type { CurveStep } from '../../core/view/curve-table.ts'
import { shortNumberText } from '../../core/view/numbers.ts'

export interface ChartCurve {
  key: string
  name: string
  steps: readonly CurveStep[]
}

export interface ChartSize {
  width: number
  height: number
}

const margin = { left: 56, right: 62, top: 24, bottom: 22 }

/** Curves as they are drawn: bars for the steps of the first, lines for the XP in all of each, both with their axes. */
export function curveChart(curves: readonly ChartCurve[], { width, height }: ChartSize, isLog: boolean) {
  const all = curves.flatMap(({ steps }) => steps)
  const from = Math.min(...all.map((step) => step.from), 1)
  const to = Math.max(...all.map((step) => step.to), from + 1)
  const x = scaleLinear([from, to], [margin.left, width - margin.right])
  const range = [height - margin.bottom, margin.top]
  const scale = (most: number, least: number) => (isLog ? scaleLog([Math.max(1, least), Math.max(2, most)], range) : scaleLinear([0, most || 1], range))
  const own = curves[0]?.steps ?? []
  const step = scale(max(own, (s) => s.step) ?? 1, Math.min(...own.map((s) => s.step)))
  const total = scale(max(all, (s) => s.total) ?? 1, Math.min(...all.map((s) => s.total)))
  const path = line<CurveStep>((s) => x(s.to), (s) => total(Math.max(isLog ? 1 : 0, s.total)))
  const ticks = (of: typeof step) => thinned(of.ticks(isLog ? 6 : 5)).map((value) => ({ y: of(value), label: shortNumberText(value) }))
  const every = Math.max(1, Math.ceil((to - from) / Math.max(1, (width - margin.left - margin.right) / 30)))
  return {
    x, margin, foot: height - margin.bottom,
    bars: own.map((s) => ({ step: s, left: x(s.from) + 1, width: Math.max(1, x(s.to) - x(s.from) - 2), top: step(Math.max(isLog ? 1 : 0, s.step)) })),
    lines: curves.map(({ key, name, steps }) => ({ key, name, path: path(steps as CurveStep[]) ?? '' })),
    dots: own.map((s) => ({ step: s, x: x(s.to), y: total(Math.max(isLog ? 1 : 0, s.total)) })),
    stepTicks: ticks(step), totalTicks: ticks(total),
    levels: Array.from({ length: to - from + 1 }, (_, i) => from + i).filter((_, i) => i % every === 0).map((level) => ({ level, x: x(level) })),
  }
}

/** No more labels than can be read. */
function thinned(values: number[]): number[] {
  const every = Math.ceil(values.length / 7)
  return values.filter((_, i) => i % every === 0)
}
