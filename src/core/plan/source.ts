import { z } from 'zod'
import { count, minutes, name, requirement, slug } from './basics.ts'
import { CapChange, Cost, Yield } from './yield.ts'

export const sourceKinds = ['enemy', 'quest', 'pickup', 'event', 'production'] as const
export const SourceKind = z.enum(sourceKinds)
export const Role = z.enum(['main', 'side'])
export type Role = z.infer<typeof Role>

const yields = z.array(Yield).max(200)
const takes = z.array(Cost).max(200)

/** What sources can have in common, defined once for the plan (docs/model.md 4). */
export const patternFields = {
  id: slug,
  name,
  kind: SourceKind.optional(),
  yields: yields.optional(),
  takes: takes.optional(),
  respawns: z.boolean().optional(),
  minutes: minutes.optional(),
}
export const Pattern = z.strictObject(patternFields)
export type Pattern = z.infer<typeof Pattern>

/** The fields that a source may leave to its pattern. */
export const patternable = ['kind', 'yields', 'takes', 'respawns', 'minutes'] as const

/** Something that gives (docs/model.md 4). `kind` and the other patternable fields may be left to the pattern. */
export const sourceFields = {
  id: slug,
  name,
  pattern: slug.optional(),
  kind: SourceKind.optional(),
  role: Role.default('main'),
  count: count.default(1),
  yields: yields.optional(),
  takes: takes.optional(),
  requires: requirement.default(''),
  respawns: z.boolean().optional(),
  minutes: minutes.optional(),
  caps: z.array(CapChange).max(200).default([]),
}

const plainSource = z.strictObject(sourceFields)
export const Source = plainSource.refine((s) => s.pattern !== undefined || s.kind !== undefined, {
  error: 'a source without a pattern needs a kind',
  path: ['kind'],
})
export type Source = z.infer<typeof plainSource>

/** A source with everything filled in, from its pattern or by default. */
export type WholeSource = Omit<Source, (typeof patternable)[number]> & Required<Pick<Source, (typeof patternable)[number]>>

const sourceDefaults = { kind: 'event', yields: [], takes: [], respawns: false, minutes: 0 } satisfies Partial<Source>

function isWhole(source: Source): source is Source & WholeSource {
  return patternable.every((field) => source[field] !== undefined)
}

const filled = new WeakMap<Source, { pattern: Pattern | undefined; whole: WholeSource }>()

/** What the source says, then what its pattern says, then the default. */
export function wholeSource(source: Source, pattern: Pattern | undefined): WholeSource {
  if (!pattern && isWhole(source)) return source
  const known = filled.get(source)
  if (known && known.pattern === pattern) return known.whole
  const whole = fill(source, pattern)
  filled.set(source, { pattern, whole })
  return whole
}

function fill(source: Source, pattern: Pattern | undefined): WholeSource {
  return Object.assign({}, source, {
    kind: source.kind ?? pattern?.kind ?? sourceDefaults.kind,
    yields: source.yields ?? pattern?.yields ?? sourceDefaults.yields,
    takes: source.takes ?? pattern?.takes ?? sourceDefaults.takes,
    respawns: source.respawns ?? pattern?.respawns ?? sourceDefaults.respawns,
    minutes: source.minutes ?? pattern?.minutes ?? sourceDefaults.minutes,
  })
}

/** Fills sources from these patterns, as `wholeSource` does. */
export function wholeFrom(patterns: readonly Pattern[]): (source: Source) => WholeSource {
  const byId = new Map(patterns.map((pattern) => [pattern.id, pattern]))
  return (source) => wholeSource(source, source.pattern === undefined ? undefined : byId.get(source.pattern))
}

/** Defaults are written out, except what a pattern is to give (docs/format.md). */
export function withSourceDefaults(raw: Record<string, unknown>): Record<string, unknown> {
  if (raw.pattern !== undefined) return raw
  const { yields, takes, respawns, minutes } = sourceDefaults
  return { yields, takes, respawns, minutes, ...raw }
}
