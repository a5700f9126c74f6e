import { z } from 'zod'
import { amount, level, slug } from './basics.ts'

/** What one unit gives of a tally: `min` = `max` is a fixed amount, else any whole number between, equally likely. */
export const Yield = z
  .strictObject({ tally: slug, min: amount, max: amount })
  .refine((y) => y.min <= y.max, { error: 'the least amount is above the greatest', path: ['max'] })
  .refine((y) => y.min === y.max || (Number.isInteger(y.min) && Number.isInteger(y.max)), {
    error: 'both ends of a range are whole numbers',
    path: ['min'],
  })
export type Yield = z.infer<typeof Yield>

/** What is used up: by a unit of a source (`takes`) or by opening a gate (`costs`). */
export const Cost = z.strictObject({ tally: slug, amount: amount.refine((n) => n >= 0, 'a cost is 0 or more') })
export type Cost = z.infer<typeof Cost>

/** A new level cap, for one character or for all. */
export const CapChange = z.strictObject({ character: slug, level })
export type CapChange = z.infer<typeof CapChange>
