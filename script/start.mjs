/** `npm start`: does what is missing (install, build, data) and serves the application. */
import { existsSync } from 'node:fs'
import { prepareBuild, prepareInstall } from './prepare.mjs'

prepareInstall()
prepareBuild()
if (!process.env.DATABASE_URL && !existsSync(process.env.TUNDRIFT_DATA ?? 'data/tundrift')) console.log('Preparing the data folder with the demo plans …')

process.env.LOG_LEVEL ??= 'warn'
await import('../dist/server.js')
