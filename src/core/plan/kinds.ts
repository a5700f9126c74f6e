import type { z } from 'zod'
import { Character, characterFields } from './character.ts'
import { Curve, curveFields } from './curve.ts'
import { Gate, gateFields, withDue } from './gate.ts'
import { Passage, passageFields, Place, placeFields } from './place.ts'
import { Profile, profileFields, Route, routeFields } from './route.ts'
import { Pattern, patternFields, Source, sourceFields, withSourceDefaults } from './source.ts'
import { Walk, walkFields } from './walk.ts'
import { Tally, tallyFields, withFlagMax } from './tally.ts'

export type Raw = Record<string, unknown>

/** What one kind of record is: its fields, how many a plan may hold, what it refers to and what depends on what. */
export interface KindEntry {
  word: string
  schema: z.ZodType
  fields: Record<string, z.ZodType>
  most: number
  /** Where it names other records: a field path (`*` for every entry of a list) and the kind named there. */
  refs: Record<string, KindName>
  /** Where it holds requirements: field paths as in `refs`. */
  texts: string[]
  /** What it names need not be there: it is a test of the plan, and says so itself when it fails. */
  loose?: true
  /** Fills what the schema alone cannot, because one default hangs on another field. */
  fill?: (raw: Raw) => Raw
}

const yieldRefs = { 'yields.*.tally': 'tally' } as const
const capRefs = { 'caps.*.character': 'character' } as const

/** The one table of kinds (docs/model.md 1 to 7, docs/format.md): everything that goes over all kinds reads it. */
export const kinds = {
  tally: { word: 'tally', schema: Tally, fields: tallyFields, most: 200, refs: {}, texts: [], fill: withFlagMax },
  curve: { word: 'curve', schema: Curve, fields: curveFields, most: 200, refs: {}, texts: [] },
  character: {
    word: 'character',
    schema: Character,
    fields: characterFields,
    most: 50,
    refs: { experience: 'tally', curve: 'curve', joins: 'place', 'rewards.*.yields.*.tally': 'tally' },
    texts: [],
  },
  pattern: {
    word: 'pattern',
    schema: Pattern,
    fields: patternFields,
    most: 1000,
    refs: { ...yieldRefs, 'takes.*.tally': 'tally' },
    texts: [],
  },
  place: { word: 'place', schema: Place, fields: placeFields, most: 5000, refs: {}, texts: [] },
  passage: { word: 'passage', schema: Passage, fields: passageFields, most: 20_000, refs: { from: 'place', to: 'place' }, texts: [] },
  source: {
    word: 'source',
    schema: Source,
    fields: sourceFields,
    most: 100_000,
    refs: { pattern: 'pattern', ...yieldRefs, 'takes.*.tally': 'tally', ...capRefs },
    texts: ['requires'],
    fill: withSourceDefaults,
  },
  gate: {
    word: 'gate',
    schema: Gate,
    fields: gateFields,
    most: 20_000,
    refs: { 'guards.passage': 'passage', 'guards.place': 'place', 'costs.*.tally': 'tally', ...yieldRefs, ...capRefs },
    texts: ['requires'],
    fill: withDue,
  },
  route: { word: 'route', schema: Route, fields: routeFields, most: 20, refs: { 'stops.*': 'place' }, texts: [] },
  profile: { word: 'profile', schema: Profile, fields: profileFields, most: 20, refs: {}, texts: [] },
  walk: {
    word: 'walk',
    schema: Walk,
    fields: walkFields,
    most: 200,
    refs: { 'from.route': 'route', 'from.profile': 'profile', 'steps.*.go': 'passage', 'steps.*.take': 'source', 'steps.*.open': 'gate', 'steps.*.give': 'tally' },
    texts: ['steps.*.expect'],
    loose: true,
  },
} satisfies Record<string, KindEntry>

export type KindName =
  | 'tally' | 'curve' | 'character' | 'pattern' | 'place' | 'passage' | 'source' | 'gate' | 'route' | 'profile' | 'walk'

export const kindNames = Object.keys(kinds) as KindName[]

export function kindEntry(kind: KindName): KindEntry {
  return kinds[kind]
}

/** The record of each kind, as the schemas have it. */
export interface RecordOf {
  tally: Tally
  curve: Curve
  character: Character
  pattern: Pattern
  place: Place
  passage: Passage
  source: Source
  gate: Gate
  route: Route
  profile: Profile
  walk: Walk
}
