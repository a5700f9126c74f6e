import { levenbergMarquardt } from 'ml-levenberg-marquardt'
import { allNodes } from '../language/parse.ts'
import { parseOrNull } from '../language/requirement.ts'
import type { Curve, CurveRule } from '../plan/curve.ts'
import { curveSteps } from '../view/curve-table.ts'

/** A level that is wanted where a player has so much XP in all. */
export interface FitPoint {
  xp: number
  level: number
}

export interface Fit {
  rule: CurveRule
  /** For each point the level that comes of it, with the way made into the next, and by how much that misses the wanted one. */
  points: { position: number; miss: number }[]
}

export type FitKind = 'growth' | 'formula' | 'table'

/** A level with the way made into the next, for XP in all along a curve. */
export function positionAt(curve: Curve, xp: number): number {
  let before = 0
  for (const { from, total } of curveSteps(curve)) {
    if (xp < total) return from + Math.max(0, xp - before) / (total - before)
    before = total
  }
  return curve.maxLevel
}

/** The rule of one kind that comes closest to the wanted levels; null where none of that kind can be made. */
export function fitCurve(curve: Curve, points: readonly FitPoint[], kind: FitKind): Fit | null {
  const sorted = [...points].sort((a, b) => a.xp - b.xp)
  const rule = kind === 'table' ? tableThrough(curve, sorted) : fittedRule(curve, sorted, kind)
  if (!rule) return null
  const fitted = { ...curve, rule }
  if (curveSteps(fitted).length < curve.maxLevel - curve.firstLevel) return null
  return { rule, points: points.map(({ xp, level }) => {
    const position = positionAt(fitted, xp)
    return { position, miss: position - level }
  }) }
}

/** A rule with numbers that can be moved: their values at first, and the rule that they make. */
interface Form {
  starts: number[][]
  /** `exact`: with all decimals, while the best numbers are looked for; else as a person would write them. */
  rule(numbers: readonly number[], exact: boolean): CurveRule
}

function formOf(curve: Curve, points: readonly FitPoint[], kind: FitKind): Form | null {
  if (kind === 'growth') {
    const { rule } = curve
    const first = curveSteps(curve)[0]?.step ?? 100
    const last = points.at(-1)!
    const even = Math.max(1, last.xp / Math.max(1, last.level - curve.firstLevel))
    const own = rule.kind === 'growth' ? [[rule.base, rule.factor, rule.add]] : []
    return {
      starts: [...own, [first, 1.15, 0], [even / 2, 1.08, even / 20], [even, 1.001, 0]],
      rule: ([base, factor, add], exact) => ({ kind: 'growth', base: exact ? base! : rounded(base!, 1), factor: exact ? factor! : rounded(factor!, 4), add: exact ? add! : rounded(add!, 1) }),
    }
  }
  if (curve.rule.kind !== 'formula') return null
  const { text } = curve.rule
  const node = parseOrNull(text)
  const numbers = node ? allNodes(node).filter((part) => part.type === 'number').sort((a, b) => a.from - b.from) : []
  if (!numbers.length) return null
  const written = (values: readonly number[], exact: boolean) => numbers.reduceRight((all, { from, to }, i) => {
    const value = exact ? values[i]! : rounded(values[i]!, 4)
    return all.slice(0, from) + (value < 0 ? `(${value})` : value) + all.slice(to)
  }, text)
  return { starts: [numbers.map((part) => Number(text.slice(part.from, part.to)))], rule: (values, exact) => ({ kind: 'formula', text: written(values, exact) }) }
}

function fittedRule(curve: Curve, points: readonly FitPoint[], kind: FitKind): CurveRule | null {
  const form = formOf(curve, points, kind)
  if (!form || points.length === 0) return null
  const tried = form.starts.map((start) => improved(curve, points, form, start)).sort((a, b) => a.error - b.error)
  const best = tried[0]
  return best && Number.isFinite(best.error) ? form.rule(best.numbers, false) : null
}

const rounds = 60

