import { assert } from 'chai'
import { computed, nextTick } from 'vue'
import { byId } from '../../../core/plan/records.ts'
import { recordsOf } from '../../../core/testing/plans.ts'
import { sheetRows } from '../../../core/view/sheet.ts'
import { OpenPlan } from '../../testing/open-plan.ts'
import { useCellEditing } from './use-cell-editing.ts'
import { useRowChoice } from './use-row-choice.ts'

const source = (id: string, n: number) => ({ source: { id, name: id, kind: 'quest', yields: [{ tally: 'stamps', min: n, max: n }] } })
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [source('crates', 1), source('kites', 2)] }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
})

describe('typing into the cells of the sheet', () => {
  let opened: OpenPlan
  let choice: ReturnType<typeof useRowChoice>
  let cells: ReturnType<typeof useCellEditing>
  let left: number

  beforeEach(async () => {
    opened = await new OpenPlan(records, 'unchecked').open()
    left = 0
    const rows = computed(() => (opened.plan.records ? sheetRows(opened.plan.records, opened.key('route', 'line'), new Set()) : []))
    choice = useRowChoice(rows, () => {})
    cells = useCellEditing(() => opened.plan.records!, { rows, ...choice }, () => left++)
  })
  afterEach(() => opened.close())

  const at = { depot: 0, crates: 1, kites: 2 }
  const begin = (row: keyof typeof at, cell: 'name' | 'asks' | 'role') => {
    choice.goTo(at[row], cell)
    cells.startEdit()
  }
  const amount = (id: string) => byId(opened.plan.records!, 'source', id)!.yields![0]!.max

  it('begins with what stands there, and takes what was typed as one step', async () => {
    begin('crates', 'asks')
    assert.equal(cells.editing.value!.text, '1 stamps')
    cells.commit('5 stamps', 'stay')
    assert.equal(amount('crates'), 5)
    await nextTick()
    assert.deepEqual([cells.editing.value, left], [null, 1])
    opened.plan.undo()
    assert.equal(amount('crates'), 1)
  })

  it('takes it for the row that it was begun in, whatever row is active by then', async () => {
    begin('crates', 'asks')
    choice.goTo(at.kites)
    cells.commit('7 stamps', 'elsewhere')
    assert.deepEqual([amount('crates'), amount('kites')], [7, 2])
    await nextTick()
    // The user is elsewhere, and so is the keyboard.
    assert.deepEqual([left, choice.activeIndex.value], [0, at.kites])
  })

  it('adds the tally for want of which it was refused, and takes what was typed', async () => {
    begin('crates', 'asks')
    cells.commit('1 stamps, 2 furs', 'stay')
    const { missing } = cells.editing.value!.fault!
    assert.deepEqual([missing!.id, missing!.kinds[0]], ['furs', 'collectible'])
    cells.commit('1 stamps, 2 furs', 'stay', 'score')
    await nextTick()
    assert.isNull(cells.editing.value)
    assert.equal(byId(opened.plan.records!, 'tally', 'furs')!.kind, 'score')
    assert.deepEqual(byId(opened.plan.records!, 'source', 'crates')!.yields!.map(({ tally }) => tally), ['stamps', 'furs'])
    // Two steps, each to be taken back.
    opened.plan.undo()
    assert.lengthOf(byId(opened.plan.records!, 'source', 'crates')!.yields!, 1)
    opened.plan.undo()
    assert.isUndefined(byId(opened.plan.records!, 'tally', 'furs'))
  })

  it('goes back to what cannot be taken, and begins nothing else before', () => {
    begin('crates', 'asks')
    choice.goTo(at.kites)
    cells.commit('heaps', 'elsewhere')
    assert.match(cells.editing.value!.fault!.says, /"heaps" is no amount/)
    // Drawn anew, it is there to be mended.
    assert.equal(cells.editing.value!.typed, 'heaps')
    assert.equal(choice.activeIndex.value, at.crates)
    choice.goTo(at.kites, 'name')
    cells.startEdit()
    assert.deepEqual([cells.editing.value!.cell, choice.activeIndex.value], ['asks', at.crates])
    cells.cancel()
    assert.deepEqual([cells.editing.value, amount('crates')], [null, 1])
  })

  it('asks once before it is put over what somebody else has put there', () => {
    begin('crates', 'asks')
    opened.edit('source', 'crates', { count: 3 })
    cells.commit('5 stamps', 'stay')
    assert.equal(cells.editing.value!.fault!.says, 'It was changed elsewhere to “3 × 1 stamps”: Enter puts this over it, Esc leaves it.')
    assert.equal(amount('crates'), 1)
    cells.commit('5 stamps', 'stay')
    assert.deepEqual([cells.editing.value, amount('crates')], [null, 5])
    // What is the same in both, or was not touched here, needs no question.
    begin('kites', 'asks')
    opened.edit('source', 'kites', { count: 3 })
    cells.commit('3 × 2 stamps', 'stay')
    assert.isNull(cells.editing.value)
    begin('kites', 'asks')
    opened.edit('source', 'kites', { count: 4 })
    cells.commit('3 × 2 stamps', 'stay')
    assert.isNull(cells.editing.value)
    assert.equal(byId(opened.plan.records!, 'source', 'kites')!.count, 4)
  })

  it('goes from cell to cell and from row to row with Tab, to the ends', async () => {
    begin('crates', 'name')
    const where = () => [choice.activeIndex.value, cells.editing.value?.cell]
    for (const [then, row, cell] of [['next', 1, 'asks'], ['next', 2, 'name'], ['previous', 1, 'asks'], ['previous', 1, 'name'], ['next', 1, 'asks'], ['next', 2, 'name'], ['next', 2, 'asks']] as const) {
      cells.commit(cells.editing.value!.text, then)
      await nextTick()
      assert.deepEqual(where(), [row, cell])
    }
    cells.commit(cells.editing.value!.text, 'next')
    await nextTick()
    assert.deepEqual([cells.editing.value, left], [null, 1])
    assert.isNull(opened.plan.undoName)
  })

  it('lets go of a row that was deleted meanwhile, and says so', async () => {
    begin('kites', 'asks')
    opened.plan.edit({ name: 'gone', changes: [{ kind: 'source', key: opened.key('source', 'kites'), before: byId(opened.plan.records!, 'source', 'kites')!, after: null }] } as never)
    cells.commit('9 stamps', 'stay')
    assert.deepEqual([cells.editing.value, opened.plan.undoName], [null, 'gone'])
    assert.equal(opened.plan.notice, '“9 stamps” was not taken: its row has been deleted.')
    await nextTick()
    assert.equal(left, 1)
  })

  it('turns a role over at once', () => {
    begin('crates', 'role')
    assert.isNull(cells.editing.value)
    assert.equal(byId(opened.plan.records!, 'source', 'crates')!.role, 'side')
  })
})
