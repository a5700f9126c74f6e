import { z } from 'zod'
import { amount, level, name, slug } from './basics.ts'

export const roundings = ['nearest', 'nearest_even', 'down', 'up', 'none'] as const
export const Rounding = z.enum(roundings)
export type Rounding = z.infer<typeof Rounding>

export const CurveRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('table'), values: z.array(amount).max(1000) }),
  z.strictObject({ kind: z.literal('growth'), base: amount, factor: amount, add: amount }),
  z.strictObject({ kind: z.literal('formula'), text: z.string().max(2000) }),
])
export type CurveRule = z.infer<typeof CurveRule>

/** How much XP each level takes, and what happens at a level-up and at the top (docs/model.md 2). */
export const curveFields = {
  id: slug,
  name,
  firstLevel: level,
  maxLevel: level,
  counts: z.enum(['step', 'total']),
  rule: CurveRule,
  rounding: Rounding.default('nearest'),
  levelUpAt: z.enum(['reached', 'exceeded']).default('reached'),
  remainder: z.enum(['carry', 'clear']).default('carry'),
  levelsPerGain: z.enum(['many', 'one']).default('many'),
  atTop: z.enum(['discard', 'hold', 'bank']).default('discard'),
}
export const Curve = z.strictObject(curveFields)
export type Curve = z.infer<typeof Curve>
