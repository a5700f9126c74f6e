import { assert } from 'chai'
import { setFields } from '../../core/change/edits.ts'
import { byId } from '../../core/plan/records.ts'
import { recordsOf } from '../../core/testing/plans.ts'
import { OpenPlan, until } from '../testing/open-plan.ts'
import { useSelectionStore } from './selection.ts'
import { useTurnedStore } from './turned.ts'

const gate = (id: string, requires: string) => ({ gate: { id, name: id, kind: 'door', requires } })
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [
    { source: { id: 'crates', name: 'Crates', kind: 'quest', role: 'main', yields: [{ tally: 'stamps', min: 4, max: 4 }] } },
    { source: { id: 'kites', name: 'Kites', kind: 'quest', role: 'side', yields: [{ tally: 'stamps', min: 4, max: 4 }] } },
    gate('shed', 'stamps >= 3'), gate('loft', 'stamps >= 4'), gate('tower', 'stamps >= 5'),
  ] }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }, { id: 'thorough', name: 'Thorough', main: 1, side: 1, buys: 'nothing' }],
})

describe('what the last change turned', () => {
  let opened: OpenPlan
  let turned: ReturnType<typeof useTurnedStore>

  beforeEach(async () => {
    opened = await new OpenPlan(records).open()
    turned = useTurnedStore()
  })
  afterEach(() => opened.close())

  const edit = (fields: object) => opened.plan.edit(setFields(opened.plan.records!, 'source', byId(opened.plan.records!, 'source', 'crates')!.key, fields, 'edit'))
  const known = () => until(() => !opened.check.isStale)
  const told = () => turned.turns.map(({ gate, before, after }) => `${gate} ${before} ${after}`)

  it('is told once the verdicts are there, and of undoing the same the other way round', async () => {
    assert.isEmpty(told())
    edit({ role: 'side' })
    assert.isEmpty(told())
    await known()
    assert.deepEqual(told(), ['shed clear short', 'loft clear short'])
    edit({ minutes: 3 })
    await known()
    assert.isEmpty(told())
    opened.plan.undo()
    opened.plan.undo()
    await known()
    assert.deepEqual(told(), ['shed short clear', 'loft short clear'])
  })

  it('is not what another kind of player has otherwise, nor a gate that was given another id', async () => {
    opened.check.profileKey = opened.key('profile', 'thorough')
    await until(() => opened.check.gate('tower')?.verdict === 'clear')
    await known()
    assert.isEmpty(told())
    const { plan } = opened
    plan.edit(setFields(plan.records!, 'gate', byId(plan.records!, 'gate', 'tower')!.key, { id: 'spire', requires: 'stamps >= 50' }, 'edit'))
    await known()
    assert.isEmpty(told())
  })

  it('is gone through gate by gate, and begins again', async () => {
    edit({ role: 'side' })
    await known()
    const seen = [1, 2, 3].map(() => {
      turned.step()
      return opened.plan.records!.gate.get(useSelectionStore().chosen!.key)!.id
    })
    assert.deepEqual(seen, ['shed', 'loft', 'shed'])
  })
})
