import { assert } from 'chai'
import fc from 'fast-check'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { everyOutcome } from '../chance.ts'
import { TooManyBranches } from '../route/branch-walk.ts'
import { itineraryOf } from '../route/itinerary.ts'
import { united, type Portion } from '../route/portion.ts'
import { portionsOf } from '../route/portions.ts'
import type { GateRecord } from '../route/gate-record.ts'
import { RecordWriter } from '../route/record-writer.ts'
import { RouteRecord } from '../route/record.ts'
import { scheduleOf } from '../route/schedule.ts'
import { finished } from '../finished.ts'
import { walkInSteps } from '../route/walk-route.ts'
import { strandsInSteps, type Untold } from './strand-walk.ts'

interface Walked {
  portion: Portion
  record: RouteRecord
  untold: Untold
}

/** All that rests on chance of a route for a kind of player, on strands; null: nothing does. */
function onStrands(records: Records, r: number, p: number, effort = Infinity) {
  const { game } = compile(records)
  const [route, profile] = [game.routes[r % game.routes.length]!, game.profiles[p % game.profiles.length]!]
  const [, ...random] = portionsOf(game, profile)
  if (random.length === 0) return null
  const schedule = scheduleOf(game, route)
  const portion = united(random)
  const itinerary = itineraryOf(game, route, portion)
  const record = new RouteRecord(game, route.stops.length, schedule.neededAt)
  const { untold } = finished(strandsInSteps({ game, route, profile, schedule, itinerary, record, effort }))
  const branchByBranch = () => {
    const every = new RouteRecord(game, route.stops.length, schedule.neededAt)
    finished(walkInSteps({ game, route, profile, schedule, itinerary, chance: everyOutcome, watcher: new RecordWriter(every, itinerary.targets, 1), effort: 100_000 }))
    return every
  }
  return { game, portion, record, untold, branchByBranch }
}

function compareGate(g: number, a: GateRecord, b: GateRecord): void {
  const about = `gate ${g}`
  assert.closeTo(a.p, b.p, 1e-9, about)
  assert.deepEqual([a.met, a.due, a.verdictOf(false)], [b.met, b.due, b.verdictOf(false)], about)
  assert.deepEqual(a.comparisons.map((c) => c.result().has), b.comparisons.map((c) => c.result().has), about)
  a.comparisons.forEach((c, k) => assert.closeTo(c.result().holds, b.comparisons[k]!.result().holds, 1e-9, about))
  assert.equal(a.medianStop(a.opened), b.medianStop(b.opened), about)
  assert.equal(a.medianStop(a.ready), b.medianStop(b.ready), about)
}

/** Holds all that was told against following every branch; how many gates that were. */
function compare({ portion, record, untold }: Walked, every: RouteRecord): number {
  const told = [...portion.targets.gates].filter((g) => !untold.gates.has(g))
  for (const g of told) compareGate(g, record.gate(g), every.gate(g))
  record.stops.forEach((stop, i) => {
    const isTold = (list: Set<number>) => (k: number) => i > untold.until || !list.has(k)
    const other = every.stops[i]!
    for (const t of [...portion.targets.tallies].filter(isTold(untold.tallies))) assert.deepEqual(stop.tallies.at(t).quantiles(), other.tallies.at(t).quantiles(), `stop ${i}, tally ${t}`)
    for (const c of [...portion.targets.characters].filter(isTold(untold.characters))) {
      assert.deepEqual([stop.levels.at(c).quantiles(), stop.positions.at(c).quantiles()], [other.levels.at(c).quantiles(), other.positions.at(c).quantiles()], `stop ${i}, character ${c}`)
    }
  })
  return told.length
}

/** Compares where not too many branches come of it. */
function compareAll(records: Records, r = 0, p = 0): number {
  const walked = onStrands(records, r, p)
  if (!walked) return 0
  try {
    return compare(walked, walked.branchByBranch())
  } catch (error) {
    if (error instanceof TooManyBranches) return 0
    throw error
  }
}

