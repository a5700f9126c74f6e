import { assert } from 'chai'
import { recordsOf } from '../../testing/plans.ts'
import { check } from '../check.ts'
import type { GateResult } from '../result.ts'

type Part = Record<string, unknown>

const gate = (id: string, requires: string, more: Part = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
const gives = (id: string, tally: string, amount: number | [number, number], more: Part = {}) => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: [amount].flat()[0], max: [amount].flat().at(-1) }], ...more } })
const costs = (...all: [string, number][]) => all.map(([tally, amount]) => ({ tally, amount }))

/** What a check tells of a gate on a route of three places, here for one kind of player; amounts are worked out by hand from docs/checks.md 1. */
function told(id: string, contents: unknown[][], player: Part = {}, more: Part = {}): GateResult {
  const ids = ['depot', 'flats', 'stair']
  const records = recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'glass', name: 'Glass', kind: 'collectible' }, { id: 'day', name: 'Day', kind: 'score', resets: 'place' }, { id: 'key', name: 'Key', kind: 'flag' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: ids.map((place, i) => ({ id: place, name: place, kind: 'area', contents: contents[i] ?? [] })),
    passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'stair' }],
    routes: [{ id: 'line', name: 'Line', stops: ids }],
    profiles: [{ id: 'player', name: 'Player', main: 1, side: 1, buys: 'all', ...player }],
    ...more,
  })
  return check(records, { lockouts: false, fixes: 0 }).result.routes[0]!.profiles[0]!.gates.find((found) => found.gate === id)!
}

describe('a comparison', () => {
  const seven = [[gives('a', 'stamps', 7), gives('b', 'glass', 3), gate('g', '')]]
  const of = (requires: string) => told('g', [[...seven[0]!.slice(0, 2), gate('g', requires)]]).comparisons.map(({ text, need, has, margin, holds, slack }) => [text, need, has?.median, margin, holds, slack])

  it('has its slack on the side to which its constant may go, whichever side that stands on', () => {
    assert.deepEqual(of('stamps >= 4'), [['stamps >= 4', 4, 7, 3, 1, 3]])
    assert.deepEqual(of('stamps > 4'), [['stamps > 4', 4, 7, 3, 1, 3]])
    assert.deepEqual(of('4 <= stamps'), [['4 <= stamps', 4, 7, 3, 1, 3]])
    assert.deepEqual(of('stamps <= 9'), [['stamps <= 9', 9, 7, -2, 1, 2]])
    assert.deepEqual(of('10 > stamps'), [['10 > stamps', 10, 7, -3, 1, 3]])
    assert.deepEqual(of('stamps - 2 >= 1'), [['stamps - 2 >= 1', 1, 5, 4, 1, 4]])
  })

  it('has no slack where it does not hold, or where both sides vary', () => {
    assert.deepEqual(of('stamps >= 8'), [['stamps >= 8', 8, 7, -1, 0, null]])
    assert.deepEqual(of('stamps >= glass'), [['stamps >= glass', 3, 7, 4, 1, null]])
    assert.deepEqual(of('stamps >= 2 * glass + 2'), [['stamps >= 2 * glass + 2', 8, 7, -1, 0, null]])
  })

  it('is told in the order written, within whatever it stands, also where the gate does not hang on it', () => {
    assert.deepEqual(of('not (stamps < 3) and at_least(1, glass >= 9, level == 1) or key >= 1').map(([text]) => text), ['stamps < 3', 'glass >= 9', 'level == 1', 'key >= 1'])
  })

  it('is there for a cost likewise, with what must stay as room', () => {
    const shop = (min: number) => told('g', [[gives('a', 'stamps', 7), gate('g', 'stamps >= 2', { costs: costs(['stamps', 4]) })]], {}, { tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'stamps', name: 'S', kind: 'currency', start: min, min }] })
    assert.deepEqual(shop(0).comparisons.map(({ text, need, has, margin, slack }) => [text, need, has!.median, margin, slack]), [['stamps >= 2', 2, 7, 5, 5], ['stamps >= 4', 4, 7, 3, 3]])
    assert.deepEqual(shop(3).comparisons.map(({ need, has, margin, slack }) => [need, has!.median, margin, slack]), [[2, 10, 8, 8], [4, 10, 6, 3]])
  })

  it('shows what there was just before the gate opened, not after it was paid', () => {
    const { comparisons: [cost], opened } = told('g', [[gives('a', 'stamps', 5), gate('g', '', { costs: costs(['stamps', 5]), due: 'route' })], [gives('b', 'stamps', 50)]])
    assert.deepEqual([opened, cost!.has!.median, cost!.margin], [0, 5, 0])
  })

  it('has quantiles that are the smallest value with enough at or below it', () => {
    // Of 4 units each with one half: 0 to 4, at 1/16, 5/16, 11/16, 15/16 and 1.
    const { comparisons: [glass], p, exact, verdict } = told('g', [[gives('a', 'glass', 1, { role: 'side', count: 4 }), gate('g', 'glass >= 3')]], { side: 0.5 })
    assert.deepEqual(glass!.has, { min: 0, q05: 0, median: 2, q95: 4, max: 4 })
    assert.deepEqual([verdict, p, exact, glass!.holds, glass!.slack], ['depends', 5 / 16, true, 5 / 16, null])
  })

  it('of a range has each amount equally likely', () => {
    const { comparisons: [glass], p } = told('g', [[gives('a', 'glass', [2, 5]), gives('b', 'glass', [1, 2]), gate('g', 'glass > 5')]])
    assert.deepEqual(glass!.has, { min: 3, q05: 3, median: 5, q95: 7, max: 7 })
    assert.equal(p, 3 / 8)
  })
})

