import { count, getTableColumns, inArray, eq, and, sql } from 'drizzle-orm'
import type { Head } from '../../core/plan/head.ts'
import { kindEntry, kindNames, type KindName } from '../../core/plan/kinds.ts'
import { emptyRecords, type Records } from '../../core/plan/records.ts'
import { unwrapped } from './columns.ts'
import type { Executor } from './database.ts'
import { tableOf } from './tables.ts'

type Fields = Record<string, unknown>

/** Rows sent in one statement. */
const batch = 500

/** The rows of a kind in a plan with the given keys. */
export async function readRows(db: Executor, planId: string, kind: KindName, keys: string[]): Promise<Map<string, Fields>> {
  const table = tableOf[kind]
  const rows = await db.select().from(table).where(and(eq(table.planId, planId), inArray(table.key, keys)))
  return new Map(rows.map((row) => [row.key, fromRow(kind, row)]))
}

/** The sources or gates of a plan that stand in the given places. */
export async function readRowsIn(db: Executor, planId: string, kind: 'source' | 'gate', placeKeys: string[]): Promise<Map<string, Fields>> {
  const table = tableOf[kind]
  const rows = await db.select().from(table).where(and(eq(table.planId, planId), inArray(table.place, placeKeys)))
  return new Map(rows.map((row) => [row.key, fromRow(kind, row)]))
}

/** How many rows of a kind a plan has. */
export async function countRows(db: Executor, planId: string, kind: KindName): Promise<number> {
  const table = tableOf[kind]
  const [found] = await db.select({ n: count() }).from(table).where(eq(table.planId, planId))
  return Number(found!.n)
}

/** A whole plan as records. */
export async function readRecords(db: Executor, planId: string, head: Head): Promise<Records> {
  const records = emptyRecords(head)
  for (const kind of kindNames) Object.assign(records, { [kind]: await readAllRows(db, planId, kind) })
  return records
}

/** All rows of a kind in a plan. The database writes them as one text, which takes a third of the time of reading column by column. */
async function readAllRows(db: Executor, planId: string, kind: KindName): Promise<Map<string, Fields>> {
  const table = tableOf[kind]
  const { rows: [found] } = (await db.execute(sql`select coalesce(json_agg(t), '[]')::text as all from (select * from ${table} where ${eq(table.planId, planId)}) t`)) as { rows: { all: string }[] }
  const rows = JSON.parse(found!.all) as (Fields & { key: string })[]
  return new Map(rows.map(({ plan_id: planId, ...row }) => [row.key, fromRow(kind, { planId, ...row })]))
}

export async function insertRows(db: Executor, planId: string, kind: KindName, rows: Fields[]): Promise<void> {
  for (let at = 0; at < rows.length; at += batch) {
    await db.insert(tableOf[kind]).values(rows.slice(at, at + batch).map((row) => toRow(planId, kind, row)) as never)
  }
}

export async function updateRow(db: Executor, planId: string, kind: KindName, row: Fields): Promise<void> {
  const table = tableOf[kind]
  await db.update(table).set(toRow(planId, kind, row) as never).where(and(eq(table.planId, planId), eq(table.key, row.key as string)))
}

export async function deleteRows(db: Executor, planId: string, kind: KindName, keys: string[]): Promise<void> {
  const table = tableOf[kind]
  for (let at = 0; at < keys.length; at += batch) {
    await db.delete(table).where(and(eq(table.planId, planId), inArray(table.key, keys.slice(at, at + batch))))
  }
}

/** Every column is written, so that a field taken away is taken away in the table. */
function toRow(planId: string, kind: KindName, row: Fields): Fields {
  const names = Object.keys(getTableColumns(tableOf[kind]))
  return { ...Object.fromEntries(names.map((name) => [name, row[name] ?? null])), planId }
}

function fromRow(kind: KindName, { planId: _, place, ...row }: Fields): Fields {
  for (const field of optionalOf[kind]) if (row[field] === null) delete row[field]
  return kind === 'source' || kind === 'gate' ? { ...row, place } : row
}

/** By kind the fields that a record may leave out: they stand as null in the table. */
const optionalOf = Object.fromEntries(kindNames.map((kind) => [kind, Object.entries(kindEntry(kind).fields).flatMap(([field, schema]) => (unwrapped(schema).optional ? [field] : []))])) as Record<KindName, string[]>

