import { assert } from 'chai'
import { indexNear } from './index-near.ts'

describe('the row with an id', () => {
  const rows = ['depot', 'round', 'hatch', 'flats', 'drifts'].map((id) => ({ id }))

  it('is found from wherever it is looked for', () => {
    for (const near of [-1, 0, 2, 4, 9]) assert.deepEqual(rows.map(({ id }) => indexNear(rows, id, near)), [0, 1, 2, 3, 4])
  })

  it('is nowhere where no row has it', () => {
    assert.equal(indexNear(rows, 'hut', 2), -1)
    assert.equal(indexNear(rows, null, -1), -1)
    assert.equal(indexNear([], 'hut', 0), -1)
  })
})
