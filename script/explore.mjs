/**
 * `npm run explore [-- FILES]`: the unit tests, with properties tried on made-up values that are new each time, 20 times as many
 * (TUNDRIFT_EXPLORE) as `npm test` does. What one fails on is printed with its seed, and becomes a test of its own.
 */
import { spawnSync } from 'node:child_process'
import { prepareInstall } from './prepare.mjs'

prepareInstall()
const args = process.argv.slice(2)
const mocha = ['--import', 'tsx', 'node_modules/mocha/bin/mocha.js', '--no-config', '--extension', 'ts', '--file', 'src/core/testing/runs.ts', '--timeout', '0', '--exit']
const env = { TUNDRIFT_EXPLORE: '20', ...process.env }
process.exit(spawnSync(process.execPath, [...mocha, ...(args.length ? args : ['src/**/*.test.ts'])], { stdio: 'inherit', env }).status ?? 1)
