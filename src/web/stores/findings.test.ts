import { assert } from 'chai'
import { nextTick } from 'vue'
import type { Finding } from '../../core/check/result.ts'
import { recordsOf } from '../../core/testing/plans.ts'
import { OpenPlan } from '../testing/open-plan.ts'
import { useFindingsStore } from './findings.ts'
import { useSelectionStore } from './selection.ts'

const gate = (id: string) => ({ gate: { id, name: id, kind: 'door', requires: 'stamps >= 1' } })
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [gate('hatch'), gate('chain')] }, { id: 'pier', name: 'Pier', kind: 'area', contents: [gate('lock')] }],
  passages: [{ id: 'way', from: 'pier', to: 'depot' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier'] }, { id: 'back', name: 'Back', stops: ['pier', 'depot'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }, { id: 'usual', name: 'Usual', main: 1, side: 0.5, buys: 'all' }],
})

function finding(id: string, severity: Finding['severity'], kind: Finding['item']['kind'], item: string, more: Partial<Finding> = {}): Finding {
  return { id, severity, item: { kind, id: item }, route: null, profile: null, says: `${id} of ${item}.`, fix: null, ...more } as Finding
}

const sealed = finding('gate-sealed', 'fault', 'gate', 'lock', { route: 'back', profile: 'usual' })
const ring = finding('ring', 'fault', 'gate', 'hatch')
const loss = finding('one-way-loss', 'risk', 'passage', 'way')
const unused = finding('unused', 'note', 'tally', 'stamps')
const stuck = finding('stuck', 'fault', 'plan', 'pier')

describe('what was found', () => {
  let opened: OpenPlan
  let findings: ReturnType<typeof useFindingsStore>
  let selection: ReturnType<typeof useSelectionStore>

  beforeEach(async () => {
    opened = await new OpenPlan(records, 'unchecked').open()
    findings = useFindingsStore()
    selection = useSelectionStore()
    opened.check.findings = [unused, sealed, loss, ring]
    opened.check.lockoutFindings = [stuck]
  })
  afterEach(() => opened.close())

  const ids = (found: readonly Finding[]) => found.map(({ id }) => id)

  it('is listed gravest first, notes folded', () => {
    assert.deepEqual(ids(findings.all), ['stuck', 'gate-sealed', 'ring', 'one-way-loss', 'unused'])
    assert.deepEqual(findings.groups.map(({ severity, found }) => [severity, found.length]), [['fault', 3], ['risk', 1], ['note', 1]])
    assert.deepEqual(ids(findings.steps), ['stuck', 'gate-sealed', 'ring', 'one-way-loss'])
    findings.toggle('note')
    findings.toggle('fault')
    assert.deepEqual(ids(findings.steps), ['one-way-loss', 'unused'])
  })

  it('is filtered by kind and by the place that it lies in; a passage lies where it begins', () => {
    assert.deepEqual(findings.places.map(({ id }) => id), ['depot', 'pier'])
    findings.place = opened.key('place', 'pier')
    assert.deepEqual(ids(findings.shown), ['gate-sealed', 'one-way-loss'])
    findings.kind = 'ring'
    assert.deepEqual(findings.shown, [])
    findings.place = ''
    assert.deepEqual(ids(findings.shown), ['ring'])
    assert.sameMembers(findings.kinds.map(([id]) => id), ids(findings.all))
  })

  it('is stepped through, round and round', () => {
    const went: string[] = []
    for (const by of [1, 1, 1, 1, 1, -1, -1] as const) {
      assert.isTrue(findings.step(by))
      went.push(findings.current!.id)
    }
    assert.deepEqual(went, ['stuck', 'gate-sealed', 'ring', 'one-way-loss', 'stuck', 'one-way-loss', 'ring'])
    findings.kind = 'curve-dip'
    assert.isFalse(findings.step(1))
  })

  it('goes on where one stood that is mended', async () => {
    findings.step(1)
    findings.step(1)
    await nextTick()
    opened.check.findings = [unused, loss, ring]
    await nextTick()
    assert.isNull(findings.current)
    findings.step(1)
    assert.equal(findings.current!.id, 'ring')
  })

  it('shows its item, for the route and the kind of player that it is about', () => {
    findings.choose(sealed)
    assert.deepEqual(selection.chosen, { kind: 'gate', key: opened.key('gate', 'lock') })
    assert.deepEqual([opened.check.routeKey, opened.check.profileKey], [opened.key('route', 'back'), opened.key('profile', 'usual')])
    findings.choose(stuck)
    assert.isNull(selection.chosen)
    assert.equal(findings.current!.id, 'stuck')
  })

  it('is left when something else is chosen, and kept while its own item is', async () => {
    findings.choose(ring)
    await nextTick()
    selection.choose('gate', opened.key('gate', 'hatch'))
    await nextTick()
    assert.equal(findings.current!.id, 'ring')
    selection.choose('gate', opened.key('gate', 'chain'))
    await nextTick()
    assert.isNull(findings.current)
  })

  it('of what is gone chooses nothing', () => {
    findings.choose(finding('ring', 'fault', 'gate', 'nowhere'))
    assert.isNull(selection.chosen)
  })

  it('starts anew with another plan', async () => {
    findings.kind = 'ring'
    findings.place = opened.key('place', 'pier')
    findings.choose(ring)
    void opened.plan.close()
    await nextTick()
    assert.deepEqual([findings.kind, findings.place, findings.current], ['', '', null])
  })
})
