import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../../change/diff.ts'
import { setFields } from '../../change/edits.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { check } from '../check.ts'
import type { GateResult } from '../result.ts'
import type { Fix, FixKind } from './fix.ts'
import { alterationsBy, fixesOf } from './fixes.ts'

type Part = Record<string, unknown>

const gate = (id: string, requires: string, more: Part = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
const source = (id: string, amount: number, more: Part = {}, tally = 'renown') => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: amount, max: amount }], ...more } })
const stamps = (id: string, amount: number, more: Part = {}) => source(id, amount, more, 'stamps')

function plan(contents: unknown[][], profile: Part = {}): Records {
  const ids = ['depot', 'flats', 'stair']
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: ids.map((id, i) => ({ id, name: id, kind: 'area', contents: contents[i] ?? [] })),
    passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'stair' }],
    routes: [{ id: 'line', name: 'Line', stops: ids }],
    profiles: [{ id: 'usual', name: 'Usual', main: 1, side: 0, buys: 'all', ...profile }],
  })
}

function resultOf(records: Records, id: string): GateResult {
  return check(records, { lockouts: false, fixes: 0 }).result.routes[0]!.profiles[0]!.gates.find((found) => found.gate === id)!
}

function fixes(records: Records, id: string): Fix[] {
  const plan = { records, compiled: compile(records) }
  const { game } = plan.compiled
  const keys = { route: game.routes[0]!.key, profile: game.profiles[0]!.key, gate: game.gates.find((found) => found.id === id)!.key }
  const before = check(records, { lockouts: false, fixes: 0 }).result.routes
  return [...fixesOf(plan, keys, resultOf(records, id))].map((proposal) => ({ ...proposal, alters: alterationsBy(proposal, plan, before) }))
}

const kinds = (all: Fix[]) => [...new Set(all.map(({ kind }) => kind))]
const says = (all: Fix[], kind: FixKind) => all.filter((fix) => fix.kind === kind).map((fix) => fix.says)

/** Applies every fix of every gate, and looks what has come of it. */
function keepWhatTheySay(records: Records): void {
  const before = check(records, { lockouts: false, fixes: 0 }).result.routes
  const verdicts = ({ profiles }: (typeof before)[number]) => profiles.flatMap(({ profile, gates }) => gates.map(({ gate: id, verdict }): [string, string] => [`${profile} ${id}`, verdict]))
  for (const { gate: id, verdict } of before[0]!.profiles[0]!.gates) {
    for (const fix of fixes(records, id)) {
      assert.notEqual(verdict, 'clear')
      const after = check(apply(records, fix.diff), { lockouts: false, fixes: 0 }).result.routes
      assert.equal(after[0]!.profiles[0]!.gates.find((found) => found.gate === id)!.verdict, 'clear', fix.says)
      const now = new Map(verdicts(after[0]!))
      const altered = verdicts(before[0]!).flatMap(([name, was]) => (now.get(name) === was ? [] : [`${name}: ${was} → ${now.get(name)}`]))
      assert.sameMembers(fix.alters.map((one) => `${one.profile} ${one.gate}: ${one.before} → ${one.after}`), altered, fix.says)
    }
  }
}

