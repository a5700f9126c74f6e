import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { anySample, samplePurse, smallPlan } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { checkRoute, defaultRouteOptions, drawWalks, type DrawnBeside, type DrawOrder, type RouteCheckOptions } from './route-check.ts'

/** So little effort that nearly all that rests on chance is drawn. */
const options: RouteCheckOptions = { ...defaultRouteOptions, walks: 101, effort: 0 }

describe('walks drawn in another thread', () => {
  /** A check with another thread that answers when it was asked so many times. */
  function halved(records: Parameters<typeof compile>[0], p: number, patience: number, fails = false) {
    const { game } = compile(records)
    const [route, profile] = [game.routes[0]!, game.profiles[p % game.profiles.length]!]
    const orders: DrawOrder[] = []
    const beside = (order: DrawOrder): DrawnBeside => {
      orders.push(order)
      let asked = 0
      const there = compile(records).game
      const drawn = () => structuredClone(drawWalks(there, there.routes[0]!, there.profiles[p % there.profiles.length]!, options, order))
      return () => (asked++ < patience ? null : fails ? 'failed' : drawn())
    }
    return { alone: checkRoute(game, route, profile, options), shared: checkRoute(game, route, profile, { ...options, beside }), orders }
  }

  it('come to what they come to in one', () => {
    const wide = samplePurse({ places: 14, sources: 90, gates: 40, seed: 2 })
    let shared = 0
    fc.assert(fc.property(anySample, fc.nat(2), fc.nat(3), fc.boolean(), (records, p, patience, fails) => {
      const found = halved(records, p, patience, fails)
      assert.deepEqual(found.shared, found.alone)
      shared += found.orders.length
    }), { numRuns: runs(25), examples: [[wide, 1, 0, false], [wide, 1, 2, true]] })
    assert.isAbove(shared, 0)
  })

  it('are half of them, and none where nothing is drawn', () => {
    const certain = smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [{ source: { id: 'round', name: 'Round', kind: 'quest', yields: [{ tally: 'stamps', min: 2, max: 2 }] } }] }] })
    assert.deepEqual(halved(certain, 0, 0).orders, [])
    for (const { first, count } of fc.sample(anySample, { numRuns: 5, seed: 3 }).flatMap((records) => halved(records, 1, 0).orders)) assert.deepEqual([first, count], [51, 50])
  })
})
