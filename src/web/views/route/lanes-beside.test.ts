import { assert } from 'chai'
import { computed, ref } from 'vue'
import { inViewFirst } from './lanes-beside.ts'

describe('the lanes beside a row', () => {
  it('are those of now in view, and change at once also beside a row that has come into view since it was drawn', () => {
    const [now, atRest] = [ref('first'), ref('first')]
    const view = { from: 0, to: 5 }
    const lanesAt = inViewFirst(() => now.value, () => atRest.value, (index) => view.from <= index && index <= view.to)
    const [within, around] = [computed(() => lanesAt(3)), computed(() => lanesAt(7))]
    const shown = () => [within.value, around.value]
    assert.deepEqual(shown(), ['first', 'first'])
    now.value = 'second'
    assert.deepEqual(shown(), ['second', 'first'])
    atRest.value = 'second'
    assert.deepEqual(shown(), ['second', 'second'])
    view.to = 9
    now.value = 'third'
    assert.deepEqual(shown(), ['third', 'third'])
  })
})
