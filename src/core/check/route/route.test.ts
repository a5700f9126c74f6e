import { assert } from 'chai'
import { recordsOf } from '../../testing/plans.ts'
import { check } from '../check.ts'
import type { GateResult, ProfileResult } from '../result.ts'

type Part = Record<string, unknown>

const gate = (id: string, requires: string, more: Part = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
const source = (id: string, amount: number, more: Part = {}, tally = 'renown') => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: amount, max: amount }], ...more } })

/** A road of three places, walked there, back and there again where `stops` says so. */
function run(contents: unknown[][], more: Part = {}, profile: Part = {}): ProfileResult {
  const ids = ['depot', 'flats', 'stair']
  const records = recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'breath', name: 'Breath', kind: 'score', start: 2, resets: 'retry' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: ids.map((id, i) => ({ id, name: id, kind: 'area', minutes: 3, contents: contents[i] ?? [] })),
    passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'stair' }],
    routes: [{ id: 'line', name: 'Line', stops: ids }],
    profiles: [{ id: 'player', name: 'Player', main: 1, side: 1, buys: 'all', ...profile }],
    ...more,
  })
  return check(records, { lockouts: false }).result.routes[0]!.profiles[0]!
}

function gateOf(result: ProfileResult, id: string): GateResult {
  return result.gates.find((found) => found.gate === id)!
}

