import { assert } from 'chai'
import { nextTick, watch } from 'vue'
import { removeRecords, setFields } from '../../core/change/edits.ts'
import { check as checkWhole } from '../../core/check/check.ts'
import { byId } from '../../core/plan/records.ts'
import { samplePlan } from '../../core/sample/sample-plan.ts'
import { recordsOf, samplePurse } from '../../core/testing/plans.ts'
import { holdTimers } from '../testing/held-timers.ts'
import { OpenPlan, until } from '../testing/open-plan.ts'

/** A key in a side room that closes behind who enters it, and a door that asks for more than the road gives. */
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'pier', name: 'The pier', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 4, yields: [{ tally: 'stamps', min: 2, max: 2 }] } },
      { source: { id: 'kites', name: 'Kites', kind: 'event', role: 'side', count: 3, yields: [{ tally: 'stamps', min: 1, max: 1 }] } },
      { gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way' }, requires: 'stamps >= 9' } },
    ] },
    { id: 'pier', name: 'Pier', kind: 'area', goal: true },
    { id: 'cellar', name: 'Cellar', kind: 'interior' },
  ],
  passages: [{ id: 'way', from: 'depot', to: 'pier' }, { id: 'fall', from: 'depot', to: 'cellar', twoWay: false }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'pier'] }, { id: 'down', name: 'Down', stops: ['depot', 'cellar'] }],
  profiles: [
    { id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' },
    { id: 'usual', name: 'Usual', main: 1, side: 0.5, buys: 'all' },
    { id: 'thorough', name: 'Thorough', main: 1, side: 1, buys: 'all' },
  ],
})

describe('what the check says of the open plan', function () {
  this.timeout(60_000)
  let opened: OpenPlan
  let plan: OpenPlan['plan']
  let check: OpenPlan['check']

  beforeEach(async () => {
    opened = await new OpenPlan(records).open()
    ;({ plan, check } = opened)
  })
  afterEach(() => opened.close())

  const profile = (id: string) => opened.key('profile', id)
  const edit = (kind: 'gate' | 'source', id: string, fields: object) => opened.edit(kind, id, fields)

  it('is kept up with edits, for the first route and kind of player until others are chosen', async () => {
    assert.deepEqual([check.routes.length, check.profiles.length], [2, 3])
    assert.deepInclude(check.gate('hatch')!, { verdict: 'short', p: 0 })
    edit('gate', 'hatch', { requires: 'stamps >= 8' })
    assert.isTrue(check.isStale)
    await until(() => !check.isStale)
    assert.equal(check.gate('hatch')!.verdict, 'clear')
    plan.undo()
    await until(() => !check.isStale)
    check.profileKey = profile('thorough')
    await nextTick()
    await until(() => !check.isStale)
    assert.equal(check.gate('hatch')!.verdict, 'clear')
    check.routeKey = byId(plan.records!, 'route', 'down')!.key
    await nextTick()
    await until(() => !check.isStale)
    assert.equal(check.view!.result!.stops.length, 2)
    assert.equal(check.stops![1]!.place, 'cellar')
  })

  it('chooses another kind of player where the chosen one goes, and the same one again when it comes back', async () => {
    const keys = check.profiles.map(({ key }) => key)
    check.profileKey = keys[1]!
    const remove = (key: string) => plan.edit(removeRecords(plan.records!, [{ kind: 'profile', key }]))
    remove(keys[1]!)
    assert.equal(check.profileKey, keys[0])
    remove(keys[0]!)
    assert.equal(check.profileKey, keys[2])
    remove(keys[2]!)
    assert.isNull(check.profileKey)
    for (let i = 0; i < 3; i++) plan.undo()
    assert.equal(check.profileKey, keys[1])
    // What stood in for it can be chosen, and stays so.
    check.profileKey = keys[0]!
    edit('source', 'round', { minutes: 1 })
    assert.equal(check.profileKey, keys[0])
    check.profileKey = keys[1]!
    // Who chooses another in the meantime keeps it.
    remove(keys[1]!)
    check.profileKey = keys[2]!
    plan.undo()
    assert.equal(check.profileKey, keys[2])
    await until(() => !check.isStale)
    assert.deepInclude(check.gate('hatch')!, { verdict: 'clear' })
  })

  it('comes to what stands after edits that follow each other at once', async () => {
    for (const n of [12, 3, 10, 11]) edit('gate', 'hatch', { requires: `stamps >= ${n}` })
    edit('source', 'round', { count: 5 })
    await until(() => !check.isStale)
    const [gate] = checkWhole(plan.records!, { lockouts: false }).result.routes[0]!.profiles[0]!.gates
    assert.isNotEmpty(gate!.debt)
    // Sums, and what would open it, are told of the gate that is looked at.
    assert.deepInclude(check.gate('hatch')!, { ...gate!, from: [], debt: [] })
    const explained = await check.explain(byId(plan.records!, 'gate', 'hatch')!.key, Infinity)
    assert.deepEqual([explained!.from, explained!.debt], [gate!.from, gate!.debt])
  })

  it('keeps what is wrong by the record that it is of', async () => {
    edit('gate', 'hatch', { requires: 'stomps >= 9' })
    await until(() => !check.isStale)
    const key = byId(plan.records!, 'gate', 'hatch')!.key
    assert.deepEqual([...check.issuesByKey.keys()], [key])
    assert.match(check.gate('hatch')!.error!, /stomps/)
  })

  it('finds what is wrong with the whole plan when nothing was changed for a moment', async () => {
    assert.isTrue(check.isLooking)
    await until(() => !check.isLooking)
    const { findings } = checkWhole(plan.records!, { lockouts: false }).result
    assert.sameMembers(check.findings.map(({ id, item }) => `${id} ${item.id}`), findings!.map(({ id, item }) => `${id} ${item.id}`))
    assert.isTrue(check.areAllKnown)
    edit('gate', 'hatch', { requires: 'stamps >= 8' })
    assert.isFalse(check.areAllKnown)
    await until(() => !check.isLooking)
    assert.notInclude(check.findings.map(({ id }) => id), 'gate-short')
  })

  it('shows all kinds of player at once, with the worst verdict of each gate', async () => {
    assert.equal(check.shownVerdict('hatch'), 'short')
    check.profileKey = profile('thorough')
    check.showsEveryone = true
    await until(() => check.others.length === 3 && !check.isStale)
    assert.deepEqual(check.others.map(({ name, verdicts }) => [name, verdicts.hatch]), [['Straight', 'short'], ['Usual', 'depends'], ['Thorough', 'clear']])
    assert.equal(check.gate('hatch')!.verdict, 'clear')
    assert.equal(check.shownVerdict('hatch'), 'short')
    check.showsEveryone = false
    await until(() => check.others.length === 0)
    assert.equal(check.shownVerdict('hatch'), 'clear')
  })

  it('tells what a change would turn, of the last one asked for', async () => {
    const key = byId(plan.records!, 'gate', 'hatch')!.key
    const to = (n: number) => setFields(plan.records!, 'gate', key, { requires: `stamps >= ${n}` }, 'try')
    const [first, last] = await Promise.all([check.preview(to(20)), check.preview(to(8))])
    assert.isNull(first)
    assert.deepEqual(last, [{ gate: 'hatch', name: 'Hatch', before: 'short', after: 'clear' }])
  })

  it('looks for lock-outs when it is asked to, and tells them as findings', async () => {
    await check.lookForLockouts()
    assert.equal(check.lockouts!.stuck.result, 'found')
    assert.deepEqual(check.lockoutFindings.map(({ id }) => id), ['stuck'])
    edit('gate', 'hatch', { requires: 'stamps >= 8' })
    assert.isNull(check.lockouts)
    // The list does not jump while it is looked for again.
    assert.lengthOf(check.lockoutFindings, 1)
  })
})

