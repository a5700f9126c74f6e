import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { smallPlan } from '../../testing/plans.ts'
import { firstStopOf, isMilestone, standing } from './milestone.ts'
import { scheduleOf } from './schedule.ts'

const source = (id: string) => ({ source: { id, name: id, kind: 'event', count: 1, yields: [] } })
const gate = (id: string, more = {}) => ({ gate: { id, name: id, kind: 'door', role: 'main', requires: '', ...more } })

/** A depot to which the route comes back, flats, a hut behind a gate that stands in it, and a ridge off the route. */
const { game } = compile(smallPlan({
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [source('round'), gate('hatch')] },
    { id: 'flats', name: 'Flats', kind: 'area', contents: [source('drifts'), gate('post')] },
    { id: 'hut', name: 'Hut', kind: 'area', contents: [source('lamps'), gate('bolt', { guards: { place: 'hut' } })] },
    { id: 'ridge', name: 'Ridge', kind: 'area', contents: [source('cairn'), gate('flag')] },
  ],
  passages: ['flats', 'hut', 'ridge'].map((to) => ({ id: `to_${to}`, from: 'depot', to, twoWay: true })),
  anywhere: [gate('badge').gate],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'depot', 'hut'] }],
}))
const route = game.routes[0]!

function first(ids: { sources?: string[]; gates?: string[] }): number {
  const numbers = (list: readonly { id: string }[], wanted: string[] = []) => new Set(wanted.map((id) => list.findIndex((one) => one.id === id)))
  const touched = { sources: numbers(game.sources, ids.sources), gates: numbers(game.gates, ids.gates) }
  return firstStopOf(touched, route, [game, scheduleOf(game, route)])
}

describe('milestones of a long route', () => {
  const long = { ...route, stops: Array.from({ length: 120 }, (_, stop) => stop % 2) }
  const left = (edited: number) => long.stops.flatMap((_, stop) => (isMilestone(stop, long, edited) ? [{ stop }] : []))
  const stops = (list: readonly { stop: number }[]) => list.map(({ stop }) => stop)

  it('stand at even distances, and where the edit begins to bear', () => {
    assert.deepEqual(stops(left(-1)), [0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100, 110])
    assert.deepEqual(stops(left(33)), [0, 10, 20, 30, 33, 40, 50, 60, 70, 80, 90, 100, 110])
  })

  it('stand after an edit up to where it begins to bear; of those that edits left the last two', () => {
    const all = [...left(-1), { stop: 12 }, { stop: 33 }, { stop: 35 }].sort((a, b) => a.stop - b.stop)
    assert.deepEqual(stops(standing(all, 38, long)), [0, 10, 20, 30, 33, 35])
    assert.deepEqual(stops(standing(all, 33, long)), [0, 10, 12, 20, 30, 33])
    assert.deepEqual(stops(standing(all, 5, long)), [0])
  })
})

describe('the first stop on which an edit can bear', () => {
  it('is the first at which the route comes to it', () => {
    assert.deepEqual(['round', 'drifts', 'lamps'].map((id) => first({ sources: [id] })), [0, 1, 3])
    assert.deepEqual(['hatch', 'post'].map((id) => first({ gates: [id] })), [0, 1])
    assert.equal(first({ sources: ['lamps', 'drifts'], gates: ['post'] }), 1)
  })

  it('is the one on whose leaving a gate is in the way, where the route comes to it later', () => {
    assert.equal(first({ gates: ['bolt'] }), 2)
  })

  it('is the very first for what stands anywhere, and none for what the route does not come to', () => {
    assert.equal(first({ gates: ['badge'] }), 0)
    assert.equal(first({ sources: ['cairn'], gates: ['flag'] }), Infinity)
    assert.equal(first({}), Infinity)
  })

  it('is the earlier one of where something stood and where it stands', () => {
    const drifts = game.sources.findIndex(({ id }) => id === 'drifts')
    const moved = { ...game, sources: game.sources.map((one, s) => (s === drifts ? { ...one, place: 2 } : one)) }
    const schedule = scheduleOf(game, route)
    const touched = { sources: new Set([drifts]), gates: new Set<number>() }
    assert.equal(firstStopOf(touched, route, [game, schedule], [moved, schedule]), 1)
    assert.equal(firstStopOf(touched, route, [moved, schedule], [game, schedule]), 1)
    // What is new has no place in the game before.
    assert.equal(firstStopOf({ ...touched, sources: new Set([drifts, game.sources.length]) }, route, [game, schedule]), 1)
  })
})
