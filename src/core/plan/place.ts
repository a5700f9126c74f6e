import { z } from 'zod'
import { minutes, name, slug } from './basics.ts'

export const placeKinds = ['area', 'stage', 'interior', 'hub'] as const

/** Anything a player can be in (docs/model.md 3). Its contents are sources and gates that name it. */
export const placeFields = {
  id: slug,
  name,
  kind: z.enum(placeKinds),
  goal: z.boolean().default(false),
  minutes: minutes.default(0),
}
export const Place = z.strictObject(placeFields)
export type Place = z.infer<typeof Place>

/** Joins two places; where several join the same two, a route's step uses the first. */
export const passageFields = { id: slug, from: slug, to: slug, twoWay: z.boolean().default(true) }
export const Passage = z.strictObject(passageFields)
export type Passage = z.infer<typeof Passage>
