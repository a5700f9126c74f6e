import { assert } from 'chai'
import { computed, watch } from 'vue'
import { samplePlan } from '../../../core/sample/sample-plan.ts'
import { recordsOf } from '../../../core/testing/plans.ts'
import { sheetRows } from '../../../core/view/sheet.ts'
import { OpenPlan, until } from '../../testing/open-plan.ts'
import { useFind } from './use-find.ts'

describe('looking for rows', () => {
  let opened: OpenPlan
  afterEach(() => opened.close())

  async function finding(sources: number) {
    opened = await new OpenPlan(recordsOf(samplePlan({ places: 20, sources, gates: 40, seed: 5 })), 'unchecked').open()
    const { plan } = opened
    const all = computed(() => (plan.records ? sheetRows(plan.records, null, new Set()) : []))
    return { all, ...useFind(all) }
  }

  it('follows each letter in a plan of some rows', async () => {
    const { all, wanted, sought, search } = await finding(100)
    assert.isNull(search.value)
    wanted.value = ' gate_7 '
    assert.equal(sought.value, 'gate_7')
    assert.equal(search.value!.found.length, 1)
    assert.isBelow(search.value!.rows.length, all.value.length)
    wanted.value = '  '
    assert.isNull(search.value)
  })

  it('waits in a large plan until typing rests, but not for Enter, nor to show all again', async () => {
    const { wanted, sought, search, seek } = await finding(6_000)
    wanted.value = 'gate_3'
    assert.equal(sought.value, '')
    wanted.value = 'gate_37'
    seek()
    assert.equal(search.value!.found.length, 1)
    wanted.value = ''
    assert.isNull(search.value)
    // What waits is not looked for once it is no longer wanted.
    const looked: string[] = []
    watch(sought, (text) => looked.push(text), { flush: 'sync' })
    wanted.value = 'gate_3'
    wanted.value = ''
    wanted.value = 'gate_38'
    await until(() => sought.value !== '')
    assert.deepEqual(looked, ['gate_38'])
    assert.equal(search.value!.found.length, 1)
  })

  it('finds in the plan as it is, and in none once another is opened', async () => {
    const { wanted, search } = await finding(100)
    wanted.value = 'gate_7'
    opened.edit('gate', 'gate_7', { name: 'Rime hatch' })
    wanted.value = 'rime hatch'
    assert.equal(search.value!.found.length, 1)
  })

  it('keeps what was found while it is mended, until something else is looked for', async () => {
    const { wanted, search } = await finding(100)
    wanted.value = 'gate_7'
    opened.edit('gate', 'gate_7', { name: 'Rime hatch' })
    wanted.value = 'rime hatch'
    assert.equal(search.value!.found.length, 1)
    opened.edit('gate', 'gate_7', { name: 'Other' })
    opened.edit('gate', 'gate_8', { name: 'Rime hatch' })
    assert.equal(search.value!.found.length, 2)
    wanted.value = 'rime hatch gate'
    assert.equal(search.value!.found.length, 1)
  })
})
