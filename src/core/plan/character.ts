import { z } from 'zod'
import { amount, level, name, slug } from './basics.ts'
import { Rounding } from './curve.ts'
import { Yield } from './yield.ts'

export const Stat = z.strictObject({
  id: slug,
  name,
  start: amount,
  growth: z.enum(['add', 'multiply']),
  by: amount,
  rounding: Rounding.default('nearest'),
})
export type Stat = z.infer<typeof Stat>

/** A look or a stage of growth, shown from one level to another, both included. */
export const Form = z.strictObject({ id: slug, name, from: level, to: level })
export type Form = z.infer<typeof Form>

export const Reward = z.strictObject({ level: z.union([level, z.literal('every')]), yields: z.array(Yield).max(200) })
export type Reward = z.infer<typeof Reward>

/** Turns one experience tally into a level along a curve (docs/model.md 2). */
export const characterFields = {
  id: slug,
  name,
  experience: slug,
  curve: slug,
  startLevel: level.nullable().default(null),
  joins: slug.nullable().default(null),
  cap: level.nullable().default(null),
  stats: z.array(Stat).max(200).default([]),
  forms: z.array(Form).max(200).default([]),
  rewards: z.array(Reward).max(1000).default([]),
}
export const Character = z.strictObject(characterFields)
export type Character = z.infer<typeof Character>
