import { assert } from 'chai'
import fc from 'fast-check'
import { lineSlots } from './line-slots.ts'

const gate = (n: number) => ({ id: `gate ${n}`, type: 'gate' as const })
const source = (n: number) => ({ id: `source ${n}`, type: 'source' as const })

describe('the lines that rows are shown in', () => {
  it('stay with the rows that stay, wherever those stand now', () => {
    const before = lineSlots([gate(1), source(1), source(2)])
    const after = lineSlots([source(2), gate(1)], before)
    assert.deepEqual([...after.keys()], ['source 2', 'gate 1'])
    for (const [id, slot] of after) assert.equal(slot, before.get(id))
  })

  it('that rows have left are taken by rows of their kind', () => {
    const before = lineSlots([gate(1), source(1), source(2)])
    const after = lineSlots([source(2), source(3), gate(2)], before)
    assert.equal(after.get('source 3'), before.get('source 1'))
    assert.equal(after.get('gate 2'), before.get('gate 1'))
  })

  it('are made for more rows of a kind than there were', () => {
    const before = lineSlots([gate(1), source(1)])
    const after = lineSlots([gate(1), gate(2), gate(3)], before)
    assert.equal(new Set(after.values()).size, 3)
    assert.isTrue([...after.values()].every((slot) => slot.startsWith('gate')))
  })

  it('are never one for two rows, and no more are made than are shown at once, however one scrolls', () => {
    const kinds = fc.array(fc.constantFrom(gate, source), { minLength: 40, maxLength: 40 })
    const steps = fc.array(fc.tuple(fc.nat(39), fc.integer({ min: 1, max: 10 })), { maxLength: 20 })
    fc.assert(fc.property(kinds, steps, (kindAt, views) => {
      const all = kindAt.map((make, n) => make(n))
      let slots = lineSlots([])
      for (const [first, height] of views) {
        const rows = all.slice(first, first + height)
        const next = lineSlots(rows, slots)
        assert.deepEqual([...next.keys()], rows.map(({ id }) => id))
        assert.equal(new Set(next.values()).size, rows.length)
        for (const { id, type } of rows) {
          assert.isTrue(next.get(id)!.startsWith(type))
          if (slots.has(id)) assert.equal(next.get(id), slots.get(id))
        }
        // A new one is made only where none of its kind is left.
        const known = new Set(slots.values())
        const used = new Set(next.values())
        for (const type of ['gate', 'source']) {
          const isMade = [...used].some((slot) => slot.startsWith(type) && !known.has(slot))
          if (isMade) assert.isTrue([...known].filter((slot) => slot.startsWith(type)).every((slot) => used.has(slot)))
        }
        slots = next
      }
    }))
  })
})
