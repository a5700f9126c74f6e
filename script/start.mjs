/** `npm start`: does what is missing (install, build, data) and serves the application. */
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { prepareBuild, prepareInstall } from './prepare.mjs'

prepareInstall()
prepareBuild()
if (!existsSync(process.env.TUNDRIFT_DATA ?? 'data/tundrift')) console.log('Preparing the data folder with the demo plans …')

const server = spawn(process.execPath, ['dist/server.js'], {
  stdio: 'inherit',
  env: { ...process.env, LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn' },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill('SIGTERM'))
server.on('exit', (code) => process.exit(code ?? 0))
