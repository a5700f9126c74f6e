import { assert } from 'chai'
import { apply } from '../change/diff.ts'
import { addItem, removeRecords, setFields } from '../change/edits.ts'
import type { Verdict } from '../check/result.ts'
import { checkRoute } from '../check/route/route-check.ts'
import { byId, type Records } from '../plan/records.ts'
import { compile } from '../rules/compile.ts'
import { recordsOf } from '../testing/plans.ts'
import { isWorse, turnsBetween } from './turns.ts'

const gate = (id: string, requires: string) => ({ gate: { id, name: `The ${id}`, kind: 'shop_item', requires } })
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [{ source: { id: 'crates', name: 'Crates', kind: 'quest', yields: [{ tally: 'stamps', min: 4, max: 4 }] } }, gate('shed', 'stamps >= 4'), gate('loft', 'stamps >= 3')] }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot'] }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})
const resultOf = (of: Records) => {
  const { game } = compile(of)
  return checkRoute(game, game.routes[0]!, game.profiles[0]!)
}
const turns = (after: Records) => turnsBetween(resultOf(records), resultOf(after), after).map(({ gate: id, name, before, after: now }) => [id, name, before, now])
const key = (id: string) => byId(records, 'gate', id)!.key
const spot = { place: byId(records, 'place', 'depot')!.key, after: null }

describe('what a change turns', () => {
  it('is every verdict that would be another, by the name that the gate has then', () => {
    assert.deepEqual(turns(apply(records, setFields(records, 'gate', key('shed'), { requires: 'stamps >= 9', name: 'Old shed' }, 'edit'))), [['shed', 'Old shed', 'clear', 'sealed']])
    assert.deepEqual(turns(apply(records, setFields(records, 'source', byId(records, 'source', 'crates')!.key, { count: 0 }, 'edit'))).map(([id]) => id), ['shed', 'loft'])
    assert.isEmpty(turns(apply(records, setFields(records, 'gate', key('shed'), { requires: 'stamps >= 1' }, 'edit'))))
  })

  it('is worse where fewer come through than before', () => {
    const turn = (before: Verdict | null, after: Verdict) => isWorse({ gate: 'g', name: 'G', before, after })
    assert.isTrue([turn('clear', 'depends'), turn('depends', 'short'), turn('short', 'sealed'), turn('off_route', 'short'), turn(null, 'sealed')].every(Boolean))
    assert.isFalse([turn('short', 'depends'), turn('sealed', 'clear'), turn('short', 'off_route'), turn('clear', 'off_route'), turn('off_route', 'clear')].some(Boolean))
  })

  it('is looked for only where something was told anew', () => {
    const [shed, loft] = resultOf(records).gates
    const short = { ...loft!, verdict: 'short' as const }
    assert.deepEqual(turnsBetween({ gates: [shed!, loft!] }, { gates: [shed!, short] }, records).map(({ gate: id, after }) => [id, after]), [['loft', 'short']])
    // The same gates in another order, and one more.
    assert.deepEqual(turnsBetween({ gates: [shed!, loft!] }, { gates: [short, shed!] }, records).map(({ gate: id }) => id), ['loft'])
    assert.deepEqual(turnsBetween({ gates: [loft!] }, { gates: [shed!, short] }, records).map(({ gate: id }) => id), ['loft'])
  })

  it('is also trouble with gates that it adds, and nothing of those that it removes', () => {
    const added = (requires: string) => apply(records, addItem(records, 'gate', 'new', { ...byId(records, 'gate', 'shed')!, id: 'cellar', name: 'Cellar', requires } as never, spot))
    assert.deepEqual(turns(added('stamps >= 9')), [['cellar', 'Cellar', null, 'sealed']])
    assert.isEmpty(turns(added('stamps >= 2')))
    assert.isEmpty(turns(apply(records, removeRecords(records, [{ kind: 'gate', key: key('shed') }]))))
  })
})
