import { assert } from 'chai'
import fc from 'fast-check'
import { allFaults, meaningFaults } from '../rules/all-faults.ts'
import { validate } from '../rules/validate.ts'
import { anySample, recordsOf, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { issueText } from './issue-text.ts'
import { readPlan, readPlanValue, toFile, writePlan } from './file.ts'
import { planJsonSchema } from './json-schema.ts'
import { kindEntry, kindNames } from './kinds.ts'
import { editDistance, nearest } from './nearest.ts'
import { contentsByPlace, inOrder } from './records.ts'
import { wholeSource } from './source.ts'
import { assertUpgradeSequence, upgrade } from './upgrades/upgrades.ts'

const bare = { format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', places: [{ id: 'depot', name: 'Depot', kind: 'area' }] }

function faultsOf(value: unknown): string[] {
  const read = readPlanValue(value)
  const faults = read.ok ? meaningFaults(read.records, validate(read.records)) : allFaults(read.issues, read.salvaged)
  return faults.map(({ path, code }) => `${path} ${code}`)
}

describe('the plan file', () => {
  it('fills in what is absent, and writes it out in order', () => {
    const file = toFile(recordsOf({ ...bare, tallies: [{ name: 'Whistle', id: 'whistle', kind: 'flag' }], anywhere: [{ id: 'g', name: 'G', kind: 'door', role: 'side' }] }))
    assert.deepEqual(Object.keys(file), ['format', 'version', 'id', 'name', 'notes', 'start', 'settings', 'tallies', 'curves', 'characters', 'places', 'passages', 'anywhere', 'routes', 'profiles'])
    assert.deepEqual(file.tallies[0], { id: 'whistle', name: 'Whistle', kind: 'flag', start: 0, min: 0, max: 1, resets: 'never', saved: true })
    assert.equal(file.anywhere[0]!.due, 'route')
  })

  it('leaves to a pattern what a source takes from it', () => {
    const records = recordsOf({ ...bare, tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }], patterns: [{ id: 'drift', name: 'Drift', kind: 'event', yields: [{ tally: 'renown', min: 18, max: 18 }] }],
      places: [{ ...bare.places[0], contents: [{ source: { id: 's', name: 'S', pattern: 'drift', minutes: 3 } }] }] })
    const source = inOrder(records, 'source')[0]!
    assert.notProperty(source, 'yields')
    assert.deepInclude(wholeSource(source, inOrder(records, 'pattern')[0]), { kind: 'event', minutes: 3, respawns: false, yields: [{ tally: 'renown', min: 18, max: 18 }] })
  })

  it('reads and writes again to the same bytes', () => {
    fc.assert(fc.property(anySample, (records) => {
      const text = writePlan(records)
      const again = readPlan(text)
      assert.isTrue(again.ok && writePlan(again.records) === text)
    }), { numRuns: runs(25) })
  })

  it('is refused by name when it is newer, or no plan, or no JSON', () => {
    assert.deepEqual(faultsOf({ ...bare, version: 2 }), ['version newer-version'])
    assert.deepEqual(faultsOf({ format: 'other' }), ['format not-a-plan'])
    assert.deepEqual(faultsOf([]), ['format not-a-plan'])
    const read = readPlan('{"format": ')
    assert.equal(read.ok ? '' : read.issues[0]!.code, 'not-json')
  })

  it('is read with the mark before it that some programs write', () => {
    assert.isTrue(readPlan('\uFEFF' + JSON.stringify(bare)).ok)
  })

  it('holds as much as a plan may hold, counted over all of its places, and not one more', () => {
    const gates = (count: number, from = 0) => Array.from({ length: count }, (_, i) => ({ id: `g${from + i}`, name: 'G', kind: 'door' }))
    const places = [{ ...bare.places[0], contents: gates(9_999).map((gate) => ({ gate })) }, { id: 'flats', name: 'Flats', kind: 'area', contents: gates(10_000, 10_000).map((gate) => ({ gate })) }]
    assert.isTrue(readPlanValue({ ...bare, places, anywhere: gates(1, 30_000) }).ok)
    const read = readPlanValue({ ...bare, places, anywhere: gates(2, 30_000) })
    assert.deepEqual(read.ok ? [] : read.issues.map((issue) => [issue.code, issueText(issue)]), [['too-many', 'a plan holds at most 20,000 records of the kind gate, and these would be 20,001']])
    const tallies = (count: number) => faultsOf({ ...bare, tallies: Array.from({ length: count }, (_, i) => ({ id: `t${i}`, name: 'T', kind: 'score' })) })
    assert.deepEqual([tallies(200), tallies(201)], [[], ['tallies shape']])
  })

  it('says of every field without a default that it is missing', () => {
    const missing = (list: string, entry: object) => faultsOf({ ...bare, [list]: [entry] }).filter((fault) => fault.endsWith('shape'))
    assert.deepEqual(missing('tallies', {}), ['tallies[0].id shape', 'tallies[0].name shape', 'tallies[0].kind shape'])
    assert.deepEqual(missing('curves', { id: 'c', name: 'C' }), ['firstLevel', 'maxLevel', 'counts', 'rule'].map((key) => `curves[0].${key} shape`))
    assert.deepEqual(missing('characters', { id: 'c', name: 'C' }), ['characters[0].experience shape', 'characters[0].curve shape'])
    assert.deepEqual(missing('passages', { id: 'p' }), ['passages[0].from shape', 'passages[0].to shape'])
    assert.deepEqual(missing('routes', { id: 'r', name: 'R' }), ['routes[0].stops shape'])
    assert.deepEqual(missing('anywhere', { id: 'g' }), ['anywhere[0].name shape', 'anywhere[0].kind shape'])
  })

  it('names what is neither a source nor a gate, both at once, or guards two things', () => {
    const contents = (...items: object[]) => faultsOf({ ...bare, places: [{ ...bare.places[0], contents: items }] })
    const [source, gate] = [{ id: 's', name: 'S', kind: 'event' }, { id: 'g', name: 'G', kind: 'door' }]
    assert.deepEqual(contents({}, { source, gate }, { source, note: 'x' }), ['places[0].contents[0] shape', 'places[0].contents[1] shape', 'places[0].contents[2].note shape'])
    assert.deepEqual(contents({ gate: { ...gate, guards: { place: 'depot', passage: 'road' } } }, { gate: { ...gate, id: 'h', guards: {} } }), ['places[0].contents[0].gate.guards shape', 'places[0].contents[1].gate.guards shape'])
    assert.deepEqual(contents({ source: { id: 's', name: 'S' } }), ['places[0].contents[0].source.kind shape'])
  })

  it('takes ids of 64 letters, and none that is longer or no slug', () => {
    const of = (id: string) => faultsOf({ ...bare, profiles: [{ id, name: 'P', main: 1, side: 0, buys: 'all' }] })
    for (const id of ['a', 'a'.repeat(64), 'row_4', 'x__']) assert.deepEqual(of(id), [], id)
    for (const id of ['', 'a'.repeat(65), '4th', '_a', 'Row', 'row-4', 'räume']) assert.deepEqual(of(id), ['profiles[0].id shape'], id)
  })

  it('knows which bounds numbers have', () => {
    const source = (more: object) => faultsOf({ ...bare, places: [{ ...bare.places[0], contents: [{ source: { id: 's', name: 'S', kind: 'event', ...more } }] }] })
    for (const bad of [{ count: 0 }, { count: 1.5 }, { count: '3' }, { minutes: -1 }, { minutes: 0.00001 }, { role: 'extra' }, { respawns: 1 }]) assert.lengthOf(source(bad), 1, JSON.stringify(bad))
    for (const good of [{ count: 1_000_000 }, { minutes: 0.5 }, { role: 'side' }, { respawns: true }]) assert.deepEqual(source(good), [], JSON.stringify(good))
    const profile = (more: object) => faultsOf({ ...bare, profiles: [{ id: 'p', name: 'P', main: 1, side: 0, buys: 'nothing', ...more }] })
    for (const bad of [{ main: 1.01 }, { side: -0.1 }, { retries: -1 }, { retries: 0.5 }, { buys: 'some' }]) assert.lengthOf(profile(bad), 1, JSON.stringify(bad))
  })

  it('tells twelve kinds of mistakes at once, each with its path', () => {
    const source = { id: 's', name: 'S', kind: 'event', yields: [{ tally: 'renwon', min: 1, max: 1 }] }
    const faults = faultsOf({
      ...bare,
      start: 'depto',
      colour: 'blue',
      tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'level', name: 'Level', kind: 'score' }, { id: 'stamps', name: 'Stamps', kind: 'money' }],
      curves: [{ id: 'c', name: 'C', firstLevel: 1, maxLevel: 4, counts: 'step', rule: { kind: 'table', values: [10, 20] } }],
      characters: [{ id: 'courier', name: 'Courier', experience: 'stamps', curve: 'c', cap: 1000 }],
      places: [{ ...bare.places[0], contents: [{ source }, { source: { ...source, id: 's', name: 3, yields: [] } }, { gate: { id: 'g', name: 'G', kind: 'door', requires: 'level >=' } }] }],
      passages: [{ id: 'loop', from: 'depot', to: 'depot' }],
      routes: [{ id: 'r', name: 'R', stops: ['depot', 'depot', 'hut'] }],
      profiles: [{ id: 'p', name: 'P', main: 1.5, side: 0, buys: 'all' }],
    })
    assert.includeMembers(faults, [
      'colour shape', 'tallies[1].id shape', 'tallies[2].kind shape', 'characters[0].cap shape', 'places[0].contents[1].source.name shape', 'profiles[0].main shape',
      'start unknown-reference', 'curves[0].rule.values curve-limits', 'places[0].contents[0].source.yields[0].tally unknown-reference',
      'places[0].contents[1].source.id duplicate-id', 'places[0].contents[2].gate.requires requirement', 'passages[0].to passage-to-itself', 'routes[0].stops[2] unknown-reference',
    ])
  })

  it('says what a wrong amount is', () => {
    const yielding = (min: number, max: number) => faultsOf({ ...bare, tallies: [{ id: 'renown', name: 'R', kind: 'experience' }], places: [{ ...bare.places[0], contents: [{ source: { id: 's', name: 'S', kind: 'event', yields: [{ tally: 'renown', min, max }] } }] }] })
    assert.deepEqual(yielding(1.12345, 1.12345), ['places[0].contents[0].source.yields[0].min shape', 'places[0].contents[0].source.yields[0].max shape'])
    assert.deepEqual(yielding(1, 2.5), ['places[0].contents[0].source.yields[0].min shape'])
    assert.deepEqual(yielding(3, 2), ['places[0].contents[0].source.yields[0].max shape'])
    assert.deepEqual(yielding(-1, -1), ['places[0].contents[0].source.yields[0].min negative-experience'])
    assert.deepEqual(yielding(0.1234, 0.1234), [])
  })

  it('has a JSON Schema in which only what has no default is required', () => {
    const schema = planJsonSchema() as { $schema: string; required: string[]; additionalProperties: boolean }
    assert.match(schema.$schema, /2020-12/)
    assert.deepEqual(schema.required, ['format', 'version', 'id', 'name', 'start'])
    assert.isFalse(schema.additionalProperties)
  })
})

