import { assert } from 'chai'
import { check } from '../check/check.ts'
import { readPlan, writePlan } from '../plan/file.ts'
import { allFaults } from '../rules/all-faults.ts'
import { smallPlan } from '../testing/plans.ts'
import { junitOf } from './junit.ts'
import { fileReport, type FileReport } from './report.ts'
import { sarifOf } from './sarif.ts'

const gate = (id: string, requires: string, more: object = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
const curve = { id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }

/** A report of a plan in which gates are clear, short, sealed, uncertain, off the route, and in error. */
function report(file = 'plans/winter road.json'): FileReport {
  const records = smallPlan({
    curves: [curve], characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: [
      { id: 'depot', name: 'Depot', kind: 'area', contents: [
        { source: { id: 'round', name: 'Round', kind: 'quest', respawns: true, yields: [{ tally: 'renown', min: 100, max: 100 }] } }, { source: { id: 'kite', name: 'Kite', kind: 'event', yields: [{ tally: 'stamps', min: 0, max: 1 }] } },
        gate('open_door', 'level >= 2'), gate('short_door', 'level >= 4', { name: 'A "short" <door> & more' }), gate('sealed_door', 'stamps >= 9', { role: 'side' }), gate('lucky_door', 'stamps >= 1'), gate('odd_door', 'level >= 2 and stmaps > 1'),
      ] },
      { id: 'shed', name: 'Shed', kind: 'area', contents: [gate('far_door', '')] },
    ],
    passages: [{ id: 'path', from: 'depot', to: 'shed' }],
    walks: [{ id: 'kept', name: 'Kept', steps: [{ take: 'round' }, { expect: 'level == 2' }] }, { id: 'broken', name: 'Broken', steps: [{ expect: 'level == 5' }] }],
  })
  return fileReport(file, writePlan(records), records, check(records, { lockouts: false, fixes: 0 }))
}

/** What a file that cannot be read is told of. */
function unread(text: string): FileReport {
  const read = readPlan(text)
  return { file: '-', text, faults: read.ok ? [] : allFaults(read.issues, read.salvaged), cases: [], findings: [], walks: [] }
}

describe('a report', () => {
  it('says of each gate how bad its verdict is', () => {
    assert.deepEqual(report().cases.map(({ gate: id, verdict, severity }) => [id, verdict, severity]), [
      ['open_door', 'clear', null], ['short_door', 'short', 'fault'], ['sealed_door', 'sealed', 'fault'], ['lucky_door', 'depends', 'risk'], ['odd_door', 'sealed', 'fault'], ['far_door', 'off_route', null],
    ])
  })

  it('says in a sentence what is asked and what is there', () => {
    const says = Object.fromEntries(report().cases.map((found) => [found.gate, found.says]))
    assert.equal(says.short_door, 'A "short" <door> & more is short when due at depot, stop 0; level >= 4: has 2, needs 4')
    assert.equal(says.lucky_door, 'lucky_door depends (50 %) when due at depot, stop 0; stamps >= 1: has 0, needs 1')
    assert.match(says.odd_door!, /^odd_door is in error: "stmaps" is no tally/)
  })
})

describe('SARIF', () => {
  interface Result { ruleId: string; level: string; message: { text: string }; locations: { physicalLocation: { artifactLocation: { uri: string }; region: { startLine: number } } }[] }
  const runOf = (...reports: FileReport[]) => (sarifOf(reports, '1.2.3') as { runs: { tool: { driver: { version: string; rules: { id: string }[] } }; artifacts: object[]; results: Result[] }[] }).runs[0]!

  it('has a rule for each result', () => {
    const { tool: { driver }, results } = runOf(report(), unread('{'))
    const rules = driver.rules.map(({ id }) => id)
    assert.equal(new Set(rules).size, rules.length)
    for (const { ruleId } of results) assert.include(rules, ruleId)
    assert.equal(driver.version, '1.2.3')
  })

  it('points to the line on which a gate stands, in a file with its name as a URI', () => {
    const one = report()
    const { results } = runOf(one)
    const lines = one.text.split('\n')
    for (const id of ['short_door', 'sealed_door', 'lucky_door']) {
      const { locations: [at] } = results.find(({ message }) => message.text.includes(id === 'short_door' ? '"short"' : id))!
      assert.equal(at!.physicalLocation.artifactLocation.uri, 'plans/winter%20road.json')
      const line = at!.physicalLocation.region.startLine
      assert.isTrue(lines.slice(line - 1, line + 3).join('\n').includes(`"${id}"`), `${id} at line ${line}`)
    }
  })

  it('takes faults for errors, risks for warnings', () => {
    const levels = runOf(report()).results.map(({ ruleId, level }) => `${ruleId} ${level}`)
    assert.includeMembers(levels, ['gate-short error', 'gate-sealed error', 'gate-depends warning', 'plan-fault error', 'walk error'])
    assert.notInclude(levels.join(), 'gate-clear')
  })

  it('tells of a text that is no plan on its first line', () => {
    const [result] = runOf(unread('{ "format": ')).results
    assert.deepEqual([result!.ruleId, result!.locations[0]!.physicalLocation.region.startLine, result!.locations[0]!.physicalLocation.artifactLocation.uri], ['plan-fault', 1, 'stdin'])
  })
})

describe('JUnit', () => {
  const xml = junitOf([report()], ({ main, severity }) => main && severity === 'fault')
  const attributes = (line: string) => Object.fromEntries([...line.matchAll(/(\w+)="([^"]*)"/g)].map(([, name, value]) => [name, value]))

  it('counts in its heads what stands in it', () => {
    const cases = xml.match(/<testcase /g)!.length
    const failures = xml.match(/<failure /g)!.length
    assert.deepInclude(attributes(xml.split('\n')[1]!), { tests: String(cases), failures: String(failures) })
    const suites = xml.split('\n').filter((line) => line.includes('<testsuite ')).map(attributes)
    assert.equal(suites.reduce((sum, suite) => sum + Number(suite.tests), 0), cases)
    assert.deepEqual(suites.map(({ name, failures: failed, skipped }) => [name!.replace(/^.*: /, ''), failed, skipped]), [['the plan', '1', '0'], ['line, straight', '2', '1'], ['walks', '1', '0']])
  })

  it('escapes what XML would take for its own', () => {
    assert.include(xml, 'name="A &quot;short&quot; &lt;door&gt; &amp; more"')
    assert.notMatch(xml.replace(/<\/?[a-z?][^<>]*>/g, ''), /[<>]/)
  })

  it('leaves out letters that XML cannot hold', () => {
    const one = report()
    const odd = { ...one, cases: [{ ...one.cases[0]!, name: 'Bell\u0007 door' }] }
    assert.include(junitOf([odd], () => false), 'name="Bell door"')
  })

  it('has what keeps a file from being read as failures', () => {
    assert.match(junitOf([unread('[]')], () => true), /<testcase name="format" classname="-"><failure message="this is not a Tundrift plan/)
  })
})