describe('the route check', () => {
  it('judges a gate when it is due: at its meeting, on leaving the stop, or by the end', () => {
    const soon = (due: string) => [[gate('g', 'level >= 2', { due }), source('s', 100)]]
    assert.deepInclude(gateOf(run(soon('meeting')), 'g'), { verdict: 'short', due: { stop: 0, place: 'depot' }, opened: 0, ready: 0, wait: 0 })
    assert.deepInclude(gateOf(run(soon('stop')), 'g'), { verdict: 'clear', opened: 0 })
    const late = (due: string) => [[gate('g', 'level >= 2', { due }), source('s', 60)], [source('t', 60)]]
    assert.deepInclude(gateOf(run(late('stop')), 'g'), { verdict: 'sealed', opened: null, ready: 1, wait: 1 })
    assert.deepInclude(gateOf(run(late('route')), 'g'), { verdict: 'clear', due: { stop: 2, place: 'stair' }, opened: null, ready: 1 })
  })

  it('has it due at the latest where the route goes through what it guards', () => {
    const late = gateOf(run([[gate('g', 'level >= 2', { due: 'route', guards: { passage: 'road' } })], [source('t', 100)]]), 'g')
    assert.deepInclude(late, { verdict: 'sealed', due: { stop: 0, place: 'depot' }, ready: 1 })
    const unmet = gateOf(run([[source('s', 100)], [], [gate('g', 'level >= 2', { guards: { place: 'stair' } })]]), 'g')
    assert.deepInclude(unmet, { verdict: 'sealed', due: { stop: 1, place: 'flats' }, met: { stop: 2, place: 'stair' }, opened: 2 })
  })

  it('opens in the next pass what an item further on makes possible', () => {
    const result = gateOf(run([[gate('g', 'stamps >= 2'), source('s', 2, {}, 'stamps')]]), 'g')
    assert.deepInclude(result, { verdict: 'clear', opened: 0 })
  })

  it('knows who has opened a gate from who has not until it is due, though nothing else tells them apart any more', () => {
    // In the depot it opens for those with one stamp; with none, as all are left with, for everybody, but nobody comes by again.
    const contents = [[source('s', 1, { yields: [{ tally: 'stamps', min: 1, max: 2 }] }), gate('g', 'stamps != 2', { due: 'route' })]]
    const tallies = [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', resets: 'place' }]
    const stops = ['depot', ...Array.from({ length: 8 }, (_, i) => ['flats', 'stair'][i % 2]!)]
    const found = gateOf(run(contents, { tallies, routes: [{ id: 'line', name: 'Line', stops }] }), 'g')
    assert.deepInclude(found, { verdict: 'clear', p: 1, exact: true, due: { stop: 8, place: 'stair' }, ready: 0 })
    assert.deepInclude(found.comparisons[0], { has: { min: 0, q05: 0, median: 0, q95: 1, max: 1 }, holds: 1 })
  })

  it('lets who buys nothing pass a side gate that could be bought', () => {
    const contents = [[source('s', 3, {}, 'stamps'), gate('oil', '', { role: 'side', costs: [{ tally: 'stamps', amount: 3 }] })]]
    const result = run(contents, {}, { buys: 'nothing' })
    assert.deepInclude(gateOf(result, 'oil'), { verdict: 'clear', opened: null, ready: 0 })
    assert.equal(result.stops[0]!.tallies.stamps!.median, 3)
    assert.equal(run(contents).stops[0]!.tallies.stamps!.median, 0)
  })

  it('holds a gate of anywhere against every stop from which it can be opened', () => {
    const anywhere = [gate('badge', 'level >= 2', { role: 'side' }).gate]
    const result = gateOf(run([[], [source('t', 100)]], { anywhere }), 'badge')
    assert.deepInclude(result, { verdict: 'clear', met: { stop: 0, place: 'depot' }, opened: 1 })
  })

  it('takes what resets back for who fails', () => {
    const contents = [[source('s', 3, {}, 'breath')], [gate('g', 'breath >= 5')]]
    assert.equal(gateOf(run(contents), 'g').verdict, 'clear')
    assert.equal(gateOf(run(contents, {}, { retries: 1 }), 'g').verdict, 'sealed')
  })

  it('says what further units would do: those left out first, then repeats, by the fewest minutes', () => {
    const contents = [[source('quick', 10, { role: 'side', count: 2, respawns: true, minutes: 1 }), source('slow', 50, { role: 'side', minutes: 20 }), source('s', 60), gate('g', 'level >= 2')]]
    const result = gateOf(run(contents, {}, { side: 0 }), 'g')
    assert.equal(result.verdict, 'short')
    assert.deepEqual(result.debt, [{ source: 'quick', untaken: 2, repeats: 2, minutes: 4 }, { source: 'slow', untaken: 1, repeats: 0, minutes: 20 }])
  })

  it('finds two sources together where none alone is enough, and says the best for each part', () => {
    const contents = [[source('letters', 100, { role: 'side' }), source('stall', 2, { role: 'side' }, 'stamps'), gate('g', 'level >= 2 and stamps >= 2')]]
    const result = gateOf(run(contents, {}, { side: 0 }), 'g')
    assert.equal(result.verdict, 'short')
    assert.deepEqual(result.debt.map((debt) => [debt.source, debt.mends]), [['letters', 'level >= 2'], ['stall', 'stamps >= 2']])
  })

  it('counts minutes of places, units and gates', () => {
    const result = run([[source('s', 10, { count: 4, minutes: 2.5 }), gate('g', '', { minutes: 7 })]])
    assert.deepEqual(result.stops.map((stop) => stop.minutes), [20, 3, 3])
  })

  it('gives the sum behind a gate: start, givers and takers, and what was lost', () => {
    const contents = [[source('s', 150, { count: 2 }), gate('toll', '', { costs: [{ tally: 'stamps', amount: 1 }] }), gate('g', 'level >= 2 and stamps >= 1')]]
    const more = { tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', start: 4 }], characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', cap: 2 }] }
    const { from, lost } = gateOf(run(contents, more), 'g')
    assert.deepEqual(from.filter((entry) => entry.tally === 'stamps').map(({ cause, gate: by, total }) => [cause ?? by, total]), [['start', 4], ['toll', -1]])
    assert.deepEqual(from.filter((entry) => entry.tally === 'renown').map(({ source: by, units, total }) => [by, units, total]), [['s', 2, 300]])
    assert.deepEqual(lost.map(({ source: by, amount, why }) => [by, amount, why]), [['s', 50, 'top'], ['s', 150, 'top']])
  })

  it('leaves a gate that the route neither meets nor needs alone', () => {
    const result = run([[], [], [gate('g', 'level >= 9')]], { routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }] })
    assert.deepInclude(gateOf(result, 'g'), { verdict: 'off_route', met: null, due: null })
  })
})
