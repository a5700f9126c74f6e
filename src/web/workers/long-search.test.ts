import { assert } from 'chai'
import { PageWorker } from '../testing/page-worker.ts'
import { LongSearch } from './long-search.ts'

describe('a search that takes long', function () {
  this.timeout(60_000)
  const globals = globalThis as unknown as { Worker: unknown }
  let before: unknown

  beforeEach(() => {
    before = globals.Worker
    globals.Worker = PageWorker
  })
  afterEach(() => (globals.Worker = before))

  /** A question that stays open until its end. */
  const open = () => new Promise<never>(() => {})

  it('is ended by the next one, and told so when something of it arrives late', async () => {
    const search = new LongSearch()
    let isFirstAsked = () => false
    const first = search.ask((_, isAsked) => ((isFirstAsked = isAsked), open()))
    assert.isTrue(isFirstAsked())
    const second = search.ask(async (_, isAsked) => isAsked())
    assert.isFalse(isFirstAsked())
    assert.deepEqual(await Promise.all([first, second]), [null, true])
  })

  it('is nothing any more once it was stopped', async () => {
    const search = new LongSearch()
    let isAsked = () => false
    const asked = search.ask((_, is) => ((isAsked = is), open()))
    search.end()
    assert.isFalse(isAsked())
    assert.isNull(await asked)
  })

  it('says what broke it', async () => {
    const search = new LongSearch()
    const asked = search.ask((remote) => remote.fit({} as never, [], 'growth' as never))
    const why = await asked.then(() => null, (error: Error) => error.message)
    assert.isString(why)
  })
})