describe('fixes', () => {
  it('of a level that is short: the level, the sources, the place, the curve', () => {
    const records = plan([[source('round', 90), gate('hatch', 'level >= 2')], [source('letter', 30)]])
    const all = fixes(records, 'hatch')
    assert.deepEqual(kinds(all), ['threshold', 'source', 'place', 'curve'])
    assert.deepEqual(says(all, 'threshold'), ['ask for level >= 1 instead of level >= 2'])
    assert.deepEqual(says(all, 'source'), ['1 more of round (2 instead of 1)', 'round gives 100 renown a unit, 10 more'])
    assert.deepEqual(says(all, 'place'), ['move it to flats, 1 stop later'])
    assert.deepEqual(says(all, 'curve'), ['scale Rank by 0.904'])
  })

  it('lower a threshold to the most that everyone has, and no further', () => {
    const records = plan([[stamps('round', 4), stamps('letter', 2, { role: 'side', count: 3 }), gate('hatch', 'stamps >= 9 and level >= 1')]], { side: 0.5 })
    const [fix] = fixes(records, 'hatch')
    assert.equal(fix!.says, 'ask for stamps >= 4 and level >= 1 instead of stamps >= 9 and level >= 1')
    const exceeded = plan([[stamps('round', 4), gate('hatch', '5 < stamps')]])
    assert.equal(fixes(exceeded, 'hatch')[0]!.says, 'ask for 3 < stamps instead of 5 < stamps')
    const price = plan([[stamps('round', 4), gate('hatch', '', { costs: [{ tally: 'stamps', amount: 6 }] })]])
    assert.equal(fixes(price, 'hatch')[0]!.says, 'cost 4 stamps instead of 6')
  })

  it('say which other gates they alter', () => {
    const records = plan([[source('round', 90), gate('hatch', 'level >= 2'), gate('lamp', 'level >= 2', { role: 'side' })]])
    const of = (kind: FixKind) => fixes(records, 'hatch').find((fix) => fix.kind === kind)!.alters.map(({ gate: id, before, after }) => `${id} ${before} ${after}`)
    assert.deepEqual(of('threshold'), ['hatch sealed clear'])
    assert.deepEqual(of('curve'), ['hatch sealed clear', 'lamp sealed clear'])
    const moved = plan([[gate('hatch', 'stamps >= 2')], [stamps('round', 2), gate('shop', 'open(hatch)')]])
    const alters = fixes(moved, 'hatch').find((fix) => fix.kind === 'place')!.alters
    assert.include(alters.map(({ gate: id }) => id), 'hatch')
  })

  it('are none for a gate that is clear, in error, or opens with nothing that has a number', () => {
    assert.isEmpty(fixes(plan([[gate('hatch', 'level >= 1')]]), 'hatch'))
    assert.isEmpty(fixes(plan([[gate('hatch', 'level >=')]]), 'hatch'))
    assert.isEmpty(fixes(plan([[gate('hatch', 'open(other)'), gate('other', 'open(hatch)')]]), 'hatch'))
  })

  it('do what they say when they are applied, whatever the plan', () => {
    const anyItem = fc.oneof(
      fc.record({ amount: fc.integer({ min: 10, max: 90 }), side: fc.boolean() }).map(({ amount, side }) => (id: string) => source(id, amount, side ? { role: 'side' } : {})),
      fc.record({ amount: fc.integer({ min: 1, max: 4 }) }).map(({ amount }) => (id: string) => stamps(id, amount)),
      fc.record({ level: fc.integer({ min: 2, max: 4 }), cost: fc.integer({ min: 0, max: 5 }), due: fc.constantFrom('meeting', 'stop', 'route') }).map(({ level, cost, due }) => (id: string) =>
        gate(id, `level >= ${level}`, { due, costs: cost ? [{ tally: 'stamps', amount: cost }] : [] })),
    )
    const anyPlace = fc.array(anyItem, { maxLength: 3 })
    fc.assert(fc.property(fc.tuple(anyPlace, anyPlace, anyPlace), fc.constantFrom(0, 0.5, 1), (places, side) => {
      let n = 0
      const records = plan(places.map((place) => place.map((make) => make(`i${n++}`))), { side })
      keepWhatTheySay(records)
    }), { numRuns: runs(25) })
  })

  it('do so in worlds in which all rules mix', () => {
    fc.assert(fc.property(anyWorld, keepWhatTheySay), { numRuns: runs(60) })
  })

  it('never break a curve to scale it', () => {
    // Scaled until its first value rounds to nothing, it would have no levels, and no limit but the cap.
    const records = plan([[gate('office', 'cap >= 12')]])
    const keyOf = (kind: 'character' | 'curve') => [...records[kind].keys()][0]!
    const low = apply(records, setFields(records, 'curve', keyOf('curve'), { rule: { kind: 'growth', base: 10, factor: 1, add: 0 } }, 'low'))
    const capped = apply(low, setFields(low, 'character', keyOf('character'), { cap: 20 }, 'cap'))
    assert.deepEqual(says(fixes(capped, 'office'), 'curve'), [])
  })
})
