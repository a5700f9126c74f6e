/** `npm run dev`: the server from its sources, restarted on change, and the page with hot reload. */
import { spawn } from 'node:child_process'
import { prepareInstall } from './prepare.mjs'

prepareInstall()
const children = [
  spawn(process.execPath, ['--watch-path=src/core', '--watch-path=src/server', '--import', 'tsx', 'src/server/main.ts'], { stdio: 'inherit' }),
  spawn(process.execPath, ['node_modules/vite/bin/vite.js'], { stdio: 'inherit' }),
]
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)))
