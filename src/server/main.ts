import { resolve } from 'node:path'
import { DatabaseUnreachableError, FolderInUseError } from './errors.ts'
import { serve, type Running } from './serve.ts'

const defaultPort = 4710

/** Starts the server from the environment: DATABASE_URL or TUNDRIFT_DATA, PORT, LOG_LEVEL, LOG_FILE. */
async function main(): Promise<void> {
  const root = process.cwd()
  const url = process.env.DATABASE_URL
  const folder = resolve(process.env.TUNDRIFT_DATA ?? 'data/tundrift')
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
