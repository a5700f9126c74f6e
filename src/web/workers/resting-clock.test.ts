import { Worker } from 'node:worker_threads'
import { assert } from 'chai'
import { busyFlag, restingClock, setBusy } from './resting-clock.ts'

/** A thread that sets a flag back as soon as it hears of it. */
const other = `
  const { parentPort } = require('node:worker_threads')
  parentPort.on('message', (flag) => {
    const began = performance.now()
    while (performance.now() - began < 20);
    Atomics.store(flag, 0, 0)
    Atomics.notify(flag, 0)
  })`

describe('a clock that rests', () => {
  it('goes on while hands are at rest, and where memory cannot be shared', () => {
    for (const flag of [busyFlag(), null]) {
      setBusy(flag, true)
      setBusy(flag, false)
      const clock = restingClock(flag)
      const first = clock()
      assert.isAtLeast(clock(), first)
    }
  })

  it('stands still while they are busy, and holds up who asks it', async () => {
    const thread = new Worker(other, { eval: true })
    const flag = busyFlag()!
    const clock = restingClock(flag)
    const [real, told] = [performance.now(), clock()]
    setBusy(flag, true)
    thread.postMessage(flag)
    const after = clock()
    assert.equal(Atomics.load(flag, 0), 0)
    // The thread that set it back took its time, and none of it has passed on this clock.
    assert.isAtMost(after - told, performance.now() - real - 20)
    await thread.terminate()
  })
})
