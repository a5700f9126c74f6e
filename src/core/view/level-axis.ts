import type { Curve } from '../plan/curve.ts'
import { remembered } from '../plan/remembered.ts'
import { curveValues } from '../rules/curve-values.ts'

/** A level and the XP in all with which it is reached from the first. */
export interface LevelTick {
  level: number
  xp: number
}

const known = new WeakMap<Curve, readonly LevelTick[]>()

/** Every level of a curve with its XP; as far as the curve is sound. */
export function levelTicks(curve: Curve): readonly LevelTick[] {
  return remembered(known, curve, () => ticksOf(curve))
}

function ticksOf(curve: Curve): LevelTick[] {
  const ticks: LevelTick[] = [{ level: curve.firstLevel, xp: 0 }]
  let total = 0
  for (const [i, value] of curveValues(curve).values.entries()) {
    const xp = value.toNumber()
    if (!Number.isFinite(xp)) break
    total = curve.counts === 'total' ? xp : total + xp
    ticks.push({ level: curve.firstLevel + i + 1, xp: Math.round(total * 10_000) / 10_000 })
  }
  return ticks
}
