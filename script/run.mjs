/** `npm run check -- PLAN.json` and `npm run bench`: the command line or the bench, installed and built first as needed. */
import { spawnSync } from 'node:child_process'
import { buildBench, prepareBuild, prepareInstall } from './prepare.mjs'

const commands = {
  check: ['dist/tundrift.js', 'check'],
  bench: ['dist/bench.js'],
}

/** Megabytes for what was made last: checks make much that is soon gone, and looking through it less often saves them a twentieth. */
const young = '--max-semi-space-size=64'

const [command, ...rest] = process.argv.slice(2)
prepareInstall()
prepareBuild()
if (command === 'bench') buildBench()
process.exit(spawnSync(process.execPath, [young, ...commands[command], ...rest], { stdio: 'inherit' }).status ?? 1)
