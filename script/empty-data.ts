/** Makes the empty data folder that new installations start from: making one takes PGlite many seconds, copying it does not. */
import { rmSync } from 'node:fs'
import { openDatabase } from '../src/server/db/open.ts'

const folder = 'dist/empty-data'
rmSync(folder, { recursive: true, force: true })
const database = await openDatabase({ folder, migrations: 'src/server/db/migrations' })
await database.close()
