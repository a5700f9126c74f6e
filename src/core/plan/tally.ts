import { z } from 'zod'
import { amount, name, tallySlug } from './basics.ts'

export const tallyKinds = ['experience', 'score', 'collectible', 'currency', 'flag'] as const

/** One number that the game keeps for the player (docs/model.md 1). */
export const tallyFields = {
  id: tallySlug,
  name,
  kind: z.enum(tallyKinds),
  start: amount.default(0),
  min: amount.nullable().default(0),
  max: amount.nullable().default(null),
  resets: z.enum(['never', 'place', 'retry']).default('never'),
  saved: z.boolean().default(true),
}
export const Tally = z.strictObject(tallyFields)
export type Tally = z.infer<typeof Tally>

/** A flag is 0 or 1 unless it says otherwise: the one default that hangs on another field. */
export function withFlagMax(raw: Record<string, unknown>): Record<string, unknown> {
  return raw.kind === 'flag' && raw.max === undefined ? { ...raw, max: 1 } : raw
}