const anySource = fc.record({ count: fc.integer({ min: 1, max: 2 }), min: fc.integer({ min: 0, max: 30 }), more: fc.integer({ min: 0, max: 1 }), part: fc.constantFrom(0, 0, 0.5, 0.25), side: fc.boolean(), pays: fc.constantFrom(0, 0, 0, 1) })
const anyGate = fc.record({
  requires: fc.oneof(
    fc.integer({ min: 1, max: 90 }).map((n) => `renown >= ${n}`), fc.integer({ min: 2, max: 4 }).map((n) => `level >= ${n}`), fc.integer({ min: 2, max: 4 }).map((n) => `level > ${n} or visited(p2)`),
    fc.integer({ min: 2, max: 3 }).map((n) => `level >= ${n} and stamps >= 2`), fc.integer({ min: 1, max: 4 }).map((n) => `highest(level) >= ${n}`), fc.integer({ min: 1, max: 3 }).map((n) => `level(dog) >= ${n}`),
  ),
  due: fc.constantFrom('meeting', 'stop', 'route'),
  stays: fc.constantFrom('open', 'open', 'live'),
  guards: fc.constantFrom(null, null, { passage: 'a' }, { passage: 'b' }),
  price: fc.constantFrom(0, 0, 0, 1, 2),
  cap: fc.constantFrom(null, null, 3, 4),
  role: fc.constantFrom('main', 'side'),
})
interface AnySource { count: number; min: number; more: number; part: number; side: boolean; pays: number }
interface AnyGate { requires: string; due: string; stays: string; guards: object | null; price: number; cap: number | null; role: string }
type Place = ({ source: AnySource } | { gate: AnyGate })[]
const anyPlace: fc.Arbitrary<Place> = fc.array(fc.oneof(anySource.map((source) => ({ source })), anyGate.map((gate) => ({ gate }))), { maxLength: 3 })

interface AnyReward { level: number | 'every'; min: number; more: number }
const anyReward: fc.Arbitrary<AnyReward> = fc.record({ level: fc.constantFrom<number | 'every'>(1, 2, 3, 4, 'every'), min: fc.nat(2), more: fc.nat(1) })

/**
 * A plan of a tally of XP that a courier and a dog listen to, and of stamps, of which there are `start` at first, and which the courier's
 * levels give.
 */
function planOf(places: readonly Place[], stops: readonly string[], start: number, rewards: readonly AnyReward[] = []): Records {
  let n = 0
  const contents = (place: Place) => place.map((item) => {
    const id = `i${n++}`
    if ('gate' in item) {
      const { price, cap, ...gate } = item.gate
      const effects = gate.stays === 'live' ? {} : { costs: price ? [{ tally: 'stamps', amount: price }] : [], caps: cap ? [{ character: 'dog', level: cap }] : [] }
      return { gate: { id, name: id, kind: 'door', ...gate, ...effects } }
    }
    const { count, min, more, part, side, pays } = item.source
    // Only what is fixed may be no whole number.
    const least = more ? min : min + part
    const yields = [{ tally: 'renown', min: least, max: least + more }, ...(pays ? [] : [{ tally: 'stamps', min: 1, max: 1 }])]
    return { source: { id, name: id, kind: 'event', role: side ? 'side' : 'main', count, yields, takes: pays ? [{ tally: 'stamps', amount: pays }] : [] } }
  })
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', start }],
    curves: [
      { id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 25, factor: 1, add: 0 } },
      { id: 'dog_rank', name: 'Dog rank', firstLevel: 1, maxLevel: 5, counts: 'total', rule: { kind: 'growth', base: 12, factor: 1.6, add: 0 }, levelsPerGain: 'one', atTop: 'hold' },
    ],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', rewards: rewards.map(({ level, min, more }) => ({ level, yields: [{ tally: 'stamps', min, max: min + more }] })) }, { id: 'dog', name: 'Dog', experience: 'renown', curve: 'dog_rank', joins: 'p1', cap: 2 }],
    places: places.map((place, p) => ({ id: `p${p}`, name: 'P', kind: 'area', contents: contents(place) })),
    passages: [{ id: 'a', from: 'p0', to: 'p1' }, { id: 'b', from: 'p1', to: 'p2' }],
    routes: [{ id: 'line', name: 'Line', stops }],
    profiles: [{ id: 'usual', name: 'Usual', main: 1, side: 0.4, buys: 'all' }],
  })
}

const anyStops = fc.constantFrom(['p0', 'p1', 'p2'], ['p0', 'p1', 'p0', 'p1', 'p2'], ['p1', 'p2', 'p1'])

