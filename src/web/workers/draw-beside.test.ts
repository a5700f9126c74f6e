import { assert } from 'chai'
import { drawWalks, checkRoute, defaultRouteOptions, type DrawnBeside, type DrawOrder } from '../../core/check/route/route-check.ts'
import { compile } from '../../core/rules/compile.ts'
import { samplePurse } from '../../core/testing/plans.ts'
import { PageWorker } from '../testing/page-worker.ts'
import { DrawBeside } from './draw-beside.ts'

const records = samplePurse({ places: 14, sources: 90, gates: 40, seed: 2 })
const { game } = compile(records)
const route = game.routes[0]!
const profile = game.profiles.find(({ id }) => id === 'usual')!
const options = defaultRouteOptions

/** What a check of this plan has drawn beside. */
const ordered = (): DrawOrder => {
  const orders: DrawOrder[] = []
  checkRoute(game, route, profile, { ...options, walks: 40, effort: 0, beside: (order) => (orders.push(order), () => 'failed') })
  return orders[0]!
}

/** Waits turn by turn until it is known what has come of an order. */
async function outcome(drawn: DrawnBeside): Promise<Exclude<ReturnType<DrawnBeside>, null>> {
  for (;;) {
    const known = drawn()
    if (known !== null) return known
    await new Promise((turn) => setImmediate(turn))
  }
}

describe('a worker beside', function () {
  this.timeout(60_000)
  const globals = globalThis as unknown as { Worker: unknown }
  const made: PageWorker[] = []
  let before: unknown

  beforeEach(() => {
    before = globals.Worker
    globals.Worker = class extends PageWorker {
      constructor(url: URL) {
        super(url)
        made.push(this)
      }
    }
  })
  afterEach(() => {
    for (const worker of made.splice(0)) worker.terminate()
    globals.Worker = before
  })

  it('draws the walks that are ordered, as they are drawn here', async () => {
    const order = ordered()
    const beside = new DrawBeside()
    assert.deepEqual(await outcome(beside.order(records, route.key, profile.key, order)), drawWalks(game, route, profile, options, order))
    const more = { ...order, first: order.first + order.count }
    assert.deepEqual(await outcome(beside.order(records, route.key, profile.key, more)), drawWalks(game, route, profile, options, more))
    assert.lengthOf(made, 1)
  })

  it('is ended when something else is ordered while it draws', async () => {
    const order = ordered()
    const beside = new DrawBeside()
    const first = beside.order(records, route.key, profile.key, { ...order, count: 100_000 })
    const second = beside.order(records, route.key, profile.key, order)
    assert.equal(first(), 'failed')
    assert.deepEqual(await outcome(second), drawWalks(game, route, profile, options, order))
    assert.lengthOf(made, 2)
  })

  it('tells of a worker that breaks, so that the walks are drawn here', async () => {
    const beside = new DrawBeside()
    const drawn = beside.order(records, route.key, profile.key, ordered())
    made[0]!.dispatchEvent(Object.assign(new Event('error'), { message: 'out of memory' }))
    assert.equal(await outcome(drawn), 'failed')
  })
})
