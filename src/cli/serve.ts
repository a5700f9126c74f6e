import { spawn } from 'node:child_process'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Command } from 'commander'

export function addServeCommand(program: Command): void {
  program
    .command('serve')
    .description('serve the application on this machine')
    .option('--port <n>', 'the port to listen on, or the next free one')
    .option('--data <folder>', 'where plans are kept')
    .action((flags: { port?: string; data?: string }) => {
      // The server is a program of its own, beside this one: the command line stays quick to start.
      const dist = dirname(fileURLToPath(import.meta.url))
      const env = { LOG_LEVEL: 'warn', ...process.env, ...(flags.port ? { PORT: flags.port } : {}), ...(flags.data ? { TUNDRIFT_DATA: flags.data } : {}) }
      const server = spawn(process.execPath, [join(dist, 'server.js')], { stdio: 'inherit', env })
      for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => server.kill('SIGTERM'))
      server.on('exit', (code) => process.exit(code ?? 0))
    })
}
