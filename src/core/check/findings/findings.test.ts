import { readFileSync } from 'node:fs'
import { assert } from 'chai'
import { apply } from '../../change/diff.ts'
import { setFields } from '../../change/edits.ts'
import { recordsOf } from '../../testing/plans.ts'
import { check } from '../check.ts'
import { findingIds, type FindingId } from './finding-rule.ts'

type Part = Record<string, unknown>

const gate = (id: string, requires: string, more: Part = {}) => ({ gate: { id, name: id, kind: 'door', requires, lockedText: 'Not yet.', ...more } })
const source = (id: string, amount: number, more: Part = {}, tally = 'renown') => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: amount, max: amount }], ...more } })
const place = (id: string, contents: unknown[] = [], more: Part = {}) => ({ id, name: id, kind: 'area', contents, ...more })
const curve = { id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }
const courier = { id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }
const stamps = { id: 'stamps', name: 'Stamps', kind: 'currency' }
const day = { id: 'day', name: 'Day', kind: 'score', resets: 'place' }

/** A plan of one road from depot to flats; `here` and `there` are what lies in them. */
function plan(here: unknown[], there: unknown[] = [], more: Part = {}): unknown {
  return {
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, stamps, day], curves: [curve], characters: [courier],
    places: [place('depot', here), place('flats', there, { goal: true })], passages: [{ id: 'road', from: 'depot', to: 'flats' }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
    profiles: [{ id: 'straight', name: 'S', main: 1, side: 0, buys: 'nothing' }, { id: 'thorough', name: 'T', main: 1, side: 1, buys: 'all' }],
    ...more,
  }
}

const side = { role: 'side' }
const road = { guards: { passage: 'road' } }
const oneWay = { passages: [{ id: 'road', from: 'depot', to: 'flats', twoWay: false }] }
const withCurve = (more: Part) => ({ curves: [{ ...curve, ...more }] })
const withCourier = (more: Part) => ({ characters: [{ ...courier, ...more }] })
const table = (values: number[]) => withCurve({ maxLevel: values.length + 1, rule: { kind: 'table', values } })
const tallies = (...all: Part[]) => ({ tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, stamps, day, ...all] })

