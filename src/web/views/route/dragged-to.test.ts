import { assert } from 'chai'
import type { Peg } from '../../../core/view/pegs.ts'
import { draggedTo, paceAt } from './dragged-to.ts'

const peg = (at: number, lane: Peg['lane'] = 'tally stamps', span: Peg['span'] = { from: 0, to: 1 }) => ({ at, lane, span })

describe('where a peg is dragged to', () => {
  it('is whole where the threshold was', () => {
    assert.equal(draggedTo(17.4, peg(12), [0, 60]), 17)
    assert.equal(draggedTo(17.5, peg(12), [0, 60]), 18)
  })

  it('is in tenths where the threshold had decimals, or the lane is short', () => {
    assert.equal(draggedTo(17.44, peg(12.5), [0, 60]), 17.4)
    assert.equal(draggedTo(0.349, peg(1), [0, 2]), 0.3)
    assert.equal(draggedTo(0.7, peg(1), [0, 2]), 0.7)
  })

  it('is a whole level, however short the lane', () => {
    assert.equal(draggedTo(2.6, peg(2, 'level courier'), [1, 4]), 3)
    assert.equal(draggedTo(-0.8, peg(2, 'level courier'), [-1, 4]), 0)
  })

  it('goes below 0 where a lane does, but no cost does', () => {
    assert.equal(draggedTo(-21.7, peg(-20), [-50, 10]), -22)
    assert.equal(draggedTo(-3, peg(2), [0, 60]), 0)
    assert.equal(draggedTo(-21.7, peg(5, 'tally stamps', null), [-50, 10]), 0)
  })

  it('is never a 0 with a minus', () => {
    assert.isTrue(Object.is(draggedTo(-0.3, peg(-20), [-50, 10]), 0))
  })
})

describe('a row that is held near an end of the sheet', () => {
  const sheet = { top: 100, bottom: 500 }

  it('scrolls it, the nearer the faster, in its direction', () => {
    assert.deepEqual([300, 144, 456].map((y) => paceAt(y, sheet)), [0, 0, 0])
    assert.deepEqual([143, 122, 100, 20].map((y) => paceAt(y, sheet)), [-1, -11, -22, -22])
    assert.deepEqual([457, 478, 500, 900].map((y) => paceAt(y, sheet)), [1, 11, 22, 22])
  })
})
