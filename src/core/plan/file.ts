import { z } from 'zod'
import { crowds } from './bounds.ts'
import { ordersBetween } from './order.ts'
import { Gate, gateFields } from './gate.ts'
import { Head, headFields } from './head.ts'
import { type PlanIssue, type Path } from './issue.ts'
import { kindEntry, kinds, type KindName, type Raw, type RecordOf } from './kinds.ts'
import { contentsByPlace, emptyRecords, inOrder, type ItemRow, type Records, type Row } from './records.ts'
import { placeFields } from './place.ts'
import { salvage } from './salvage.ts'
import { Source, sourceFields } from './source.ts'
import { currentVersion, upgrade } from './upgrades/upgrades.ts'

export const planFormat = 'tundrift-plan'
export const largestFileBytes = 50 * 1024 * 1024

const Item = z
  .strictObject({ source: Source.optional(), gate: Gate.optional() })
  .refine((item) => (item.source === undefined) !== (item.gate === undefined), 'an entry of contents is either { "source" } or { "gate" }')

const PlaceWithContents = z.strictObject({ ...placeFields, contents: z.array(Item).default([]) })

/** A plan file of the current version (docs/format.md). */
export const PlanFile = z.strictObject({
  format: z.literal(planFormat),
  version: z.literal(currentVersion),
  ...headFields,
  tallies: z.array(kinds.tally.schema).max(kinds.tally.most).default([]),
  curves: z.array(kinds.curve.schema).max(kinds.curve.most).default([]),
  characters: z.array(kinds.character.schema).max(kinds.character.most).default([]),
  patterns: z.array(kinds.pattern.schema).max(kinds.pattern.most).optional(),
  places: z.array(PlaceWithContents).max(kinds.place.most).default([]),
  passages: z.array(kinds.passage.schema).max(kinds.passage.most).default([]),
  anywhere: z.array(Gate).max(kinds.gate.most).default([]),
  routes: z.array(kinds.route.schema).max(kinds.route.most).default([]),
  profiles: z.array(kinds.profile.schema).max(kinds.profile.most).default([]),
  walks: z.array(kinds.walk.schema).max(kinds.walk.most).optional(),
})
export type PlanFile = z.infer<typeof PlanFile>

/** The lists of the file that hold records as they are, and the kind in each. */
const plainLists = {
  tallies: 'tally',
  curves: 'curve',
  characters: 'character',
  patterns: 'pattern',
  passages: 'passage',
  routes: 'route',
  profiles: 'profile',
  walks: 'walk',
} as const

/** `salvaged`: the plan with stand-ins where its shape is wrong, to see what else is wrong with it. */
export type ReadResult = { ok: true; records: Records } | { ok: false; issues: PlanIssue[]; salvaged: Records | null }

/**
 * Reads a plan file's text. Faults of shape keep it from being read and come back as issues with their path;
 * faults of meaning do not (see validate.ts).
 */
export function readPlan(text: string): ReadResult {
  let raw: unknown
  try {
    // Some programs begin a text with a mark that JSON does not know.
    raw = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    return refusedWith(fatal('not-json', [], { message: (error as Error).message }))
  }
  return readPlanValue(raw)
}

/** The same for a value that is parsed already. */
export function readPlanValue(raw: unknown): ReadResult {
  if (!isObject(raw) || raw.format !== planFormat) {
    const found = isObject(raw) ? JSON.stringify(raw.format) ?? 'missing' : 'missing'
    return refusedWith(fatal('not-a-plan', ['format'], { found }))
  }
  if (typeof raw.version === 'number' && raw.version > currentVersion) {
    return refusedWith(fatal('newer-version', ['version'], { version: raw.version, known: currentVersion }))
  }
  const filled = fillFile(upgrade(raw))
  const parsed = PlanFile.safeParse(filled)
  if (parsed.success) return withinBounds(toRecords(parsed.data))
  const salvaged = salvage(PlanFile, filled)
  return { ok: false, issues: parsed.error.issues.flatMap(shapeIssues), salvaged: salvaged && toRecords(salvaged) }
}

/** Sources and gates lie in many lists, so that their number is known only once all are read. */
function withinBounds(records: Records): ReadResult {
  const issues = crowds((kind) => records[kind].size).map(({ kind, found, most }) => fatal('too-many', ['places'], { kind, found, most }))
  return issues.length ? { ok: false, issues, salvaged: null } : { ok: true, records }
}

function refusedWith(issue: PlanIssue): ReadResult {
  return { ok: false, issues: [issue], salvaged: null }
}

function fatal(code: PlanIssue['code'], path: Path, params: PlanIssue['params']): PlanIssue {
  return { code, fatal: true, item: null, path, params }
}

/** One issue for each unknown key, so that none hides behind another; all else as Zod has it. */
function shapeIssues(issue: z.core.$ZodIssue): PlanIssue[] {
  const path = issue.path.map((part) => (typeof part === 'symbol' ? String(part) : part))
  if (issue.code === 'unrecognized_keys') {
    return issue.keys.map((key) => fatal('shape', [...path, key], { message: `"${key}" is not a key that is known here` }))
  }
  return [fatal('shape', path, { message: shapeMessage(issue) })]
}

function shapeMessage(issue: z.core.$ZodIssue): string {
  if (issue.code === 'invalid_type' && issue.input === undefined) return `missing: ${issue.expected} expected`
  return issue.message.replace(/^Invalid (input|option): /, '')
}