describe('moments of a gate', () => {
  const moments = ({ met, due, opened, ready, wait }: GateResult) => [met?.stop ?? null, due?.stop ?? null, opened, ready, wait]

  it('are those of meeting, being due, opening and being ready', () => {
    const glass = (at: number) => [0, 1, 2].map((stop) => [...(stop === 0 ? [gate('g', 'glass >= 2', { due: 'route' })] : []), ...(stop === at ? [gives('a', 'glass', 2)] : [])])
    assert.deepEqual(moments(told('g', glass(0))), [0, 2, 0, 0, 0])
    // Nobody comes back to it: ready on leaving the flats, never opened.
    assert.deepEqual(moments(told('g', glass(1))), [0, 2, null, 1, 1])
    assert.deepEqual(moments(told('g', glass(2))), [0, 2, null, 2, 2])
    assert.deepEqual(moments(told('g', [[gate('g', 'glass >= 2')]])), [0, 0, null, null, null])
  })

  it('of one that is ready and no longer so are those of the first time', () => {
    const spent = [[gives('a', 'stamps', 5)], [gate('g', 'stamps >= 5', { due: 'route', role: 'side', costs: costs(['stamps', 9]) }), gate('h', '', { costs: costs(['stamps', 5]) })]]
    assert.deepEqual(moments(told('g', spent)), [1, 2, null, null, null])
    const seen = [[gate('g', 'stamps >= 5', { role: 'side', costs: costs(['stamps', 5]) }), gives('a', 'stamps', 5)], [gate('h', '', { costs: costs(['stamps', 5]) })]]
    assert.deepEqual(moments(told('g', seen, { buys: 'nothing' })), [0, 2, null, 0, 0])
  })

  it('of a live one are when it first holds as the player comes to it', () => {
    const tide = (requires: string) => [[gate('g', requires, { stays: 'live', due: 'route' }), gives('a', 'glass', 2)], [gives('b', 'glass', 2)]]
    assert.deepEqual(moments(told('g', tide('glass < 3'))), [0, 2, 0, 0, 0])
    assert.equal(told('g', tide('glass < 3')).verdict, 'sealed')
    assert.deepEqual(moments(told('g', tide('glass >= 4'))), [0, 2, null, 1, 1])
    assert.equal(told('g', tide('glass >= 4')).verdict, 'clear')
  })

  it('come at the latest on leaving the stop from which the route goes through what is guarded', () => {
    const barred = (due: string) => told('g', [[], [gate('g', 'glass >= 2', { due, guards: { passage: 'path' } })], [gives('a', 'glass', 2)]])
    for (const due of ['meeting', 'stop', 'route']) assert.deepEqual(barred(due).due, { stop: 1, place: 'flats' }, due)
    assert.equal(barred('route').verdict, 'sealed')
  })

  it('are on meeting it where it is due then, before it opens', () => {
    const contents = [[gate('g', 'glass >= 2', { due: 'meeting' }), gives('a', 'glass', 2)]]
    assert.deepInclude(told('g', contents), { verdict: 'short', p: 0, opened: 0 })
    assert.deepInclude(told('g', [[gives('a', 'glass', 2), gate('g', 'glass >= 2', { due: 'meeting' })]]), { verdict: 'clear', p: 1, opened: 0 })
  })
})

