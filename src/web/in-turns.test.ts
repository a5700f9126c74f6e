import { assert } from 'chai'
import { inTurns } from './in-turns.ts'

function* steps(): Generator<number, string> {
  for (let i = 1; i <= 4; i++) yield i
  return 'done'
}

describe('steps in turns', () => {
  it('come to what they come to, with a pause after each where no time is left', async () => {
    const seen: string[] = []
    const tell = (step: number) => void seen.push(`step ${step}`)
    const pause = () => Promise.resolve(void seen.push('pause'))
    assert.equal(await inTurns(steps(), () => true, { pause, tell, turn: 0 }), 'done')
    assert.deepEqual(seen, [1, 2, 3, 4].flatMap((step) => ['pause', `step ${step}`]))
  })

  it('make no pause before their turn is over', async () => {
    assert.equal(await inTurns(steps(), () => true, { pause: () => Promise.reject(new Error('a pause')), turn: Infinity }), 'done')
  })

  it('are given up after the pause in which they are no longer wanted', async () => {
    let pauses = 0
    const pause = () => Promise.resolve(void pauses++)
    assert.isNull(await inTurns(steps(), () => pauses < 2, { pause, turn: 0 }))
    assert.equal(pauses, 2)
  })
})
