import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { everyOutcome, leastChance, mostChance } from '../chance.ts'
import { itineraryOf } from './itinerary.ts'
import { portionsOf } from './portion.ts'
import { RouteRecord } from './record.ts'
import { RecordWriter } from './record-writer.ts'
import { scheduleOf } from './schedule.ts'
import { Spread } from './spread.ts'
import { isSum } from './sums.ts'
import { walkSums } from './sum-walk.ts'
import { walkRoute } from './walk-route.ts'

const anySource = fc.record({ count: fc.integer({ min: 1, max: 2 }), min: fc.integer({ min: 0, max: 30 }), more: fc.integer({ min: 0, max: 1 }), part: fc.constantFrom(0, 0, 0.5, 0.25), side: fc.boolean() })
const anyGate = fc.record({
  requires: fc.oneof(fc.integer({ min: 1, max: 90 }).map((n) => `renown >= ${n}`), fc.integer({ min: 2, max: 4 }).map((n) => `level >= ${n}`), fc.integer({ min: 2, max: 4 }).map((n) => `level > ${n} or visited(p2)`)),
  due: fc.constantFrom('meeting', 'stop', 'route'),
  stays: fc.constantFrom('open', 'open', 'live'),
  guards: fc.constantFrom(null, null, { passage: 'a' }, { passage: 'b' }),
})
const anyPlace = fc.array(fc.oneof(anySource.map((source) => ({ source })), anyGate.map((gate) => ({ gate }))), { maxLength: 3 })

type Place = ({ source: { count: number; min: number; more: number; part: number; side: boolean } } | { gate: { requires: string; due: string; stays: string; guards: unknown } })[]

function gameOf(places: readonly Place[], stops: readonly string[]) {
  let n = 0
  const contents = (place: Place) => place.map((item) => {
    const id = `i${n++}`
    if ('gate' in item) return { gate: { id, name: id, kind: 'door', ...item.gate } }
    const { count, min, more, part, side } = item.source
    // Only what is fixed may be no whole number.
    const least = more ? min : min + part
    return { source: { id, name: id, kind: 'event', role: side ? 'side' : 'main', count, yields: [{ tally: 'renown', min: least, max: least + more }] } }
  })
  return compile(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0', tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 25, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: places.map((place, p) => ({ id: `p${p}`, name: 'P', kind: 'area', contents: contents(place) })),
    passages: [{ id: 'a', from: 'p0', to: 'p1' }, { id: 'b', from: 'p1', to: 'p2' }],
    routes: [{ id: 'line', name: 'Line', stops }],
    profiles: [{ id: 'usual', name: 'Usual', main: 1, side: 0.4, buys: 'all' }],
  })).game
}

describe('sums of independent units', () => {
  it('give what following every branch gives', () => {
    const stops = fc.constantFrom(['p0', 'p1', 'p2'], ['p0', 'p1', 'p0', 'p1', 'p2'], ['p1', 'p2', 'p1'])
    fc.assert(fc.property(fc.tuple(anyPlace, anyPlace, anyPlace), stops, (places, route) => {
      const game = gameOf(places, route)
      const [road, profile] = [game.routes[0]!, game.profiles[0]!]
      const schedule = scheduleOf(game, road)
      const o = { game, route: road, profile, schedule }
      const sums = portionsOf(game, profile).filter((portion) => isSum(game, profile, portion))
      for (const portion of sums) {
        const itinerary = itineraryOf(game, road, portion)
        const records = [0, 1].map(() => new RouteRecord(game, road, schedule.neededAt))
        walkSums({ ...o, itinerary, writer: new RecordWriter(records[0]!, itinerary, 1), effort: Infinity })
        for (const chance of [leastChance, mostChance]) walkRoute({ ...o, itinerary, chance, watcher: new RecordWriter(records[0]!, itinerary, 0) })
        walkRoute({ ...o, itinerary, chance: everyOutcome, watcher: new RecordWriter(records[1]!, itinerary, 1) })
        for (const g of portion.targets.gates) {
          const [a, b] = records.map((record) => record.gates[g]!)
          assert.closeTo(a!.p, b!.p, 1e-9)
          assert.deepEqual([a!.met, a!.due, a!.verdictOf(false)], [b!.met, b!.due, b!.verdictOf(false)])
          assert.deepEqual(a!.comparisons.map((c) => c.result().has), b!.comparisons.map((c) => c.result().has))
          assert.equal(a!.medianStop(a!.opened, a!.openedWeight), b!.medianStop(b!.opened, b!.openedWeight))
          assert.equal(a!.medianStop(a!.ready, a!.readyWeight), b!.medianStop(b!.ready, b!.readyWeight))
        }
        for (const t of portion.targets.tallies) assert.deepEqual(...(records.map((r) => r.stops.map((stop) => stop.tallies[t]!.quantiles())) as [unknown, unknown]))
        for (const c of portion.targets.characters) assert.deepEqual(...(records.map((r) => r.stops.map((stop) => [stop.levels[c]!.quantiles(), stop.positions[c]!.quantiles()])) as [unknown, unknown]))
      }
    }), { numRuns: 250 })
  })

  it('are added up exactly, with tails that cannot matter left out', () => {
    const die = Spread.even(1, 6)
    const two = die.times(2)
    assert.equal(two.from, 2)
    assert.closeTo(two.above(12).total, 1 / 36, 1e-15)
    const many = Spread.at(10).orNothing(0.5).times(400)
    assert.closeTo(many.total, 1, 1e-12)
    assert.isAbove(many.from, 0)
  })
})
