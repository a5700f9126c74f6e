import { cpSync, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pino } from 'pino'
import { makeApp } from '../app.ts'
import type { OpenDatabase } from '../db/database.ts'
import { openFolder } from '../db/open-folder.ts'
import { Hub } from '../live/hub.ts'
import { CheckService } from '../service/check-service.ts'
import { PlanService } from '../service/plan-service.ts'

const migrations = 'src/server/db/migrations'
const template = 'dist/empty-data'

/** A data folder of its own for a test; made from the prepared empty one where that is built. */
export function testFolder(): { folder: string; remove(): void } {
  const parent = mkdtempSync(join(tmpdir(), 'tundrift-data-'))
  const folder = join(parent, 'data')
  if (existsSync(template)) cpSync(template, folder, { recursive: true })
  return { folder, remove: () => rmSync(parent, { recursive: true, force: true }) }
}

/** The application on a real database. */
export async function testApp(folder: string) {
  const database: OpenDatabase = await openFolder({ folder, migrations })
  const service = new PlanService(database.db)
  const checks = new CheckService()
  const app = makeApp({ service, checks, hub: new Hub(), logger: pino({ level: 'silent' }), webFolder: null })
  return { app, service, close: () => Promise.all([checks.close(), database.close()]) }
}
