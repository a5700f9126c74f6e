import { z } from 'zod'
import { amount, count, name, requirement, slug } from './basics.ts'

/** One move of a walk played by hand, or what is expected after those before it. */
export const WalkEntry = z.union(
  [
    z.strictObject({ go: slug }),
    z.strictObject({ take: slug, units: count.default(1) }),
    z.strictObject({ open: slug }),
    z.strictObject({ give: slug, amount }),
    z.strictObject({ fail: z.literal(true) }),
    z.strictObject({ quit: z.literal(true) }),
    z.strictObject({ expect: requirement.min(1, 'an expectation says what must hold') }),
  ],
  { error: 'an entry of a walk is one of { "go": passage }, { "take": source, "units" }, { "open": gate }, { "give": tally, "amount" }, { "fail": true }, { "quit": true }, { "expect": requirement }' },
)
export type WalkEntry = z.infer<typeof WalkEntry>

/** Where a walk begins that does not begin at the plan's start: a stop of a route, as a kind of player comes to it. */
export const WalkFrom = z.strictObject({ route: slug, profile: slug, stop: z.int().min(0).max(20_000) })

/** A walk played by hand and kept as a test of the plan (docs/format.md). What it names need not be there any more: then it fails. */
export const walkFields = { id: slug, name, from: WalkFrom.nullable().default(null), steps: z.array(WalkEntry).max(20_000) }
export const Walk = z.strictObject(walkFields)
export type Walk = z.infer<typeof Walk>
