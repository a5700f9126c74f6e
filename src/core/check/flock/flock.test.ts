import { assert } from 'chai'
import fc from 'fast-check'
import { readdirSync, readFileSync } from 'node:fs'
import { recordsOf, anySample } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import type { Game, GameProfile, GameRoute } from '../../rules/game.ts'
import { atMost, rollDrawn, singleChance, Streams, unitsDrawn } from '../chance.ts'
import { itineraryOf } from '../route/itinerary.ts'
import { wholePortion } from '../route/portion.ts'
import { RouteRecord } from '../route/record.ts'
import { RecordWriter } from '../route/record-writer.ts'
import { scheduleOf } from '../route/schedule.ts'
import { finished } from '../finished.ts'
import { walkInSteps } from '../route/walk-route.ts'
import { drawnInSteps } from './drawn.ts'
import { Flock } from './flock.ts'
import { FlockReader } from './flock-reader.ts'
import { FlockWalk } from './flock-walk.ts'
import { FlockWriter } from './flock-writer.ts'

const walks = 12
const seed = 5

function beginnings(game: Game, route: GameRoute) {
  const schedule = scheduleOf(game, route)
  return { itinerary: itineraryOf(game, route, wholePortion(game)), schedule, record: new RouteRecord(game, route.stops.length, schedule.neededAt) }
}

/** What walks drawn one after another come to, each by the rules. */
function alone(game: Game, route: GameRoute, profile: GameProfile): RouteRecord {
  const { itinerary, schedule, record } = beginnings(game, route)
  const streams = new Streams(1)
  const next = () => streams.next(0)
  const chance = singleChance(
    (count, share) => (share === 0 || share === 1 ? count * share : unitsDrawn(atMost(count, share), next())),
    ({ min, max }) => rollDrawn(min, max, next()),
  )
  const watcher = new RecordWriter(record, itinerary.targets, 1 / walks)
  for (let i = 0; i < walks; i++) {
    streams.begin(0, seed, i)
    finished(walkInSteps({ game, route, profile, itinerary, schedule, chance, watcher }))
  }
  return record
}

/** The same walks side by side, in flocks of a size. */
function together(game: Game, route: GameRoute, profile: GameProfile, size: number): RouteRecord {
  const { itinerary, schedule, record } = beginnings(game, route)
  const flock = new Flock(game, itinerary, size)
  const reader = new FlockReader(game, flock)
  const writer = new FlockWriter(game, record, itinerary.targets, flock, reader, 1 / walks)
  const streams = new Streams(size)
  const walk = new FlockWalk({ game, route, profile, itinerary, schedule, flock, reader, writer, streams })
  for (let first = 0; first < walks; first += size) {
    for (let i = 0; i < size; i++) streams.begin(i, seed, first + i)
    walk.run()
  }
  return record
}

const rounded = (n: number) => Math.round(n * 1e9) / 1e9

function said(record: RouteRecord) {
  return {
    gates: [...record.gates.keys()].map((g) => record.gate(g)).map(({ met, due, success, everOpen, everClosed, opened, ready, comparisons }) => ({
      met, due, everOpen, everClosed, opened: opened.quantiles(), ready: ready.quantiles(), weights: [success, opened.total, ready.total].map(rounded),
      comparisons: comparisons.map((comparison) => comparison.result()).map((result) => ({ ...result, holds: rounded(result.holds) })),
    })),
    stops: record.stops.map(({ tallies, levels, positions }) => [[tallies, record.game.tallies], [levels, record.game.characters], [positions, record.game.characters]] as const).map((parts) => parts.map(([of, items]) => items.map((_, i) => of.at(i).quantiles()))),
  }
}

function agree(records: Records, about: string, shares: Partial<GameProfile> = {}, size = 6): void {
  const { game } = compile(records)
  for (const route of game.routes) {
    for (const profile of game.profiles) {
      const player = { ...profile, ...shares }
      assert.deepEqual(said(together(game, route, player, size)), said(alone(game, route, player)), `${about}, ${route.id}, ${profile.id}`)
    }
  }
}

const cases = new URL('../../testing/cases/', import.meta.url)

