import { cpSync, existsSync, mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import type { OpenDatabase } from './database.ts'
import { FolderLock } from './lock.ts'
import * as tables from './tables.ts'

export interface FolderOptions {
  /** The data folder; null: in memory. */
  folder: string | null
  migrations: string
  /** A prepared empty data folder to start from; making one takes seconds. */
  template?: string
}

/** Opens the data folder, making or migrating it as needed, and holds its lock until it is closed. */
export async function openFolder({ folder, migrations, template }: FolderOptions): Promise<OpenDatabase> {
  if (folder === null) return start(new PGlite(), migrations, () => {})
  mkdirSync(dirname(folder), { recursive: true })
  const lock = FolderLock.take(folder)
  try {
    if (!existsSync(folder) && template && existsSync(template)) cpSync(template, folder, { recursive: true })
    return await start(new PGlite({ dataDir: folder }), migrations, () => lock.release())
  } catch (error) {
    lock.release()
    throw error
  }
}

async function start(client: PGlite, migrations: string, released: () => void): Promise<OpenDatabase> {
  await client.waitReady
  const db = drizzle(client, { schema: tables })
  await migrate(db, { migrationsFolder: migrations })
  return {
    db,
    // The folder is held: there is no other process.
    alone: (run) => run(),
    async close() {
      await client.close()
      released()
    },
  }
}
