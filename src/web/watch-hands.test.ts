import { assert } from 'chai'
import { watchHands } from './watch-hands.ts'

describe('hands', () => {
  /** All that is told until the hands are at rest, after these events came one upon another. */
  function toldOf(...events: Event[]): Promise<boolean[]> {
    const page = new EventTarget()
    const told: boolean[] = []
    return new Promise((done) => {
      watchHands((busy) => {
        told.push(busy)
        if (!busy) done(told)
      }, page, 1)
      for (const event of events) page.dispatchEvent(event)
    })
  }
  const pointer = (buttons: number) => Object.assign(new Event('pointermove'), { buttons })

  it('are busy from the first of many moves until some time after the last', async () => {
    assert.deepEqual(await toldOf(new Event('scroll'), new Event('wheel'), new Event('scroll'), new Event('keydown')), [true, false])
  })

  it('are waited for while they are busy, and no longer', async () => {
    const page = new EventTarget()
    let busy = false
    const { areBusy, atRest } = watchHands((is) => (busy = is), page, 1)
    await atRest()
    assert.isFalse(busy)
    assert.isFalse(areBusy())
    page.dispatchEvent(new Event('scroll'))
    assert.isTrue(busy)
    assert.isTrue(areBusy())
    await Promise.all([atRest(), atRest()])
    assert.isFalse(busy)
  })

  it('are busy with a pointer only while a button of it is down', async () => {
    assert.deepEqual(await toldOf(pointer(0), pointer(1)), [true, false])
    const page = new EventTarget()
    const told: boolean[] = []
    watchHands((busy) => told.push(busy), page, 1)
    page.dispatchEvent(pointer(0))
    assert.deepEqual(told, [])
  })
})
