import { assert } from 'chai'
import fc from 'fast-check'
import { recordsOf, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { check } from './check.ts'
import { atMost, binomial, everyOutcome, rollDrawn, seededRandom, unitsDrawn } from './chance.ts'
import { Histogram } from './histogram.ts'
import { wilson } from './route/route-results.ts'

interface Part {
  count: number
  min: number
  more: number
  side: boolean
}

const anyPart: fc.Arbitrary<Part> = fc.record({ count: fc.integer({ min: 1, max: 3 }), min: fc.integer({ min: 1, max: 6 }), more: fc.nat(2), side: fc.boolean() })

/** P(sum) of all that is given, unit by unit, as a person would work it out. */
function distribution(parts: readonly Part[], share: number): Map<number, number> {
  let now = new Map([[0, 1]])
  const add = (to: Map<number, number>, value: number, p: number) => to.set(value, (to.get(value) ?? 0) + p)
  for (const { count, min, more, side } of parts) {
    for (let unit = 0; unit < count; unit++) {
      const next = new Map<number, number>()
      for (const [sum, p] of now) {
        if (side) add(next, sum, p * (1 - share))
        for (let amount = min; amount <= min + more; amount++) add(next, sum + amount, (p * (side ? share : 1)) / (more + 1))
      }
      now = next
    }
  }
  return now
}

function planOf(parts: readonly Part[], share: number, need: number, requires = '') {
  const contents = parts.map(({ count, min, more, side }, i) => ({ source: { id: `s${i}`, name: 'S', kind: 'event', role: side ? 'side' : 'main', count, requires, yields: [{ tally: 'stamps', min, max: min + more }] } }))
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [...contents, { gate: { id: 'g', name: 'G', kind: 'door', requires: `stamps >= ${need}` } }] }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
    profiles: [{ id: 'usual', name: 'Usual', main: 1, side: share, buys: 'all' }],
  })
}

