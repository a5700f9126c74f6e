import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { rhythmOf } from './rhythm.ts'

const source = (id: string, renown: number, minutes: number, more: object = {}) => ({ source: { id, name: id, kind: 'event', minutes, yields: [{ tally: 'renown', min: renown, max: renown }], ...more } })
const gate = (id: string, requires: string, minutes = 0) => ({ gate: { id, name: id, kind: 'door', requires, minutes } })

function rhythm(contents: unknown[][], stops = ['depot', 'flats'], settings = { droughtMinutes: 30, pileUp: { unlocks: 3, minutes: 2 } }) {
  const records = recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', settings, tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', forms: [{ id: 'novice', name: 'Novice', from: 1, to: 2 }, { id: 'carrier', name: 'Carrier', from: 3, to: 9 }] }],
    places: [{ id: 'depot', name: 'Depot', kind: 'hub', minutes: 4, contents: contents[0] }, { id: 'flats', name: 'Flats', kind: 'area', minutes: 6, contents: contents[1] ?? [] }],
    passages: [{ id: 'road', from: 'depot', to: 'flats' }], routes: [{ id: 'line', name: 'Line', stops }], profiles: [{ id: 'straight', name: 'S', main: 1, side: 0.5, buys: 'all' }],
  })
  const { game } = compile(records)
  return rhythmOf(game, records.head.settings, game.routes[0]!, game.profiles[0]!)
}

describe('rhythm', () => {
  it('tells what unlocks at which minute of play', () => {
    const { minutes, unlocks } = rhythm([[source('round', 100, 5, { count: 2 }), gate('hatch', 'level >= 2', 3)], [source('letter', 50, 1)]])
    assert.deepEqual(unlocks.map(({ kind, id, to, minute, stop }) => [kind, id, to, minute, stop]), [
      ['place', 'depot', undefined, 0, 0], ['level', 'courier', 2, 9, 0], ['level', 'courier', 3, 14, 0], ['form', 'courier', 'carrier', 14, 0], ['gate', 'hatch', undefined, 14, 0], ['place', 'flats', undefined, 17, 1],
    ])
    assert.equal(minutes, 24)
  })

  it('tells a place once, and of side units takes half', () => {
    const { minutes, unlocks } = rhythm([[source('round', 0, 5, { count: 2, role: 'side' })]], ['depot', 'flats', 'depot'])
    assert.deepEqual(unlocks.map(({ id }) => id), ['depot', 'flats'])
    assert.equal(minutes, 4 + 5 + 6 + 4)
  })

  it('marks what is longer than 30 minutes with nothing new, up to the end', () => {
    const { droughts } = rhythm([[source('round', 0, 26)], [source('letter', 0, 25)]])
    assert.deepEqual(droughts, [{ from: 30, to: 61, stop: 1, unlocks: 0 }])
    assert.isEmpty(rhythm([[source('round', 0, 26)], [source('letter', 0, 24)]]).droughts)
  })

  it('marks unlocks that come too close, each stretch once', () => {
    const { pileUps } = rhythm([[gate('a', '', 1), gate('b', '', 1), gate('c', '', 1), gate('d', '', 9), gate('e', '')]])
    assert.deepEqual(pileUps, [{ from: 4, to: 7, stop: 0, unlocks: 4 }])
    assert.isEmpty(rhythm([[gate('a', '', 2), gate('b', '', 2), gate('c', '', 2)]]).pileUps)
  })
})
