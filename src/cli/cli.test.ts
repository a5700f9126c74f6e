import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { assert } from 'chai'
import type { CheckResult } from '../core/check/result.ts'
import { jsonLines } from '../core/exchange/json-lines.ts'
import { samplePlan } from '../core/sample/sample-plan.ts'
import { version } from './version.ts'

const demo = 'demo/lamplight_post.tundrift.json'

/** As it is shipped, in one file: it starts in a tenth of the time that its sources take. */
const built = mkdtempSync(join(tmpdir(), 'tundrift-cli-built-'))

function build() {
  const { status, stderr } = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--config', 'vite.node.config.ts', '--logLevel', 'error', '--outDir', built], { env: { ...process.env, ENTRY: 'tundrift' }, encoding: 'utf8' })
  assert.equal(status, 0, stderr)
  writeFileSync(join(built, 'package.json'), '{ "type": "module" }')
}

function run(args: string[], input = '') {
  const done = spawnSync(process.execPath, [join(built, 'tundrift.js'), ...args], { input, encoding: 'utf8', maxBuffer: 1e8 })
  return { code: done.status, out: done.stdout, err: done.stderr.replace(/^npm warn.*\n/gm, '') }
}

describe('the command line', function () {
  this.timeout(60_000)
  const folder = mkdtempSync(join(tmpdir(), 'tundrift-cli-'))
  before(build)
  after(() => {
    for (const made of [folder, built]) rmSync(made, { recursive: true, force: true })
  })
  const small = JSON.stringify(samplePlan({ places: 3, sources: 18, gates: 9, seed: 5 }))
  const broken = join(folder, 'broken.tundrift.json')
  const short = join(folder, 'short.tundrift.json')

  before(() => {
    const plan = JSON.parse(small) as { places: { contents: { gate?: { requires: string; role: string } }[] }[]; colour?: string }
    plan.places[0]!.contents.find((item) => item.gate)!.gate!.requires = 'level >= 14'
    writeFileSync(short, JSON.stringify(plan, null, 2))
    plan.colour = 'blue'
    plan.places[0]!.contents.find((item) => item.gate)!.gate!.requires = 'level >= stmaps'
    writeFileSync(broken, JSON.stringify(plan, null, 2))
  })

  it('prints each gate with verdict, has, needs and margin', () => {
    const { code, out } = run(['check', demo, '--route', 'main_line', '--profile', 'straight'])
    assert.equal(code, 0)
    assert.match(out, /main_line · straight: \d+ clear/)
    assert.match(out, /gate +verdict +due at +asks +has +needs +margin/)
    assert.match(out, /Ferry gate +clear +old_ferry +level >= 7 +8 +7 +\+1/)
    // What no number shows is told as it is asked for.
    const draft = run(['check', demo.replace('_post', '_draft'), '--route', 'main_line', '--profile', 'straight']).out
    assert.match(draft, /Warden hut +sealed +beacon_island +level >= 6 .*\n +it asks for level >= 6 and open\(echo_door\)\n/)
    assert.match(draft, /Ferry gate +short .*\n.*\n +by \d+ more of /)
  })

  it('prints the document as JSON, one file a line', () => {
    const { out } = run(['check', '-', '-', '--format', 'json', '--profile', 'straight'], small)
    const lines = out.trim().split('\n')
    assert.equal(lines.length, 2)
    const found = JSON.parse(lines[0]!) as CheckResult
    assert.equal(found.plan.revision, 0)
    assert.isNull(found.reach)
  })

  it('tells of one gate alone, with the sum behind it', () => {
    const found = JSON.parse(run(['check', demo, '--gate', 'ferry_gate', '--format', 'json']).out) as CheckResult
    for (const { profiles } of found.routes) for (const { gates } of profiles) assert.deepEqual(gates.map(({ gate, from }) => [gate, from.length > 0]), [['ferry_gate', true]])
    assert.match(run(['check', demo, '--gate', 'fery_gate']).err, /there is no gate "fery_gate"; did you mean "ferry_gate"/)
  })

  it('ends with 0, 1 or 2', () => {
    assert.equal(run(['check', short, '--profile', 'straight']).code, 1)
    assert.equal(run(['check', short, '--profile', 'straight', '--fail-on', 'never']).code, 0)
    const { code, err } = run(['check', broken])
    assert.equal(code, 2)
    assert.match(err, /colour: "colour" is not a key/)
    assert.match(err, /places\[0\]\.contents\[\d+\]\.gate\.requires: "stmaps" is no tally.*did you mean "stamps"/)
    assert.equal(run(['check', 'nowhere.json']).code, 2)
    assert.match(run(['check', demo, '--route', 'none']).err, /there is no route "none"; there are: main_line/)
  })

  it('fails for a main gate at fault, for a side gate only where risks are asked for', () => {
    const plan = JSON.parse(small) as { places: { contents: { gate?: { requires: string; role: string } }[] }[] }
    for (const { contents } of plan.places) for (const { gate } of contents) if (gate) Object.assign(gate, { role: 'side', requires: 'level >= 99' })
    const file = join(folder, 'side.tundrift.json')
    writeFileSync(file, JSON.stringify(plan))
    const codes = (['fault', 'risk', 'never'] as const).map((failOn) => run(['check', file, '--profile', 'straight', '--fail-on', failOn]).code)
    assert.deepEqual(codes, [0, 1, 0])
    // A sealed gate is a fault all the same, whatever it holds back (docs/checks.md 4).
    const { runs: [sarif] } = JSON.parse(run(['check', file, '--profile', 'straight', '--format', 'sarif']).out) as { runs: { results: { ruleId: string; level: string }[] }[] }
    assert.include(sarif!.results.map(({ ruleId, level }) => `${ruleId} ${level}`), 'gate-sealed error')
  })

  it('tells how a player gets stuck place by place, the same move several times as one', () => {
    const plan = {
      format: 'tundrift-plan', version: 1, id: 'toll', name: 'Toll', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency', start: 3 }],
      places: [
        { id: 'depot', name: 'Depot', kind: 'area', contents: [{ source: { id: 'tea', name: 'Cup of tea', kind: 'event', role: 'side', count: 3, takes: [{ tally: 'stamps', amount: 1 }] } }, { gate: { id: 'toll', name: 'Toll', kind: 'door', guards: { passage: 'ferry' }, costs: [{ tally: 'stamps', amount: 2 }] } }] },
        { id: 'shore', name: 'Shore', kind: 'area', goal: true },
      ],
      passages: [{ id: 'ferry', from: 'depot', to: 'shore' }], routes: [{ id: 'line', name: 'Line', stops: ['depot', 'shore'] }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    }
    const { out } = run(['check', '-'], JSON.stringify(plan))
    assert.match(out, /can get stuck: yes .*\n {2}after 2 moves:\n {4}Depot: take Cup of tea, 2 units\n {2}then: Toll/)
  })

  it('plays the walks that a plan keeps, and fails for one that is not borne out', () => {
    const plan = JSON.parse(small) as Record<string, unknown>
    const red = join(folder, 'red.tundrift.json')
    writeFileSync(red, JSON.stringify({ ...plan, walks: [{ id: 'on', name: 'On', steps: [{ expect: 'level == 1' }, { go: 'passage_1' }] }, { id: 'high', name: 'Too high', steps: [{ expect: 'level >= 9' }] }] }))
    const { code, out } = run(['check', red, '--profile', 'thorough'])
    assert.equal(code, 1)
    assert.match(out, /Walks: \d of 2 borne out[\s\S]*FAILS +Too high\n +after 0 moves: level >= 9: it is 1/)
    assert.equal(run(['check', red, '--profile', 'thorough', '--fail-on', 'never']).code, 0)
  })

  it('speaks SARIF, with the line of each fault', () => {
    const { out } = run(['check', short, '--profile', 'straight', '--format', 'sarif'])
    const sarif = JSON.parse(out) as { version: string; runs: { results: { ruleId: string; level: string; locations: { physicalLocation: { region: { startLine: number } } }[] }[] }[] }
    assert.equal(sarif.version, '2.1.0')
    const result = sarif.runs[0]!.results.find((found) => found.level === 'error')!
    const line = readFileSync(short, 'utf8').split('\n').findIndex((text) => text.includes('level >= 14'))
    const start = result.locations[0]!.physicalLocation.region.startLine
    assert.isAtMost(start, line + 1)
    assert.isAbove(start, line - 9)
  })

  it('speaks JUnit', () => {
    const { out } = run(['check', short, '--profile', 'straight', '--format', 'junit'])
    assert.match(out, /^<\?xml version="1.0" encoding="UTF-8"\?>\n<testsuites name="Tundrift" tests="\d+" failures="[1-9]\d*"/)
    assert.match(out, /<failure message="[^"]*level &gt;= 14: has \d+, needs 14"/)
  })

  it('writes the canonical form, and says where a file is not in it', () => {
    const file = join(folder, 'loose.tundrift.json')
    writeFileSync(file, small)
    assert.equal(run(['format', '--check', file]).code, 1)
    assert.equal(run(['format', file]).code, 0)
    assert.equal(run(['format', '--check', file]).code, 0)
    assert.equal(run(['format', '-'], readFileSync(file, 'utf8')).out, readFileSync(file, 'utf8'))
    assert.equal(run(['format', '--check', demo]).code, 0)
  })

  it('makes samples that check without faults, the same for the same seed', () => {
    const one = run(['sample', '--places', '12', '--seed', '4']).out
    assert.equal(run(['sample', '--places', '12', '--seed', '4']).out, one)
    assert.notEqual(run(['sample', '--places', '12', '--seed', '5']).out, one)
    const { code, err } = run(['check', '-', '--profile', 'thorough', '--route', 'there_and_back'], one)
    assert.isBelow(code!, 2, err)
  })

  it('makes the largest sample there can be, and says of a larger one what a plan holds', () => {
    const { code, out } = run(['sample', '--places', '5000', '--sources', '5000'])
    assert.equal(code, 0)
    assert.lengthOf(out.match(/"lockedText"/g)!, 20_000)
    const larger = run(['sample', '--places', '300', '--gates', '20000'])
    assert.deepEqual([larger.code, larger.out], [1, ''])
    assert.match(larger.err, /^error: there is no such plan: places: a plan holds at most 20,000 records of the kind gate, and these would be 20,001\n/)
  })

  it('ships the schema that it prints, under the version of the package', () => {
    assert.equal(run(['schema']).out, readFileSync('docs/tundrift-plan.schema.json', 'utf8'))
    assert.equal((JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }).version, version)
  })
})

describe('lines of a JSON text', () => {
  it('are where its values begin', () => {
    const lines = jsonLines('{\n  "a": [\n    1,\n    { "b": "x, ]" }\n  ],\n  "c": {}\n}')
    assert.deepEqual([lines.get('a'), lines.get('a[0]'), lines.get('a[1]'), lines.get('a[1].b'), lines.get('c')], [2, 3, 4, 4, 6])
  })
})
