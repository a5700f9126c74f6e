/** Makes the empty data folder that new installations start from: making one takes PGlite many seconds, copying it does not. */
import { rmSync } from 'node:fs'
import { openFolder } from '../src/server/db/open-folder.ts'

const folder = 'dist/empty-data'
rmSync(folder, { recursive: true, force: true })
const database = await openFolder({ folder, migrations: 'src/server/db/migrations' })
await database.close()