/** For each finding a plan that has it, and one that nearly has. */
const pairs: Record<FindingId, [has: unknown, hasNot: unknown]> = {
  'gate-sealed': [plan([source('s', 90), gate('g', 'level >= 2')]), plan([source('s', 100), gate('g', 'level >= 2')])],
  'gate-short': [plan([source('s', 90), source('more', 10, side), gate('g', 'level >= 2')]), plan([source('s', 100), source('more', 10, side), gate('g', 'level >= 2')])],
  'gate-depends': [
    plan([source('s', 100, { role: 'side', count: 2 }), gate('g', 'level >= 2')], [], { profiles: [{ id: 'u', name: 'U', main: 1, side: 0.5, buys: 'all' }] }),
    plan([source('s', 100, { count: 2 }), gate('g', 'level >= 2')], [], { profiles: [{ id: 'u', name: 'U', main: 1, side: 0.5, buys: 'all' }] }),
  ],
  unreachable: [plan([gate('g', 'stamps >= 1', road)], [source('s', 1, {}, 'stamps')]), plan([source('s', 1, {}, 'stamps'), gate('g', 'stamps >= 1', road)])],
  'needs-repeats': [plan([source('s', 50, { respawns: true }), gate('g', 'level >= 2')]), plan([source('s', 100, { respawns: true }), gate('g', 'level >= 2')])],
  ring: [plan([gate('a', 'open(b)'), gate('b', 'open(a)')]), plan([gate('a', 'open(b)'), gate('b', '')])],
  stuck: [plan([source('s', 3, {}, 'stamps'), gate('oil', '', { ...side, costs: [{ tally: 'stamps', amount: 2 }] }), gate('g', '', { ...road, costs: [{ tally: 'stamps', amount: 3 }] })]), plan([source('s', 5, {}, 'stamps'), gate('oil', '', { ...side, costs: [{ tally: 'stamps', amount: 2 }] }), gate('g', '', { ...road, costs: [{ tally: 'stamps', amount: 3 }] })])],
  'forced-grind': [plan([source('s', 3, { respawns: true }, 'stamps'), gate('oil', '', { ...side, costs: [{ tally: 'stamps', amount: 2 }] }), gate('g', '', { ...road, costs: [{ tally: 'stamps', amount: 3 }] })]), plan([source('s', 5, { respawns: true }, 'stamps'), gate('oil', '', { ...side, costs: [{ tally: 'stamps', amount: 2 }] }), gate('g', '', { ...road, costs: [{ tally: 'stamps', amount: 3 }] })])],
  'off-by-one': [plan([source('s', 4, {}, 'stamps'), gate('g', 'stamps > 4')]), plan([source('s', 5, {}, 'stamps'), gate('g', 'stamps > 4')])],
  'cap-below-gate': [plan([source('s', 900), gate('g', 'level >= 4')], [], withCourier({ cap: 3 })), plan([source('s', 900), gate('g', 'level >= 3')], [], withCourier({ cap: 3 }))],
  'xp-lost': [plan([source('s', 250)], [], withCourier({ cap: 2 })), plan([source('s', 250)], [], withCourier({ cap: 4 }))],
  'level-lag': [plan([source('s', 250)], [], withCurve({ levelsPerGain: 'one' })), plan([source('s', 150)], [], withCurve({ levelsPerGain: 'one' }))],
  'curve-error': [plan([], [], table([100, 0])), plan([], [], table([100, 1]))],
  'curve-dip': [plan([], [], table([100, 90])), plan([], [], table([100, 100]))],
  'form-gap': [plan([], [], withCourier({ forms: [{ id: 'a', name: 'A', from: 1, to: 2 }, { id: 'b', name: 'B', from: 4, to: 5 }] })), plan([], [], withCourier({ forms: [{ id: 'a', name: 'A', from: 1, to: 3 }, { id: 'b', name: 'B', from: 4, to: 5 }] }))],
  'form-overlap': [plan([], [], withCourier({ forms: [{ id: 'a', name: 'A', from: 1, to: 3 }, { id: 'b', name: 'B', from: 3, to: 5 }] })), plan([], [], withCourier({ forms: [{ id: 'a', name: 'A', from: 1, to: 2 }, { id: 'b', name: 'B', from: 3, to: 5 }] }))],
  'reset-starves': [plan([source('s', 3, {}, 'day')], [source('t', 3, {}, 'day'), gate('g', 'day >= 5')]), plan([source('s', 3, {}, 'day')], [source('t', 5, {}, 'day'), gate('g', 'day >= 5')])],
  'reset-surprise': [plan([source('s', 3, {}, 'song'), gate('g', 'song >= 3')], [], tallies({ id: 'song', name: 'Song', kind: 'score', saved: false })), plan([source('s', 3, {}, 'song'), gate('g', 'song >= 3')], [], tallies({ id: 'song', name: 'Song', kind: 'score' }))],
  'reward-chain': [plan([source('s', 100)], [], withCourier({ rewards: [{ level: 2, yields: [{ tally: 'renown', min: 100, max: 100 }] }] })), plan([source('s', 100)], [], withCourier({ rewards: [{ level: 2, yields: [{ tally: 'renown', min: 99, max: 99 }] }] }))],
  'text-mismatch': [plan([gate('g', 'level >= 1', { lockedText: 'Rank 2 and no less.' })]), plan([gate('g', 'level >= 1', { lockedText: 'Rank 1 and no less, or {need}.' })])],
  'no-text': [plan([gate('g', 'level >= 1', { ...road, lockedText: '' })]), plan([gate('g', 'level >= 1', { lockedText: '' })])],
  'dead-end': [plan([], [], { places: [place('depot'), place('flats')], ...oneWay }), plan([], [], { places: [place('depot'), place('flats', [], { goal: true })], ...oneWay })],
  'one-way-loss': [plan([source('s', 10)], [], oneWay), plan([source('s', 10, side)], [], oneWay)],
  unaffordable: [plan([source('s', 4, {}, 'stamps'), gate('a', '', { costs: [{ tally: 'stamps', amount: 3 }] }), gate('b', '', { costs: [{ tally: 'stamps', amount: 2 }] })]), plan([source('s', 5, {}, 'stamps'), gate('a', '', { costs: [{ tally: 'stamps', amount: 3 }] }), gate('b', '', { costs: [{ tally: 'stamps', amount: 2 }] })])],
  'side-needed': [plan([source('s', 100, side), gate('g', 'level >= 2')]), plan([source('s', 100), gate('g', 'level >= 2')])],
  loose: [plan([source('s', 9, {}, 'stamps'), gate('g', 'stamps >= 6')]), plan([source('s', 8, {}, 'stamps'), gate('g', 'stamps >= 6')])],
  drought: [plan([source('s', 10, { minutes: 31 })]), plan([source('s', 10, { minutes: 30 })])],
  'pile-up': [plan([gate('a', ''), gate('b', ''), gate('c', ''), gate('d', '')]), plan([gate('a', ''), gate('b', ''), gate('c', '')], [], { passages: [{ id: 'road', from: 'depot', to: 'flats' }], routes: [{ id: 'line', name: 'Line', stops: ['depot'] }] })],
  unused: [plan([source('s', 1, {}, 'stamps')]), plan([source('s', 1, {}, 'stamps'), gate('g', 'stamps >= 1 and day >= 0')])],
  'zero-yield': [plan([source('s', 0)]), plan([source('s', 1)])],
}

