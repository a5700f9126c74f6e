import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { DatabaseUnreachableError, FolderInUseError } from './errors.ts'
import { serve, type Running } from './serve.ts'

const defaultPort = 4710

/** Starts the server from the environment: DATABASE_URL or TUNDRIFT_DATA, PORT, LOG_LEVEL, LOG_FILE. */
async function main(): Promise<void> {
  const root = projectFolder()
  const url = process.env.DATABASE_URL
  const folder = resolve(process.env.TUNDRIFT_DATA ?? join(root, 'data/tundrift'))
  const running = await serve({
    root,
    data: url ? { url } : { folder },
    port: Number(process.env.PORT ?? defaultPort),
    logLevel: process.env.LOG_LEVEL ?? 'info',
    ...(process.env.LOG_FILE ? { logFile: process.env.LOG_FILE } : {}),
  })
  console.log(`Tundrift is ready: ${running.url}`)
  console.log(`Plans are kept in ${url ? `the database at ${new URL(url).host || 'localhost'}` : folder}. Stop with Ctrl+C.`)
  stopOnSignal(running)
}

/** The folder of the project that this program is of, wherever it is started from. */
function projectFolder(): string {
  let folder = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(folder, 'package.json')) && folder !== dirname(folder)) folder = dirname(folder)
  return folder
}

function stopOnSignal(running: Running): void {
  let stopping = false
  const stop = () => {
    if (stopping) return
    stopping = true
    void running.stop().then(() => process.exit(0))
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
}

main().catch((error: unknown) => {
  console.error(error instanceof FolderInUseError || error instanceof DatabaseUnreachableError ? `Tundrift cannot start: ${error.message}.` : error)
  process.exit(1)
})