describe('what is lacking', () => {
  const lacking = ({ verdict, debt }: GateResult) => [verdict, debt.map(({ source, untaken, repeats }) => [source, untaken, repeats])]

  it('comes of units left out first, then of repeats of what respawns', () => {
    const drift = gives('a', 'glass', 1, { role: 'side', count: 2, respawns: true })
    assert.deepEqual(lacking(told('g', [[drift, gate('g', 'glass >= 5')]], { side: 0 })), ['short', [['a', 2, 3]]])
    assert.deepEqual(lacking(told('g', [[drift, gate('g', 'glass >= 5')]])), ['short', [['a', 0, 3]]])
    assert.deepEqual(lacking(told('g', [[gives('a', 'glass', 1, { count: 4 }), gate('g', 'glass >= 5')]])), ['sealed', []])
  })

  it('comes only of sources at stops visited so far', () => {
    const later = (due: string) => [[gate('g', 'glass >= 2', { due })], [gives('a', 'glass', 2, { role: 'side' })]]
    assert.deepEqual(lacking(told('g', later('stop'), { side: 0 })), ['sealed', []])
    assert.deepEqual(lacking(told('g', later('route'), { side: 0 })), ['short', [['a', 1, 0]]])
  })

  it('comes of nothing that asks for what is not there, or cannot be paid', () => {
    const asks = (more: Part) => told('g', [[gives('c', 'stamps', 2), gives('a', 'glass', 1, { respawns: true, count: 1, ...more }), gate('g', 'glass >= 3')]])
    assert.deepEqual(lacking(asks({ requires: 'stamps >= 2' })), ['short', [['a', 0, 2]]])
    assert.deepEqual(lacking(asks({ requires: 'stamps >= 3' })), ['sealed', []])
    assert.deepEqual(lacking(asks({ requires: 'glass < 2' })), ['sealed', []])
    assert.deepEqual(lacking(asks({ takes: costs(['stamps', 1]) })), ['sealed', []])
  })

  it('of a tally that resets in a place comes only of the present stop', () => {
    const day = (more: Part) => [[gives('a', 'day', 1, { respawns: true })], [gives('b', 'day', 2, { respawns: true, ...more }), gate('g', 'day >= 5')]]
    assert.deepEqual(lacking(told('g', day({}))), ['short', [['b', 0, 2]]])
    assert.deepEqual(lacking(told('g', day({ respawns: false }))), ['sealed', []])
  })

  it('of an uncertain gate starts from the 5 % quantile', () => {
    // Of five that half of all take, 1 in 32 have none and 6 in 32 at most one: 3 are lacking there. Of the four the middle walk has left out 2.
    const contents = [[gives('a', 'glass', 1, { role: 'side', count: 4 }), gives('b', 'glass', 1, { respawns: true, role: 'side' }), gate('g', 'glass >= 4')]]
    assert.deepEqual(lacking(told('g', contents, { side: 0.5 })), ['depends', [['b', 0, 3]]])
  })

  it('is told with its minutes, the fewest first', () => {
    const { debt } = told('g', [[gives('slow', 'glass', 2, { respawns: true, minutes: 7 }), gives('quick', 'glass', 1, { respawns: true, minutes: 3 }), gate('g', 'glass >= 5')]])
    assert.deepEqual(debt, [{ source: 'quick', untaken: 0, repeats: 2, minutes: 6 }, { source: 'slow', untaken: 0, repeats: 1, minutes: 7 }])
  })
})

describe('what is left out, or bought', () => {
  it('is decided for each unit by itself, and main units too', () => {
    const { p } = told('g', [[gives('a', 'glass', 1, { count: 2 }), gives('b', 'glass', 1, { role: 'side' }), gate('g', 'glass >= 3')]], { main: 0.5, side: 0.5 })
    assert.equal(p, 1 / 8)
  })

  it('in the middle is half of the units, rounded up, the first ones', () => {
    // Of 3 units 2 in the middle: one more opens it for the middle walk.
    assert.deepInclude(told('g', [[gives('a', 'glass', 1, { role: 'side', count: 3 }), gate('g', 'glass >= 4')]], { side: 0.5 }), { verdict: 'sealed' })
    assert.deepInclude(told('g', [[gives('a', 'glass', 1, { role: 'side', count: 3, respawns: true }), gate('g', 'glass >= 4')]], { side: 0.5 }), { verdict: 'short' })
  })

  it('is what could have been bought at some pass before, though it was spent since', () => {
    const contents = [[gives('a', 'stamps', 5), gate('shop', '', { role: 'side', costs: costs(['stamps', 5]) })], [gate('toll', '', { costs: costs(['stamps', 5]) })]]
    assert.deepInclude(told('shop', contents, { buys: 'nothing' }), { verdict: 'clear', p: 1 })
    assert.deepInclude(told('toll', contents, { buys: 'nothing' }), { verdict: 'clear' })
    assert.deepInclude(told('toll', contents), { verdict: 'sealed' })
  })

  it('is bought in the order met, as long as it can be paid', () => {
    const contents = [[gives('a', 'stamps', 5), gate('oil', '', { role: 'side', costs: costs(['stamps', 3]) }), gate('hat', '', { role: 'side', costs: costs(['stamps', 3]) })]]
    assert.deepEqual(['oil', 'hat'].map((id) => told(id, contents).verdict), ['clear', 'sealed'])
    // Without a cost a side gate opens for everybody.
    assert.deepInclude(told('free', [[gate('free', '', { role: 'side' })]], { buys: 'nothing' }), { opened: 0 })
  })

  it('leaves a gate that is assumed to be open unpaid and ungiven, until it is opened', () => {
    const contents = [[gate('toll', 'glass >= 1', { guards: { passage: 'road' }, yields: [{ tally: 'key', min: 1, max: 1 }] })], [gives('a', 'glass', 1), gate('g', 'key', { due: 'stop' })]]
    assert.deepEqual([told('toll', contents).verdict, told('g', contents).verdict], ['sealed', 'sealed'])
    const back = { routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'depot', 'flats'] }] }
    assert.deepInclude(told('toll', contents, {}, back), { verdict: 'sealed', opened: 2 })
    assert.deepInclude(told('g', contents, {}, back), { opened: 3 })
  })
})
