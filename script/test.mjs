/**
 * `npm test`: installs what is missing, then runs types, lint, unit and end-to-end tests.
 * Its last line is `N passed, N failed`; a failed type check, lint or build counts as one failed test.
 */
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { prepareBuild, prepareInstall } from './prepare.mjs'

const browser = ['/usr/bin/chromium', '/usr/bin/chromedriver']
let passed = 0
let failed = 0

function run(command, args, env = {}) {
  return spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } }).status === 0
}

function step(name, works) {
  console.log(`\n── ${name}`)
  if (works()) passed++
  else {
    failed++
    console.log(`✗ ${name} failed`)
  }
}

/** Runs a Mocha configuration, adds its counts, and counts a run that could not even start as failed. */
function mocha(name, args) {
  console.log(`\n── ${name}`)
  const folder = mkdtempSync(join(tmpdir(), 'tundrift-test-'))
  const report = join(folder, 'counts.json')
  const ok = run(process.execPath, ['node_modules/mocha/bin/mocha.js', ...args, '--reporter', './script/mocha-reporter.cjs'], { MOCHA_COUNTS: report })
  const counts = existsSync(report) ? JSON.parse(readFileSync(report, 'utf8')) : { passed: 0, failed: 0 }
  rmSync(folder, { recursive: true, force: true })
  passed += counts.passed
  failed += counts.failed
  if ((!ok || counts.passed === 0) && counts.failed === 0) failed++
}

function prepareBrowser() {
  if (browser.every((file) => existsSync(file))) return true
  console.log('Installing Chromium and its driver from the Debian packages …')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => run([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1), { DEBIAN_FRONTEND: 'noninteractive' })
  return apt('update', '-qq') && apt('install', '-y', '-qq', 'chromium', 'chromium-driver')
}

/** Scripts side by side, each on a core of its own: what they say is printed one after another. */
async function scriptsTogether(...names) {
  const ended = names.map((name) => new Promise((end) => {
    const started = spawn('npm', ['run', '--silent', name], { stdio: ['ignore', 'pipe', 'pipe'] })
    const said = []
    for (const stream of [started.stdout, started.stderr]) stream.on('data', (part) => said.push(part))
    started.on('error', (error) => said.push(Buffer.from(`${error.message}\n`)))
    started.on('close', (code) => end({ code, said }))
  }))
  for (const [i, name] of names.entries()) {
    const { code, said } = await ended[i]
    step(name, () => {
      process.stdout.write(Buffer.concat(said))
      return code === 0
    })
  }
}

prepareInstall()
await scriptsTogether('types', 'lint')
mocha('unit tests', [])
step('build', () => {
  prepareBuild()
  return true
})
step('browser', prepareBrowser)
mocha('end-to-end tests', ['--config', 'e2e/.mocharc.json'])

console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