function isObject(value: unknown): value is Raw {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
}

/** Fills the defaults that hang on another field, wherever the raw value has the right shape for it. */
function fillFile(raw: Raw): Raw {
  const filled: Raw = { ...raw }
  for (const [list, kind] of Object.entries(plainLists)) filled[list] = fillList(raw[list], kind)
  filled.anywhere = fillList(raw.anywhere, 'gate')
  if (Array.isArray(raw.places)) filled.places = raw.places.map(fillPlace)
  return filled
}

function fillList(list: unknown, kind: KindName): unknown {
  const fill = kindEntry(kind).fill
  return fill && Array.isArray(list) ? list.map((entry) => (isObject(entry) ? fill(entry) : entry)) : list
}

function fillPlace(place: unknown): unknown {
  if (!isObject(place) || !Array.isArray(place.contents)) return place
  const contents = place.contents.map((item: unknown) => {
    if (!isObject(item)) return item
    if (isObject(item.source)) return { ...item, source: kinds.source.fill(item.source) }
    if (isObject(item.gate)) return { ...item, gate: kinds.gate.fill(item.gate) }
    return item
  })
  return { ...place, contents }
}

/** Keys of a file's records are made from their position: the same file always gives the same keys. */
function keyOf(kind: KindName, index: number): string {
  return `${kind}_${index}`
}

function toRecords(file: PlanFile): Records {
  const records = emptyRecords(Head.parse(pick(file, headFields)))
  const put = (kind: KindName, row: Raw) => {
    const map = records[kind] as Map<string, unknown>
    const key = keyOf(kind, map.size)
    map.set(key, { key, ...row })
    return key
  }
  for (const [list, kind] of Object.entries(plainLists)) {
    const entries = (file[list as keyof typeof plainLists] ?? []) as Raw[]
    const orders = ordersBetween(null, null, entries.length)
    entries.forEach((entry, i) => put(kind, { order: orders[i], ...entry }))
  }
  const orders = ordersBetween(null, null, file.places.length)
  file.places.forEach(({ contents, ...place }, i) => {
    const key = put('place', { order: orders[i], ...place })
    const itemOrders = ordersBetween(null, null, contents.length)
    contents.forEach((item, j) => {
      if (item.source) put('source', { order: itemOrders[j], place: key, ...item.source })
      if (item.gate) put('gate', { order: itemOrders[j], place: key, ...item.gate })
    })
  })
  const anywhereOrders = ordersBetween(null, null, file.anywhere.length)
  file.anywhere.forEach((gate, i) => put('gate', { order: anywhereOrders[i], place: null, ...gate }))
  return records
}

function pick(from: object, fields: object): Raw {
  const raw = from as Raw
  return Object.fromEntries(Object.keys(fields).filter((key) => raw[key] !== undefined).map((key) => [key, raw[key]]))
}

/** A record without what only the flat form has, its keys in the file's order. */
export function plainRecord<K extends KindName>(kind: K, row: Row<K>): RecordOf[K] {
  return pick(row, kindEntry(kind).fields) as unknown as RecordOf[K]
}

/** The nested form of a plan, as its file has it, the keys of everything in it in the file's order. */
export function toFile(records: Records): PlanFile {
  const file = nested(records)
  // A database gives the parts of a record back in an order of its own; the schema puts them in theirs.
  const ordered = PlanFile.safeParse(file)
  return ordered.success ? ordered.data : file
}

function nested(records: Records): PlanFile {
  const list = (kind: KindName) => inOrder(records, kind).map((row) => plainRecord(kind, row as never))
  const contents = contentsByPlace(records)
  const item = (entry: ItemRow) =>
    entry.kind === 'source' ? { source: pick(entry.row, sourceFields) } : { gate: pick(entry.row, gateFields) }
  const [patterns, walks] = [list('pattern'), list('walk')]
  return {
    format: planFormat,
    version: currentVersion,
    ...pick(records.head, headFields),
    tallies: list('tally'),
    curves: list('curve'),
    characters: list('character'),
    ...(patterns.length ? { patterns } : {}),
    places: inOrder(records, 'place').map((place) => ({
      ...plainRecord('place', place),
      contents: contents.get(place.key)!.map(item),
    })),
    passages: list('passage'),
    anywhere: contents.get(null)!.map((entry) => pick(entry.row, gateFields)),
    routes: list('route'),
    profiles: list('profile'),
    ...(walks.length ? { walks } : {}),
  } as unknown as PlanFile
}

/** The canonical text of a plan: two-space indent, keys in the order of docs/format.md, defaults written out. */
export function writePlan(records: Records): string {
  return JSON.stringify(toFile(records), null, 2) + '\n'
}

/** Where each record stands in the file, by its key. */
export function documentPaths(records: Records): Map<string, Path> {
  const paths = new Map<string, Path>()
  for (const [list, kind] of Object.entries(plainLists)) {
    inOrder(records, kind).forEach((row, i) => paths.set(row.key, [list, i]))
  }
  const contents = contentsByPlace(records)
  inOrder(records, 'place').forEach((place, i) => {
    paths.set(place.key, ['places', i])
    contents.get(place.key)!.forEach(({ kind, row }, j) => paths.set(row.key, ['places', i, 'contents', j, kind]))
  })
  contents.get(null)!.forEach(({ row }, i) => paths.set(row.key, ['anywhere', i]))
  return paths
}