function improved(curve: Curve, points: readonly FitPoint[], form: Form, start: readonly number[]): { numbers: number[]; error: number } {
  const unrounded = { ...curve, rounding: 'none' as const }
  const error = (numbers: readonly number[]) => points.reduce((sum, { xp, level }) => sum + (positionAt({ ...curve, rule: form.rule(numbers, false) }, xp) - level) ** 2, 0)
  // Numbers of very different size are moved as shares of what they were at first.
  const scale = start.map((n) => Math.abs(n) || 1)
  const numbersOf = (shares: readonly number[]) => shares.map((share, i) => start[i]! + (share - 1) * scale[i]!)
  const position = (shares: number[]) => {
    const tried = { ...unrounded, rule: form.rule(numbersOf(shares), true) }
    return (xp: number) => positionAt(tried, xp)
  }
  try {
    const { parameterValues } = levenbergMarquardt({ x: points.map(({ xp }) => xp), y: points.map(({ level }) => level) }, position, {
      initialValues: start.map(() => 1), gradientDifference: 1e-3, centralDifference: true, maxIterations: rounds, damping: 0.01, errorTolerance: 1e-6,
    })
    const numbers = numbersOf(parameterValues)
    return error(numbers) < error(start) ? { numbers, error: error(numbers) } : { numbers: [...start], error: error(start) }
  } catch {
    // What the package gives up on is as good as where it began.
    return { numbers: [...start], error: error(start) }
  }
}

/** A table through all points, as smooth as they allow: the XP in all is drawn through them by a curve that never falls. */
function tableThrough(curve: Curve, points: readonly FitPoint[]): CurveRule | null {
  const anchors = [{ level: curve.firstLevel, xp: 0 }]
  for (const point of points) {
    const last = anchors.at(-1)!
    if (point.level > last.level && point.xp > last.xp) anchors.push({ level: point.level, xp: point.xp })
  }
  if (anchors.length < 2) return null
  const totals = Array.from({ length: curve.maxLevel - curve.firstLevel }, (_, i) => totalAt(anchors, curve.firstLevel + i + 1))
  const decimals = curve.rounding === 'none' ? 1 : 0
  const rising: number[] = []
  for (const total of totals) rising.push(Math.max(rounded(total, decimals), (rising.at(-1) ?? 0) + 1))
  const values = curve.counts === 'total' ? rising : rising.map((total, i) => rounded(total - (rising[i - 1] ?? 0), 4))
  return { kind: 'table', values }
}

/** Monotone cubic through the anchors; past the last one each level takes a little more than the one before, as it did there. */
function totalAt(anchors: readonly { level: number; xp: number }[], level: number): number {
  const slopes = anchors.slice(1).map((b, i) => (b.xp - anchors[i]!.xp) / (b.level - anchors[i]!.level))
  const tangents = anchors.map((_, i) => {
    const [left, right] = [slopes[i - 1], slopes[i]]
    if (left === undefined || right === undefined) return Math.max(0, left ?? (slopes[1] === undefined ? right! : (3 * right! - slopes[1]) / 2))
    return (2 * left * right) / (left + right)
  })
  const last = anchors.length - 1
  if (level >= anchors[last]!.level) {
    const growth = slopes.length > 1 ? Math.max(1, Math.min(1.3, (slopes[last - 1]! / slopes[last - 2]!) ** (1 / Math.max(1, anchors[last]!.level - anchors[last - 1]!.level)))) : 1
    let total = anchors[last]!.xp
    let step = Math.max(1, slopes[last - 1]!)
    for (let at = anchors[last]!.level; at < level; at++) total += step *= growth
    return total
  }
  const i = anchors.findIndex((anchor) => anchor.level > level) - 1
  const [a, b] = [anchors[i]!, anchors[i + 1]!]
  const h = b.level - a.level
  const t = (level - a.level) / h
  const [t2, t3] = [t * t, t * t * t]
  return a.xp * (2 * t3 - 3 * t2 + 1) + tangents[i]! * h * (t3 - 2 * t2 + t) + b.xp * (3 * t2 - 2 * t3) + tangents[i + 1]! * h * (t3 - t2)
}

function rounded(n: number, decimals: number): number {
  return Math.round(n * 10 ** decimals) / 10 ** decimals
}
