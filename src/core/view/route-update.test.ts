import { assert } from 'chai'
import fc from 'fast-check'
import { checkRoute, defaultRouteOptions } from '../check/route/route-check.ts'
import { traceRoute } from '../check/route/trace.ts'
import { compile } from '../rules/compile.ts'
import { anySample } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { updateBetween, updated, type RouteView } from './route-update.ts'

const options = { ...defaultRouteOptions, walks: 50 }

function viewOf(records: Parameters<typeof compile>[0], p: number): RouteView {
  const { game, issues } = compile(records)
  const [route, profile] = [game.routes[0]!, game.profiles[p % game.profiles.length]!]
  return { result: checkRoute(game, route, profile, options), trace: traceRoute(game, route, profile), issues }
}

describe('a view sent to another thread', () => {
  it('is made again from the one before and what is new', () => {
    fc.assert(fc.property(anySample, anySample, fc.nat(2), fc.nat(2), (one, other, p, q) => {
      const [a, b] = [viewOf(one, p), viewOf(other, q)]
      const received = updated(null, structuredClone(updateBetween(null, a)))
      assert.deepEqual(received, a)
      assert.deepEqual(updated(received, structuredClone(updateBetween(a, b))), b)
    }), { numRuns: runs(15) })
  })

  it('leaves what is alike as it is', () => {
    const [records] = fc.sample(anySample, { numRuns: 1, seed: 7 })
    const [a, again] = [viewOf(records!, 0), viewOf(records!, 0)]
    const update = updateBetween(a, again)
    assert.deepEqual([update.result!.stops.at, update.result!.gates.at, update.trace, update.issues], [[], [], undefined, undefined])
    const view = updated(a, update)
    assert.strictEqual(view.trace, a.trace)
    assert.strictEqual(view.result!.stops, a.result!.stops)
    assert.deepEqual(updated(a, updateBetween(a, { result: null, trace: null, issues: [] })), { result: null, trace: null, issues: [] })
  })
})