describe('a flock', () => {
  it('comes to what its walks come to one by one, in every plan there is a case of', () => {
    const files = readdirSync(cases).filter((file) => file.endsWith('.json'))
    assert.isAbove(files.length, 80)
    for (const file of files) {
      const { plan } = JSON.parse(readFileSync(new URL(file, cases), 'utf8')) as { plan: unknown }
      agree(recordsOf(plan), file, { main: 0.8, side: 0.5 })
      agree(recordsOf(plan), file, { main: 1, side: 0.5, buysAll: true, retries: 1 })
    }
  })

  it('does so in made-up plans, whatever its size', () => {
    fc.assert(fc.property(anySample, fc.constantFrom(0, 0.3, 1), fc.constantFrom(1, 4, 12), (records, main, size) => agree(records, 'sample', { main, side: 0.5 }, size)), { numRuns: runs(30) })
  })

  it('does so in worlds in which all rules mix', () => {
    fc.assert(fc.property(anyWorld, fc.constantFrom(0.3, 1), fc.constantFrom(1, 4, 12), (records, main, size) => agree(records, 'world', { main, side: 0.5 }, size)), { numRuns: runs(100) })
  })

  it('asks by the rules what can fail, and what asks for anything but sums', () => {
    const asked = ['stamps / (renown - 20) >= 1', 'stamps % 3 == 1 or stamps ^ 2 >= 9', 'stamps * renown >= 60', 'not (level < 2) and -stamps <= -1', 'at_least(2, stamps >= 2, renown > 10, open(a))', 'min(stamps, 3) + max(renown / 10, 1) != 4', 'taken(s) == visited(depot)', 'open(l) and cap >= 3', 'average(level) > 1.4']
    const gates = asked.map((requires, i) => ({ gate: { id: `q${i}`, name: 'Q', kind: 'door', requires } }))
    const source = (id: string, tally: string, min: number, max: number) => ({ source: { id, name: id, kind: 'event', role: 'side', count: 2, yields: [{ tally, min, max }] } })
    agree(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
      curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 4, counts: 'step', rule: { kind: 'growth', base: 12, factor: 1, add: 0 }, levelsPerGain: 'one', atTop: 'hold' }],
      characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }, { id: 'dog', name: 'Dog', experience: 'renown', curve: 'rank', cap: 2, joins: 'flats' }],
      places: [
        { id: 'depot', name: 'Depot', kind: 'area', contents: [source('s', 'stamps', 1, 3), source('r', 'renown', 5, 20), { gate: { id: 'a', name: 'A', kind: 'ability', requires: 'stamps >= 2', costs: [{ tally: 'stamps', amount: 1 }] } }, { gate: { id: 'l', name: 'L', kind: 'door', stays: 'live', requires: 'stamps >= 1 and not open(a)' } }, ...gates] },
        { id: 'flats', name: 'Flats', kind: 'area', contents: [source('t', 'renown', 1, 30)] },
      ],
      passages: [{ id: 'way', from: 'depot', to: 'flats' }],
      routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'depot'] }],
      profiles: [{ id: 'usual', name: 'Usual', main: 1, side: 0.6, buys: 'all' }],
    }), 'asked')
  })
})

describe('drawn walks', () => {
  /** A plan with one source of so many units, each of 1 to 9. */
  const planOf = (count: number) => recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency', max: 50 }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [{ source: { id: 'letters', name: 'Letters', kind: 'event', count, yields: [{ tally: 'stamps', min: 1, max: 9 }] } }] }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot'] }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
  })
  function steps(count: number, walks: number): number {
    const { game } = compile(planOf(count))
    const [route, profile] = [game.routes[0]!, game.profiles[0]!]
    const { itinerary, schedule } = beginnings(game, route)
    let shares = 0
    const drawing = drawnInSteps({ game, route, profile, schedule, itinerary, seed }, 0, walks)
    for (let step = drawing.next(); !step.done; step = drawing.next()) shares++
    return shares
  }

  it('come in steps that end soon, also where one source has very many units', () => {
    assert.equal(steps(3, 512), 2)
    assert.equal(steps(1_000_000, 12), 3)
  })
})
