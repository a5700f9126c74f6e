import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core'
import type * as tables from './tables.ts'

export type Database = PgDatabase<PgQueryResultHKT, typeof tables>
/** What statements run on: the database, or the transaction under way (never the first within the second). */
export type Executor = Database

export interface OpenDatabase {
  db: Database
  /** Runs something while no other process that shares the database runs such a thing. */
  alone<T>(run: () => Promise<T>): Promise<T>
  close(): Promise<void>
}
