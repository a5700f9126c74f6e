/** What every command needs first: the right Node, the packages, the build. Uses nothing but Node itself. */
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const installedMark = 'node_modules/.tundrift-lock'
const builtMark = 'dist/.tundrift-sources'
const leastNode = [20, 19]

function run(command, args, what) {
  const done = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32' })
  if (done.status !== 0) {
    console.error(`${what} failed; the lines above say why.`)
    process.exit(1)
  }
}

function assertNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major > leastNode[0] || (major === leastNode[0] && minor >= leastNode[1])) return
  console.error(`Tundrift needs Node ${leastNode.join('.')} or newer; this is ${process.versions.node}.`)
  process.exit(1)
}

/** Installs the packages when the lock file is not the one they were installed from. */
export function prepareInstall() {
  assertNode()
  const lock = readFileSync('package-lock.json', 'utf8')
  const mark = createHash('sha256').update(lock).digest('hex')
  if (existsSync(installedMark) && readFileSync(installedMark, 'utf8') === mark) return
  console.log('Installing packages (once, about a minute) …')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel', 'error'], 'Installing the packages')
  writeFileSync(installedMark, mark)
}

/** Names, sizes and times of everything that goes into the build. */
function sourcesMark() {
  const hash = createHash('sha256')
  const visit = (path) => {
    const stat = statSync(path)
    if (stat.isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name))
    else if (!/\.test\.ts$/.test(path)) hash.update(`${path} ${stat.size} ${stat.mtimeMs}\n`)
  }
  for (const path of ['src', 'package-lock.json', 'vite.config.ts', 'vite.node.config.ts', 'script/build.mjs']) visit(path)
  return hash.digest('hex')
}

/** Builds when a source has changed since the last build. */
export function prepareBuild() {
  const mark = sourcesMark()
  if (existsSync(builtMark) && readFileSync(builtMark, 'utf8') === mark) return
  run(process.execPath, ['script/build.mjs'], 'Building')
  writeFileSync(builtMark, mark)
}

/** Builds the bench, which is measured as what is built runs. */
export function buildBench() {
  for (const ENTRY of ['bench', 'bench-browser', 'draw-thread']) {
    const done = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--config', 'vite.node.config.ts', '--logLevel', 'warn'], { stdio: 'inherit', env: { ...process.env, ENTRY } })
    if (done.status !== 0) process.exit(1)
  }
}
