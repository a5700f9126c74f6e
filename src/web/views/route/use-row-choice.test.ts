import { assert } from 'chai'
import { createPinia, setActivePinia } from 'pinia'
import { computed, nextTick, shallowRef } from 'vue'
import { inOrder, type Records } from '../../../core/plan/records.ts'
import { recordsOf } from '../../../core/testing/plans.ts'
import { sheetRows } from '../../../core/view/sheet.ts'
import { useSelectionStore } from '../../stores/selection.ts'
import { useRowChoice } from './use-row-choice.ts'

const source = (id: string) => ({ source: { id, name: id, kind: 'quest', yields: [{ tally: 'stamps', min: 1, max: 1 }] } })
const records: Records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: ['a', 'b', 'c'].map(source) }, { id: 'pier', name: 'Pier', kind: 'area', contents: ['d', 'e'].map(source) }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier'] }],
})
const all = sheetRows(records, inOrder(records, 'route')[0]!.key, new Set())
/** Rows by name: Depot a b c Pier d e. */
const nameOf = (row: (typeof all)[number]) => (row.type === 'place' ? row.place.name : row.type === 'source' ? row.source.name : '')

describe('the choice of rows', () => {
  const rows = shallowRef(all)
  let scrolled: number[]
  let choice: ReturnType<typeof useRowChoice>

  beforeEach(() => {
    setActivePinia(createPinia())
    rows.value = all
    scrolled = []
    choice = useRowChoice(computed(() => rows.value), (index) => scrolled.push(index))
  })

  const chosen = () => choice.chosenRows.value.map(nameOf).join(' ')
  const click = (index: number, held: Partial<Record<'shiftKey' | 'ctrlKey', boolean>> = {}) => choice.pick(index, 'name', { preventDefault() {}, shiftKey: false, ctrlKey: false, ...held } as MouseEvent)

  it('is one row, shown and told to all views', () => {
    choice.goTo(2, 'asks')
    assert.deepEqual([chosen(), choice.activeCell.value, scrolled], ['b', 'asks', [2]])
    assert.equal(useSelectionStore().chosen!.kind, 'source')
    choice.goTo(99)
    assert.equal(chosen(), 'e')
    choice.goTo(-5)
    assert.equal(chosen(), 'Depot')
  })

  it('is a range from where it began, to both sides', () => {
    click(3)
    click(5, { shiftKey: true })
    assert.equal(chosen(), 'c Pier d')
    choice.extendTo(1)
    assert.equal(chosen(), 'a b c')
    // A place between them is no item that can be changed with them.
    choice.extendTo(6)
    assert.deepEqual(choice.chosenItems.value.map(({ row }) => row.name), ['c', 'd', 'e'])
    click(2)
    assert.equal(chosen(), 'b')
  })

  it('has single rows added and taken out', () => {
    click(1)
    click(3, { ctrlKey: true })
    click(6, { ctrlKey: true })
    assert.equal(chosen(), 'a c e')
    click(3, { ctrlKey: true })
    assert.equal(chosen(), 'a e')
    assert.deepEqual(all.map((_, i) => choice.isChosen(i)), [false, true, false, false, false, false, true])
  })

  it('is all of a place, and then all of the plan', () => {
    choice.goTo(2)
    choice.chooseAll()
    assert.equal(chosen(), 'a b c')
    choice.chooseAll()
    assert.equal(chosen(), 'a b c d e')
  })

  it('goes from cell to cell, not past the ends', () => {
    choice.goTo(1, 'name')
    for (const [by, cell] of [[1, 'asks'], [1, 'role'], [1, 'role'], [-1, 'asks'], [-1, 'name'], [-1, 'name']] as const) {
      choice.moveCell(by)
      assert.equal(choice.activeCell.value, cell)
    }
  })

  it('goes on by keyboard where the row stood that is gone', async () => {
    assert.deepEqual([choice.indexOn(1), choice.indexOn(-1)], [0, -1])
    choice.goTo(3)
    await nextTick()
    assert.deepEqual([choice.indexOn(1), choice.indexOn(-1)], [4, 2])
    rows.value = all.filter((row) => nameOf(row) !== 'c')
    assert.equal(choice.activeIndex.value, -1)
    assert.equal(nameOf(rows.value[choice.indexOn(1)]!), 'Pier')
    assert.equal(nameOf(rows.value[choice.indexOn(-1)]!), 'b')
    rows.value = all
    assert.equal(chosen(), 'c')
  })
})
