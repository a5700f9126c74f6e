import { assert } from 'chai'
import { effectScope } from 'vue'
import { useRowsAround } from './use-rows-around.ts'

/** What is drawn when it stands at some rows, picture by picture. */
function sheet() {
  const waiting: (() => void)[] = []
  const scope = effectScope()
  const busy = { is: false }
  const { rangeExtractor, hasLanes, isInView } = scope.run(() => useRowsAround(() => busy.is, (then) => waiting.push(then)))!
  let [first, last] = [0, 9]
  return {
    busy,
    scope,
    waiting,
    isInView,
    /** Scrolls before the next picture, and tells the first and last row drawn in it, and whether lanes are. */
    picture(to = [first, last]) {
      ;[first, last] = to as [number, number]
      const draw = () => rangeExtractor.value({ startIndex: first, endIndex: last, overscan: 0, count: 1_000, lanes: 1 })
      draw()
      for (const then of waiting.splice(0)) then()
      const rows = draw()
      return [rows[0], rows.at(-1), hasLanes()]
    },
  }
}

describe('rows around those in view', () => {
  it('come after the texts and the lanes of those in view, when nothing jumps', () => {
    const { picture } = sheet()
    picture([400, 419])
    assert.deepEqual(Array.from({ length: 10 }, () => picture()), [...Array(4).fill([400, 419, true]), [398, 421, true], [396, 423, true], [394, 425, true], ...Array(3).fill([392, 427, true])])
  })

  it('stand there already for who scrolls row by row', () => {
    const { picture, waiting } = sheet()
    picture([400, 419])
    for (let i = 0; i < 10; i++) picture()
    assert.deepEqual(picture([403, 422]), [395, 430, true])
    assert.deepEqual(picture([408, 427]), [400, 435, true])
    assert.isEmpty(waiting)
  })

  it('are not in view', () => {
    const { picture, isInView } = sheet()
    assert.isFalse(isInView(0))
    for (let i = 0; i < 10; i++) picture([400, 419])
    assert.deepEqual([399, 400, 419, 420].map(isInView), [false, true, true, false])
    picture([401, 420])
    assert.deepEqual([400, 401, 420, 421].map(isInView), [false, true, true, false])
  })

  it('are left away while it goes on jumping, and so are lanes', () => {
    const { picture } = sheet()
    for (const at of [100, 200, 300, 100]) assert.deepEqual(picture([at, at + 9]), [at, at + 9, false])
    assert.deepEqual(picture(), [100, 109, true])
  })

  it('wait while something else is to be drawn, but not for ever; lanes do not', () => {
    const { busy, picture } = sheet()
    busy.is = true
    picture([400, 419])
    assert.deepEqual(Array.from({ length: 8 }, () => picture()).at(-1), [400, 419, true])
    busy.is = false
    // The one in which it is drawn is left to it.
    assert.deepEqual(Array.from({ length: 3 }, () => picture()), [[400, 419, true], [398, 421, true], [396, 423, true]])
    busy.is = true
    picture([100, 119])
    for (let i = 0; i < 40; i++) picture()
    assert.deepEqual(picture(), [92, 127, true])
  })

  it('end where the rows end', () => {
    const { picture } = sheet()
    for (let i = 0; i < 10; i++) picture([0, 9])
    assert.deepEqual(picture([0, 9]), [0, 17, true])
    for (let i = 0; i < 10; i++) picture([990, 999])
    assert.deepEqual(picture(), [982, 999, true])
  })

  it('are asked for no more once the sheet is gone', () => {
    const { picture, waiting, scope } = sheet()
    picture([400, 419])
    scope.stop()
    picture()
    assert.isEmpty(waiting)
  })
})