describe('verdicts that have to be drawn', function () {
  this.timeout(60_000)
  let opened: OpenPlan
  const purse = samplePurse({ places: 14, sources: 90, gates: 40, seed: 2 })

  beforeEach(async () => {
    opened = await new OpenPlan(purse).open()
  })
  afterEach(() => opened.close())

  it('are there roughly long before they are there for good, and count as stale until then', async () => {
    const { check } = opened
    check.profileKey = opened.key('profile', 'usual')
    await nextTick()
    await until(() => !check.isStale)
    const before = check.view
    const seen: { isStale: boolean; isRough: boolean; interval: readonly [number, number] | null }[] = []
    const stop = watch(() => check.view, (view) => {
      const gate = view!.result!.gates.find(({ exact }) => !exact)
      if (gate) seen.push({ isStale: check.isStale, isRough: check.isRough, interval: gate.interval })
    }, { flush: 'sync' })
    const source = [...purse.source.values()][0]!
    opened.edit('source', source.id, { count: source.count + 1 })
    await until(() => !check.isStale)
    stop()
    assert.deepEqual(seen.map(({ isStale }) => isStale), [true, true])
    assert.isFalse(check.isRough)
    const [rough, settled] = seen.map(({ interval }) => interval![1] - interval![0])
    assert.isAbove(rough!, 3 * settled!)
    assert.notStrictEqual(check.view, before)
    const usual = checkWhole(opened.plan.records!, { lockouts: false, fixes: 0, sums: false, profile: 'usual' }).result.routes[0]!.profiles[0]!
    assert.deepEqual(check.view!.result!.gates.map(({ verdict, p }) => [verdict, p]), usual.gates.map(({ verdict, p }) => [verdict, p]))
  })
})

describe('verdicts of a long route', function () {
  this.timeout(60_000)

  it('are there first for what is in view, and are counted when all of them are', async () => {
    const opened = await new OpenPlan(recordsOf(samplePlan({ places: 30, sources: 900, gates: 90, seed: 3 }))).open()
    try {
      const { check, plan } = opened
      const counted = check.gatesInAll
      check.seeUntil(3)
      const looks: (string | null)[] = []
      const stop = watch(() => check.look, (look) => {
        looks.push(look)
        if (look === 'near') assert.deepEqual([check.isStale, check.gatesInAll], [true, counted])
      }, { flush: 'sync' })
      const source = [...plan.records!.source.values()][0]!
      opened.edit('source', source.id, { count: source.count + 400 })
      await until(() => !check.isStale)
      stop()
      assert.deepEqual(looks, [null, 'near', 'settled'])
      assert.notDeepEqual(check.gatesInAll, counted)
    } finally {
      opened.close()
    }
  })
})

describe('what was asked of a plan that is left', () => {
  it('is not looked for any more', async () => {
    const timers = holdTimers()
    const opened = await new OpenPlan(records).open()
    try {
      opened.edit('gate', 'hatch', { requires: 'stamps >= 8' })
      await until(() => !opened.check.isStale)
      void opened.plan.close()
      await timers.runOut()
      // Whoever looks behind the verdicts would be a second one.
      assert.equal(opened.workers, 1)
    } finally {
      timers.remove()
      opened.close()
    }
  })
})