describe('records', () => {
  it('have an entry for every kind, with references to kinds that there are', () => {
    for (const kind of kindNames) for (const named of Object.values(kindEntry(kind).refs)) assert.include(kindNames, named)
  })

  it('group contents by place, gates of anywhere apart', () => {
    const contents = contentsByPlace(smallPlan({ anywhere: [{ id: 'g', name: 'G', kind: 'door' }] }))
    assert.deepEqual([...contents.keys()], [null, 'place_0'])
    assert.equal(contents.get(null)!.length, 1)
  })
})

describe('names nearly right', () => {
  it('are found over case, a letter, a swap, and the beginning of a word', () => {
    assert.deepEqual(nearest('Stamps', ['stamps', 'renown']), ['stamps'])
    assert.deepEqual(nearest('opne', ['open', 'cap']), ['open'])
    assert.deepEqual(nearest('ferry', ['ferry_gate', 'hut']), ['ferry_gate'])
    assert.deepEqual(nearest('glass', ['lamp_glass', 'stamps']), ['lamp_glass'])
    assert.deepEqual(nearest('lass', ['lamp_glass']), [])
    assert.deepEqual(nearest('zzz', ['stamps']), [])
    assert.equal(editDistance('kitten', 'sitting', 5), 3)
  })
})

describe('upgrades', () => {
  it('go one version at a time, and their sequence is checked', () => {
    const steps = [{ from: 1, up: (raw: Record<string, unknown>) => ({ ...raw, two: true }) }, { from: 2, up: (raw: Record<string, unknown>) => ({ ...raw, three: true }) }]
    assert.deepEqual(upgrade({ version: 1 }, steps), { version: 3, two: true, three: true })
    assert.deepEqual(upgrade({ version: 2 }, steps), { version: 3, three: true })
    assertUpgradeSequence(steps, 3)
    assert.throws(() => assertUpgradeSequence([steps[1]!], 2))
    assert.throws(() => assertUpgradeSequence(steps, 2))
  })
})