describe('findings', () => {
  const ids = (value: unknown) => new Set(check(recordsOf(value), { lockouts: { states: 20_000 } }).result.findings!.map((found) => found.id))

  it('have a plan for each that has it, and one that nearly has', () => {
    assert.deepEqual(Object.keys(pairs).sort(), [...findingIds].sort())
  })

  for (const [id, [has, hasNot]] of Object.entries(pairs)) {
    it(`${id} is found where it is, and not beside it`, () => {
      assert.isTrue(ids(has).has(id), 'not found')
      assert.isFalse(ids(hasNot).has(id), 'found beside it')
    })
  }

  it('of a gate come with a fix that was tried, as far as fixes are asked for', () => {
    const records = recordsOf(pairs['gate-sealed'][0])
    const [found] = check(records, { lockouts: false }).result.findings!
    assert.equal(found!.fix!.says, 'ask for level >= 1 instead of level >= 2')
    assert.isTrue(check(records, { lockouts: false, fixes: 0 }).result.findings!.every(({ fix }) => fix === null))
  })

  it('come gravest first, each with a sentence', () => {
    const { findings } = check(recordsOf(pairs['needs-repeats'][0]), { lockouts: false }).result
    const order = { fault: 0, risk: 1, note: 2 }
    assert.isNotEmpty(findings)
    findings!.forEach((found, i) => {
      assert.match(found.says, /^[A-Za-z].*\.$/)
      if (i > 0) assert.isAtLeast(order[found.severity], order[findings![i - 1]!.severity])
    })
  })

  it('tell how far a level is behind its XP, also where later gains make up for it, and not of XP that is nearly there', () => {
    const lags = (...sources: ReturnType<typeof source>[]) => check(recordsOf(plan(sources, [], withCurve({ levelsPerGain: 'one' }))), { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'level-lag').map(({ says }) => says)
    assert.match(lags(source('s', 250), source('t', 1))[0]!, /gets one level for each gain, and after 250 XP of s it is 1 level behind its XP \(.*\)\.$/)
    assert.match(lags(source('s', 250), source('t', 900))[0]!, /after 900 XP of t it is [2-9] levels behind/)
    assert.deepEqual(lags(source('s', 99.95)), [])
  })

  it('name every level without a form', () => {
    const forms = (...spans: [number, number][]) => withCourier({ forms: spans.map(([from, to], i) => ({ id: `f${i}`, name: `F${i}`, from, to })) })
    const says = (more: Part) => check(recordsOf(plan([], [], more)), { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'form-gap').map((found) => found.says)
    assert.deepEqual(says(forms([2, 2], [5, 5])), ['Courier has no form at level 1, 3 to 4.'])
    assert.deepEqual(says(forms([1, 7])), ['F0 of Courier goes to level 7, beyond the top, 5.'])
  })

  it('know what more than the highest level is', () => {
    const found = (requires: string, more: Part = {}) => check(recordsOf(plan([source('s', 900), gate('g', requires)], [], more)), { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'off-by-one').map(({ says }) => says)
    assert.deepEqual(found('level > 5'), ['g asks for level > 5, and 5 is the highest level of Courier that there can be.'])
    assert.deepEqual(found('3 < level', withCourier({ cap: 3 })), ['g asks for 3 < level, and 3 is the highest level of Courier that there can be.'])
    assert.deepEqual(found('level > 4'), [])
    assert.deepEqual(found('level >= 5'), [])
  })

  it('know what gates and rewards give that is not kept, or lost on the way', () => {
    const song = (more: Part) => ({ tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, stamps, day, { id: 'song', name: 'Song', kind: 'score', ...more }] })
    const giving = { yields: [{ tally: 'song', min: 3, max: 3 }] }
    const found = (here: unknown[], there: unknown[], more: Part) => check(recordsOf(plan(here, there, more)), { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'reset-surprise').map(({ item }) => item.id)
    const asking = gate('asks', 'song >= 3')
    assert.deepEqual(found([gate('sings', '', giving)], [asking], song({ saved: false })), ['asks'])
    assert.deepEqual(found([gate('sings', '', giving)], [asking], song({ resets: 'place' })), ['asks'])
    assert.deepEqual(found([], [gate('sings', '', giving), asking], song({ resets: 'place' })), [])
    assert.deepEqual(found([source('s', 100)], [asking], { ...song({ resets: 'place' }), ...withCourier({ rewards: [{ level: 2, ...giving }] }) }), [])
  })

  it('take no number in a name for an amount', () => {
    const rows = (lockedText: string) => ({ places: [place('depot', [gate('g', 'level >= 3', { lockedText })], { name: 'Row 2' }), place('flats', [], { name: 'Row 22', goal: true })] })
    const of = (text: string) => check(recordsOf(plan([], [], rows(text))), { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'text-mismatch').map(({ says }) => says)
    assert.deepEqual(of('Rank 3 at Row 22, or at Row 2.'), [])
    assert.match(of('Rank 3 at Row 22, or 22 of anything.')[0]!, /says 22, and the gate asks for level >= 3/)
    assert.match(of('Rank 4.5 at Row 2.')[0]!, /says 4.5/)
    assert.match(of('It takes 1,200 of them.')[0]!, /says 1200/)
  })

  it('know of what is read after each edit, though what was read of other kinds is remembered', () => {
    let records = recordsOf(plan([source('s', 1, {}, 'stamps'), gate('g', 'day >= 0')]))
    const unread = () => check(records, { lockouts: false, fixes: 0 }).result.findings!.filter(({ id }) => id === 'unused').map(({ item }) => item.id)
    const [key] = records.gate.keys()
    const ask = (requires: string) => (records = apply(records, setFields(records, 'gate', key!, { requires } as never, 'an edit')))
    assert.deepEqual(unread(), ['stamps'])
    ask('stamps >= 1')
    assert.deepEqual(unread(), ['day'])
    ask('stamps >= 1 and day >= 0')
    assert.deepEqual(unread(), [])
    ask('')
    assert.deepEqual(unread(), ['stamps', 'day'])
  })

  it('name the route where another one says otherwise', () => {
    const two = { routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }, { id: 'short', name: 'Short line', stops: ['depot'] }] }
    const says = (value: unknown, id: FindingId) => check(recordsOf(value), { lockouts: false, fixes: 0 }).result.findings!.find((found) => found.id === id)!.says
    const lamp = gate('lamp', 'visited(flats)', side)
    assert.equal(says(plan([lamp], [], two), 'gate-sealed'), 'lamp is sealed on Short line (straight, thorough), due at depot: it asks for visited(flats).')
    // In trouble everywhere, or the only one that meets it: there is nothing to tell apart.
    assert.match(says(plan([gate('hatch', 'level >= 9', side)], [], two), 'gate-sealed'), /^hatch is sealed \(straight, thorough\)/)
    assert.match(says(plan([], [gate('hatch', 'level >= 9', side)], two), 'gate-sealed'), /^hatch is sealed \(straight, thorough\)/)
    const lost = (more: Part) => says(plan([source('round', 900)], [], { ...more, ...withCourier({ cap: 2 }) }), 'xp-lost')
    assert.match(lost({}), /^Courier loses 800 XP on the way \(straight\), /)
    assert.match(lost(two), /^Courier loses 800 XP on Line \(straight\), /)
  })

  it('are all to be seen in the draft that comes with the application', function () {
    this.timeout(60_000)
    const draft = recordsOf(JSON.parse(readFileSync(new URL('../../../../demo/lamplight_draft.tundrift.json', import.meta.url), 'utf8')))
    const { findings } = check(draft, { fixes: 0, lockouts: { states: 200_000 } }).result
    const found = new Set(findings!.map(({ id }) => id))
    assert.deepEqual(findingIds.filter((id) => !found.has(id)), [])
  })
})
