import { z } from 'zod'
import { name, slug } from './basics.ts'

/** An intended order of play (docs/model.md 7). */
export const routeFields = { id: slug, name, stops: z.array(slug).max(20_000) }
export const Route = z.strictObject(routeFields)
export type Route = z.infer<typeof Route>

const share = z.number().min(0, 'a share lies between 0 and 1').max(1, 'a share lies between 0 and 1')

/** A kind of player: which share of main and side units it takes, and whether it buys. */
export const profileFields = {
  id: slug,
  name,
  main: share,
  side: share,
  buys: z.enum(['nothing', 'all']),
  retries: z.int().min(0).max(1000).default(0),
}
export const Profile = z.strictObject(profileFields)
export type Profile = z.infer<typeof Profile>

/** The three kinds of player that a new plan has. */
export const usualProfiles: Profile[] = [
  { id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing', retries: 0 },
  { id: 'usual', name: 'Usual', main: 1, side: 0.5, buys: 'all', retries: 0 },
  { id: 'thorough', name: 'Thorough', main: 1, side: 1, buys: 'all', retries: 0 },
]