describe('odds', () => {
  it('are those of enumerating every draw', () => {
    fc.assert(fc.property(fc.array(anyPart, { minLength: 1, maxLength: 4 }), fc.constantFrom(0.25, 0.5, 0.9), fc.integer({ min: 1, max: 20 }), (parts, share, need) => {
      const { result } = check(planOf(parts, share, need), { lockouts: false })
      const { gates, stops } = result.routes[0]!.profiles[0]!
      const sums = distribution(parts, share)
      const p = [...sums].reduce((all, [sum, q]) => (sum >= need ? all + q : all), 0)
      assert.isTrue(gates[0]!.exact)
      assert.closeTo(gates[0]!.p, p, 1e-9)
      assert.closeTo(gates[0]!.comparisons[0]!.holds, p, 1e-9)
      assert.equal(stops[0]!.tallies.stamps!.min, Math.min(...sums.keys()))
      assert.equal(stops[0]!.tallies.stamps!.max, Math.max(...sums.keys()))
    }), { numRuns: runs(40) })
  })

  it('of many sums are worked out, whatever else there is', () => {
    const parts: Part[] = Array.from({ length: 30 }, (_, i) => ({ count: 3, min: 1 + (i % 5), more: 2, side: true }))
    const { gates, stops } = check(planOf(parts, 0.5, 150), { lockouts: false }).result.routes[0]!.profiles[0]!
    const p = [...distribution(parts, 0.5)].reduce((all, [sum, q]) => (sum >= 150 ? all + q : all), 0)
    assert.isTrue(gates[0]!.exact)
    assert.closeTo(gates[0]!.p, p, 1e-9)
    assert.equal(stops[0]!.tallies.stamps!.min, 0)
  })

  it('of sums of amounts as large as XP is are worked out too, and of amounts with decimals', () => {
    for (const part of [1_250, 12.5, 0.0001]) {
      const parts: Part[] = Array.from({ length: 60 }, (_, i) => ({ count: 4, min: Math.round(part * (1 + (i % 9)) * 10_000) / 10_000, more: 0, side: true }))
      const need = part * 600
      const [gate] = check(planOf(parts, 0.5, need), { lockouts: false }).result.routes[0]!.profiles[0]!.gates
      const inParts = parts.map((one) => ({ ...one, min: Math.round(one.min / part) }))
      const p = [...distribution(inParts, 0.5)].reduce((all, [sum, q]) => (sum >= 600 ? all + q : all), 0)
      assert.isTrue(gate!.exact)
      assert.closeTo(gate!.p, p, 1e-9)
    }
  })

  it('of long and smooth sums are those of adding up unit by unit', () => {
    const parts: Part[] = Array.from({ length: 90 }, (_, i) => ({ count: 3, min: 7 + ((i * 37) % 60), more: i % 4, side: i % 5 > 0 }))
    const all = [...distribution(parts, 0.3)].sort(([a], [b]) => a - b)
    const mean = all.reduce((sum, [value, q]) => sum + value * q, 0)
    for (const need of [mean - 900, mean - 40, mean, mean + 333, mean + 900].map(Math.round)) {
      const [gate] = check(planOf(parts, 0.3, need), { lockouts: false }).result.routes[0]!.profiles[0]!.gates
      assert.isTrue(gate!.exact)
      assert.closeTo(gate!.p, all.reduce((p, [value, q]) => (value >= need ? p + q : p), 0), 1e-10)
      const wanted = [0.05, 0.5, 0.95].map((share) => {
        let sum = 0
        return all.find(([, q]) => (sum += q) >= share - 1e-12)![0]
      })
      const { q05, median, q95 } = gate!.comparisons[0]!.has!
      assert.deepEqual([q05, median, q95], wanted)
    }
  })

  it('of amounts so large and so fine that nobody could list their sums are followed branch by branch, or drawn', () => {
    const fine = (sources: number): Part[] => Array.from({ length: sources }, (_, i) => ({ count: 1, min: 5_000 + i / 10_000, more: 0, side: true }))
    const gateOf = (sources: number) => check(planOf(fine(sources), 0.5, 15_000), { lockouts: false }).result.routes[0]!.profiles[0]!.gates[0]!
    const few = gateOf(10)
    assert.isTrue(few.exact)
    // Three of ten at least.
    assert.closeTo(few.p, 1 - (1 + 10 + 45) / 1_024, 1e-12)
    const many = gateOf(60)
    assert.isFalse(many.exact)
    assert.equal(many.verdict, 'depends')
  })

  const doubling: Part[] = Array.from({ length: 16 }, (_, i) => ({ count: 1, min: 2 ** i, more: 0, side: true }))
  /** Every sum from 0 to 65,535 is equally likely: too many to follow each, where units could ask for something. */
  const powers = (need: number) => planOf(doubling, 0.5, need, 'stamps != 0.5')

  it('of sums with many values are worked out as well', () => {
    const [gate] = check(planOf(doubling, 0.5, 20_000), { lockouts: false }).result.routes[0]!.profiles[0]!.gates
    assert.isTrue(gate!.exact)
    assert.closeTo(gate!.p, 1 - 20_000 / 65_536, 1e-9)
  })

  it('that are drawn lie by those worked out, and are the same each time', () => {
    const gateOf = (seed: number) => check(powers(20_000), { lockouts: false, seed }).result.routes[0]!.profiles[0]!.gates[0]!
    const first = gateOf(1)
    const p = 1 - 20_000 / 65_536
    assert.isFalse(first.exact)
    const [low, high] = first.interval!
    const half = (high - low) / 2
    assert.isAbove(p, low - 1.5 * half)
    assert.isBelow(p, high + 1.5 * half)
    assert.deepEqual(gateOf(1), first)
    assert.notEqual(gateOf(2).p, first.p)
  })

  it('are never called certain on drawn walks alone', () => {
    const [gate] = check(powers(1), { lockouts: false }).result.routes[0]!.profiles[0]!.gates
    assert.deepInclude(gate!, { verdict: 'depends', exact: false })
    assert.equal(gate!.comparisons[0]!.has!.min, 0)
    assert.equal(gate!.comparisons[0]!.has!.max, 65_535)
    assert.isNull(gate!.comparisons[0]!.slack)
  })

  it('rest on binomials that sum to one and a stream that repeats', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (n, p) => {
      const all = binomial(n, p)
      assert.closeTo(all.reduce((sum, q) => sum + q, 0), 1, 1e-9)
      assert.closeTo(all.reduce((sum, q, k) => sum + q * k, 0), n * p, 1e-6 * n)
    }))
    const take = (seed: number) => Array.from({ length: 5 }, ((random) => () => random())(seededRandom(seed, 3)))
    assert.deepEqual(take(7), take(7))
    assert.notDeepEqual(take(7), take(8))
    assert.isTrue(take(1).every((x) => x >= 0 && x < 1))
  })

  it('follow every way that rolls can fall, and only one when drawn', () => {
    const y = { tally: 0, min: 10_000, max: 30_000 }
    const both = everyOutcome.rolls((roll) => roll(y) + roll(y)).map(([sum, p]) => [sum / 10_000, Math.round(p * 9)])
    assert.deepEqual(both.map(([sum]) => sum).sort(), [2, 3, 3, 4, 4, 4, 5, 5, 6])
  })

  it('are worked out though one roll can fall in a million ways, and whether a player can get stuck by it is left open', () => {
    const stamps = { tally: 'stamps', min: 1, max: 1_000_000 }
    const { routes: [route], lockouts } = check(smallPlan({
      tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [
        { source: { id: 'chest', name: 'Chest', kind: 'pickup', yields: [stamps] } },
        { gate: { id: 'hat', name: 'Hat', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount: 500_000 }] } },
        { gate: { id: 'door', name: 'Door', kind: 'door', requires: 'stamps >= 250001' } },
      ] }],
    }), { fixes: 0 }).result
    const door = route!.profiles[0]!.gates.find(({ gate }) => gate === 'door')!
    assert.equal(door.verdict, 'depends')
    assert.closeTo(door.p!, 0.75, 0.02)
    assert.equal(lockouts!.stuck.result, 'undecided')
  })

  it('draw as many units, and roll as much, as a number from 0 to 1 says', () => {
    assert.deepEqual([0, 0.24, 0.25, 0.74, 0.75, 0.999].map((x) => unitsDrawn(atMost(2, 0.5), x)), [0, 0, 1, 1, 2, 2])
    // Of many units as of few: the first number of them that is not too few.
    fc.assert(fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), fc.double({ min: 0, max: 0.999999, noNaN: true }), (count, share, x) => {
      const table = atMost(count, share)
      const first = table.findIndex((p) => x < p)
      assert.equal(unitsDrawn(table, x), first < 0 ? count : Math.min(first, count))
    }), { numRuns: runs(200) })
    assert.deepEqual([0, 0.33, 0.34, 0.99].map((x) => rollDrawn(10_000, 30_000, x)), [10_000, 10_000, 20_000, 30_000])
  })

  it('are read off a histogram as the smallest value with enough below it', () => {
    const histogram = new Histogram()
    for (const [value, weight] of [[1, 0.05], [2, 0.45], [3, 0.45], [9, 0.05]] as const) histogram.add(value, weight)
    assert.deepEqual(histogram.quantiles(), { min: 1, q05: 1, median: 2, q95: 3, max: 9 })
    assert.isNull(new Histogram().quantiles())
    const [low, high] = wilson(0.5, 10_000)
    assert.closeTo(high - low, 0.0196, 0.0005)
  })
})
