import { z } from 'zod'
import { minutes, name, requirement, slug } from './basics.ts'
import { Role } from './source.ts'
import { CapChange, Cost, Yield } from './yield.ts'

export const gateKinds = ['door', 'area', 'shop_item', 'stage', 'form', 'ability', 'cap'] as const
export const dueMoments = ['meeting', 'stop', 'route'] as const

/** What a gate bars: one passage, or every passage into one place. */
export const Guards = z
  .strictObject({ passage: slug.optional(), place: slug.optional() })
  .refine((g) => (g.passage === undefined) !== (g.place === undefined), 'a gate guards one passage, or one place, or is null')
export type Guards = z.infer<typeof Guards>

/** Something that is held back until its requirement holds and its costs are paid (docs/model.md 5). */
export const gateFields = {
  id: slug,
  name,
  kind: z.enum(gateKinds),
  role: Role.default('main'),
  guards: Guards.nullable().default(null),
  requires: requirement.default(''),
  costs: z.array(Cost).max(200).default([]),
  stays: z.enum(['open', 'live']).default('open'),
  due: z.enum(dueMoments).default('stop').describe('absent: stop for a main gate, route for a side gate'),
  yields: z.array(Yield).max(200).default([]),
  caps: z.array(CapChange).max(200).default([]),
  lockedText: z.string().max(2000).default(''),
  minutes: minutes.default(0),
}
export const Gate = z.strictObject(gateFields)
export type Gate = z.infer<typeof Gate>

/** A main gate is due before its stop is left, a side gate by the end of the route, unless it says otherwise. */
export function withDue(raw: Record<string, unknown>): Record<string, unknown> {
  return raw.due === undefined ? { ...raw, due: raw.role === 'side' ? 'route' : 'stop' } : raw
}
