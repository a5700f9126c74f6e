import { assert } from 'chai'
import { roomsInTurn } from './rooms-in-turn.ts'

describe('rooms in turn', () => {
  it('are empty each time, as long as is asked, and leave what was made last as it is', () => {
    const room = roomsInTurn()
    let last = room(3).fill(7)
    for (const length of [5, 2, 0, 9, 9, 4, 400, 1]) {
      const before = [...last]
      const next = room(length)
      assert.deepEqual([...next], new Array<number>(length).fill(0))
      next.fill(length)
      assert.deepEqual([...last], before)
      last = next
    }
  })

  it('are the same two again, where they are long enough', () => {
    const room = roomsInTurn()
    const [first, second] = [room(100), room(100)]
    assert.notEqual(first.buffer, second.buffer)
    assert.deepEqual([room(80).buffer, room(100).buffer].map((buffer) => buffer === first.buffer || buffer === second.buffer), [true, true])
  })
})
