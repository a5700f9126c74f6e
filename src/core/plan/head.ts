import { z } from 'zod'
import { minutes, name, slug } from './basics.ts'

export const Settings = z.strictObject({
  droughtMinutes: minutes.default(30),
  pileUp: z
    .strictObject({ unlocks: z.int().min(2).default(5), minutes: minutes.default(2) })
    .default({ unlocks: 5, minutes: 2 }),
})
export type Settings = z.infer<typeof Settings>

/** What is said of the plan as a whole. */
export const headFields = {
  id: slug,
  name,
  notes: z.string().max(100_000).default(''),
  start: slug,
  settings: Settings.default({ droughtMinutes: 30, pileUp: { unlocks: 5, minutes: 2 } }),
}
export const Head = z.strictObject(headFields)
export type Head = z.infer<typeof Head>
