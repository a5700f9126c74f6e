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

/** The two ends of a passage, by their places' ids or by their numbers. */
interface Ends<P> {
  from: P
  to: P
  twoWay: boolean
}

/** Where a passage leads from a place; null: nowhere. */
export function leadsTo<P extends string | number>({ from, to, twoWay }: Ends<P>, place: P): P | null {
  if (from === place) return to
  return twoWay && to === place ? from : null
}

/** From where a passage leads to a place; null: it does not. */
export function comesFrom<P extends string | number>({ from, to, twoWay }: Ends<P>, place: P): P | null {
  if (to === place) return from
  return twoWay && from === place ? to : null
}