describe('strands', () => {
  it('tell what following every branch tells', () => {
    let told = 0
    fc.assert(fc.property(fc.tuple(anyPlace, anyPlace, anyPlace), anyStops, fc.constantFrom(0, 3, 40), (places, stops, start) => void (told += compareAll(planOf(places, stops, start)))), { numRuns: runs(300) })
    assert.isAbove(told, 300)
  })

  it('tell the same of worlds in which all rules mix', () => {
    let told = 0
    fc.assert(fc.property(anyWorld, fc.nat(2), (records, p) => void (told += compareAll(records, 0, p))), { numRuns: runs(150) })
    assert.isAbove(told, 40)
  })

  it('tell the same where levels give what units give, too', () => {
    let told = 0
    fc.assert(fc.property(fc.tuple(anyPlace, anyPlace, anyPlace), anyStops, fc.constantFrom(0, 3, 40), fc.array(anyReward, { minLength: 1, maxLength: 2 }), (places, stops, start, rewards) => {
      told += compareAll(planOf(places, stops, start, rewards))
    }), { numRuns: runs(150) })
    assert.isAbove(told, 100)
  })

  const side = (renown: number, count: number) => ({ source: { count, min: renown, more: 0, part: 0, side: true, pays: 0 } })
  const shop = (requires: string, price: number) => ({ gate: { requires, due: 'route', stays: 'open', guards: null, price, cap: null, role: 'side' } })

  it('leave untold what is the same for all when a gate opens for some, and not when it is due for the others', () => {
    const asks = (requires: string) => ({ gate: { requires, due: 'stop', stays: 'open', guards: null, price: 0, cap: null, role: 'main' } })
    const early = { source: { count: 2, min: 24, more: 1, part: 0, side: false, pays: 0 } }
    for (const [here, there] of [[[early], [asks('level >= 3 and stamps >= 2'), side(0, 2)]], [[early, side(0, 2), asks('level >= 3 and stamps >= 2')], []]]) {
      const walked = onStrands(planOf([here!, there!, []], ['p0', 'p1', 'p2'], 0), 0, 0)!
      compare(walked, walked.branchByBranch())
    }
  })

  it('need no branches for what everybody can pay for', () => {
    const plenty = onStrands(planOf([[side(3, 60), shop('level >= 1', 2)], [shop('level >= 1', 2)], []], ['p0', 'p1', 'p2'], 4), 0, 0)!
    assert.deepEqual([...plenty.untold.gates, ...plenty.untold.tallies], [])
    const stamps = plenty.record.stops[2]!.tallies.at(1).quantiles()!
    assert.deepEqual([stamps.min, stamps.median, stamps.max], [0, 24, 60])
  })

  it('leave untold what rests on who could pay, and no more', () => {
    const scarce = onStrands(planOf([[side(3, 60), shop('level >= 1', 2)], [shop('level >= 1', 2)], []], ['p0', 'p1', 'p2'], 3), 0, 0)!
    assert.deepEqual([...scarce.untold.gates], [1])
    assert.deepEqual([...scarce.untold.tallies], [1])
    assert.closeTo(scarce.record.gate(0).p, 1, 1e-12)
  })

  it('tell of what levels give while some have reached them, with the units that bring both', () => {
    // A level takes 25: who takes at least three of four units of 20 is at level 3. Each unit brings a stamp as well.
    const rewarded = onStrands(planOf([[side(20, 4)], [side(1, 1), shop('stamps >= 5', 0)], []], ['p0', 'p1', 'p2'], 0, [{ level: 3, min: 2, more: 0 }]), 0, 0)!
    assert.deepEqual([...rewarded.untold.gates, ...rewarded.untold.tallies], [0], 'who opens it is not told, what there is of stamps is')
    compare(rewarded, rewarded.branchByBranch())
    const { min, q05, median, q95, max } = rewarded.record.stops[0]!.tallies.at(1).quantiles()!
    assert.deepEqual([min, q05, median, q95, max], [0, 0, 2, 5, 6])
  })

  it('tell what levels give though it is all but impossible to have as little, or as much', () => {
    // 120 units of 1 and a stamp each, and eight more stamps for who has 50: most take 40 to 56.
    const many = onStrands(planOf([[side(1, 120)], [shop('stamps >= 1', 0)], []], ['p0', 'p1', 'p2'], 0, [{ level: 3, min: 8, more: 0 }]), 0, 0)!
    assert.deepEqual([...many.untold.tallies], [])
    const { min, q05, median, q95, max } = many.record.stops[0]!.tallies.at(1).quantiles()!
    assert.deepEqual([min, q05, median, q95, max], [0, 39, 48, 65, 128])
  })

  it('follow levels at a cap gain by gain', () => {
    const capped = onStrands(planOf([[], [side(5, 9), { gate: { requires: 'level(dog) >= 2', due: 'route', stays: 'open', guards: null, price: 0, cap: 4, role: 'main' } }], [side(9, 6)]], ['p0', 'p1', 'p2'], 0), 0, 0)!
    assert.deepEqual([...capped.untold.gates], [0], 'for some it opens, for others not: that is not told')
    const free = onStrands(planOf([[], [side(5, 9), { gate: { requires: 'level >= 1', due: 'route', stays: 'open', guards: null, price: 0, cap: 4, role: 'main' } }], [side(9, 6)]], ['p0', 'p1', 'p2'], 0), 0, 0)!
    assert.deepEqual([...free.untold.gates, ...free.untold.characters], [])
    compare(free, free.branchByBranch())
  })

  it('are given up where a sum is too wide', () => {
    const wide = onStrands(planOf([[side(3, 60), shop('level >= 2', 0)], [], []], ['p0', 'p1', 'p2'], 0), 0, 0, 10)!
    assert.deepEqual([...wide.untold.gates], [0])
    assert.equal(wide.untold.until, 2)
  })
})
