/** Builds everything into dist/: the page, the server, the command line, and an empty data folder to start from. */
import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, rmSync } from 'node:fs'

const vite = 'node_modules/vite/bin/vite.js'

function step(what, args, env = {}) {
  const started = Date.now()
  process.stdout.write(`Building ${what} … `)
  const done = spawnSync(process.execPath, args, { env: { ...process.env, ...env }, encoding: 'utf8' })
  if (done.status !== 0) {
    console.log('failed')
    console.log(done.stdout, done.stderr)
    process.exit(1)
  }
  console.log(`${((Date.now() - started) / 1000).toFixed(1)} s`)
}

mkdirSync('dist', { recursive: true })
step('the page', [vite, 'build', '--logLevel', 'warn'])
step('the server', [vite, 'build', '--config', 'vite.node.config.ts', '--logLevel', 'warn'], { ENTRY: 'server' })
step('its threads', [vite, 'build', '--config', 'vite.node.config.ts', '--logLevel', 'warn'], { ENTRY: 'check-thread' })
step('the command line', [vite, 'build', '--config', 'vite.node.config.ts', '--logLevel', 'warn'], { ENTRY: 'tundrift' })
rmSync('dist/migrations', { recursive: true, force: true })
cpSync('src/server/db/migrations', 'dist/migrations', { recursive: true })
if (!existsSync('dist/empty-data')) step('an empty data folder', ['--import', 'tsx', 'script/empty-data.ts'])
