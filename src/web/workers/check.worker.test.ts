import { assert } from 'chai'
import { proxy, transfer, wrap, type Remote } from 'comlink'
import { doubleItems } from '../../core/change/double.ts'
import { moveItem, removeRecords, setFields } from '../../core/change/edits.ts'
import { apply, diffOf, type Diff } from '../../core/change/diff.ts'
import { check as checkWhole } from '../../core/check/check.ts'
import { verdictsAlone } from '../../core/check/result.ts'
import { explainGate, readable } from '../../core/check/route/explain.ts'
import { checkRoute, defaultRouteOptions } from '../../core/check/route/route-check.ts'
import { contentsByPlace, inOrder, plainRecords, type Records } from '../../core/plan/records.ts'
import { compile } from '../../core/rules/compile.ts'
import { samplePlan } from '../../core/sample/sample-plan.ts'
import { newKeys, recordsOf, samplePurse, smallPlan } from '../../core/testing/plans.ts'
import { updated } from '../../core/view/route-update.ts'
import { turnsBetween } from '../../core/view/turns.ts'
import { PageWorker } from '../testing/page-worker.ts'
import type { CheckWorker, HandedPlan } from './check.worker.ts'

const records = recordsOf(samplePlan({ places: 12, sources: 90, gates: 40, seed: 5 }))
const route = inOrder(records, 'route')[0]!.key
const profileKey = (id: string) => inOrder(records, 'profile').find((profile) => profile.id === id)!.key
const straight = profileKey('straight')

const resultOf = (of: Records, profile: string) => {
  const { game } = compile(of)
  return checkRoute(game, game.routes.find(({ key }) => key === route)!, game.profiles.find(({ key }) => key === profile)!, { ...defaultRouteOptions, debts: false })
}

describe('the worker that checks', function () {
  this.timeout(60_000)
  let thread: PageWorker
  let worker: Remote<CheckWorker>
  const none = proxy(() => {})

  beforeEach(async () => {
    thread = new PageWorker(new URL('./check.worker.ts', import.meta.url))
    worker = wrap<CheckWorker>(thread as never)
    await worker.load(plainRecords(records))
  })
  afterEach(() => thread.terminate())

  const raised = (by: number): Diff => {
    const gate = inOrder(records, 'gate').find(({ requires }) => /^level >= \d+$/.test(requires))!
    return setFields(records, 'gate', gate.key, { requires: gate.requires.replace(/\d+/, (n) => String(Number(n) + by)) } as never, 'raise')
  }

  it('says all of a plan at first, and after an edit only what is new', async () => {
    const first = (await worker.check(1, null, route, straight, none))!
    assert.isTrue(first.isWhole)
    const before = updated(null, first.update)
    assert.deepEqual(before.result, resultOf(records, straight))
    await worker.edit(raised(9))
    const second = (await worker.check(2, first.number, route, straight, none))!
    assert.isFalse(second.isWhole)
    assert.isUndefined(second.update.issues)
    assert.isAtMost(second.update.result!.gates.at.length, 1)
    const after = updated(before, second.update)
    assert.deepEqual(after.result, resultOf(apply(records, raised(9)), straight))
    assert.deepEqual(updated(null, (await worker.check(3, null, route, straight, none))!.update), after)
  })

  it('rehearses edits, and says afterwards what it would have said', async () => {
    const first = (await worker.check(1, null, route, straight, none))!
    assert.isTrue(await worker.rehearse(1, route, straight))
    const again = (await worker.check(1, first.number, route, straight, none))!
    assert.deepEqual(updated(updated(null, first.update), again.update), updated(null, first.update))
    await worker.edit(raised(9))
    const second = (await worker.check(2, again.number, route, straight, none))!
    assert.deepEqual(updated(updated(null, first.update), second.update).result, resultOf(apply(records, raised(9)), straight))
  })

  it('rehearses no more once there is something to do', async () => {
    await worker.check(1, null, route, straight, none)
    const rehearsed = worker.rehearse(1, route, straight)
    const asked = worker.check(2, null, route, straight, none)
    assert.isFalse(await rehearsed)
    assert.deepEqual(updated(null, (await asked)!.update).result, resultOf(records, straight))
    assert.isFalse(await worker.rehearse(1, route, straight))
  })

  it('rehearses nothing while hands are busy, but says at once what is asked', async () => {
    await worker.check(1, null, route, straight, none)
    await worker.hush(true)
    let isDone = false
    const rehearsed = worker.rehearse(1, route, straight).then(() => (isDone = true))
    assert.isNotNull(await worker.check(1, null, route, straight, none))
    assert.isFalse(isDone)
    await worker.hush(false)
    await rehearsed
  })

  const byId = (result: ReturnType<typeof resultOf> | null) => new Map(result!.gates.map((gate) => [gate.gate, gate]))

  /** Follows steps on a plan, and asks after each for what is new; every view is that of a fresh check. */
  async function followAll(plan: Records, profile: string, steps: readonly ((of: Records) => Diff)[]): Promise<void> {
    let of = plan
    await worker.load(plainRecords(of))
    let answer = (await worker.check(1, null, route, profile, none))!
    let view = updated(null, answer.update)
    for (const [i, step] of steps.entries()) {
      const diff = step(of)
      of = apply(of, diff)
      await worker.edit(diff)
      answer = (await worker.check(i + 2, answer.number, route, profile, none))!
      view = updated(view, answer.update)
      assert.deepEqual(byId(view.result), byId(resultOf(of, profile)), diff.name)
      assert.lengthOf(view.result!.gates, of.gate.size)
    }
  }

  const items = (of: Records, kind: 'source' | 'gate') => [...contentsByPlace(of).values()].flat().filter((item) => item.kind === kind)
  const rearranged: ((of: Records) => Diff)[] = [
    (of) => doubleItems(of, [items(of, 'gate')[3]!, items(of, 'source')[2]!], newKey).diff,
    (of) => removeRecords(of, [{ kind: 'gate', key: items(of, 'gate')[1]!.row.key }]),
    (of) => moveItem(of, items(of, 'gate')[2]!, { place: inOrder(of, 'place')[5]!.key, after: null }),
    (of) => setFields(of, 'source', items(of, 'source')[7]!.row.key, { count: 9 }, 'a count'),
    (of) => removeRecords(of, items(of, 'source').slice(4, 6).map(({ kind, row }) => ({ kind, key: row.key }))),
    (of) => doubleItems(of, [items(of, 'gate')[0]!], newKey).diff,
  ]
  const newKey = newKeys()

  it('keeps up with rows that come, go and move, and tells of no gate that is gone', async () => {
    await followAll(records, straight, rearranged)
    await followAll(records, profileKey('usual'), rearranged)
  })

  it('keeps up with them where walks are drawn by two threads, which have to mean the same gates', async () => {
    await followAll(samplePurse({ places: 12, sources: 60, gates: 30, seed: 2 }), profileKey('usual'), rearranged)
  })

  it('finds what a whole check finds after rows have come and gone', async () => {
    await worker.stepBack()
    await worker.findings(0)
    let of = records
    for (const step of rearranged) {
      const diff = step(of)
      of = apply(of, diff)
      await worker.edit(diff)
    }
    assert.deepEqual(await worker.findings(0), checkWhole(of, { lockouts: false, fixes: 0 }).result.findings)
  })

  it('gives up what was asked before something newer', async () => {
    const answers = await Promise.all([worker.check(1, null, route, profileKey('usual'), none), worker.check(2, null, route, straight, none)])
    assert.isNull(answers[0])
    assert.equal(answers[1]!.update.result!.profile, 'straight')
  })

  it('has a half of the walks drawn beside, and comes to what one thread comes to', async () => {
    const shares: number[] = []
    const purse = samplePurse({ places: 14, sources: 90, gates: 40, seed: 2 })
    await worker.load(plainRecords(purse))
    const { update } = (await worker.check(1, null, route, profileKey('usual'), proxy((share: number) => shares.push(share))))!
    const { result } = updated(null, update)
    assert.isFalse(result!.gates.every(({ exact }) => exact))
    assert.deepEqual(result, resultOf(purse, profileKey('usual')))
    assert.isTrue(shares.every((share) => share >= 0 && share <= 1))
  })

  it('has a first look with few walks where some have to be drawn, and says that it is rough', async () => {
    const purse = samplePurse({ places: 14, sources: 90, gates: 40, seed: 2 })
    await worker.load(plainRecords(purse))
    const usual = profileKey('usual')
    const look = (await worker.check(1, null, route, usual, none, 'rough'))!
    assert.equal(look.look, 'rough')
    const rough = updated(null, look.update)
    const all = (await worker.check(1, look.number, route, usual, none))!
    assert.deepEqual([all.look, all.isWhole], ['settled', false])
    const { result } = updated(rough, all.update)
    assert.deepEqual(result, resultOf(purse, usual))
    const width = ({ interval }: { interval: readonly [number, number] | null }) => (interval ? interval[1] - interval[0] : 0)
    const drawn = result!.gates.filter(({ exact }) => !exact)
    for (const gate of drawn) assert.isBelow(width(gate), width(byId(rough.result).get(gate.gate)!))
    assert.deepEqual([(await worker.check(2, all.number, route, usual, none, 'rough'))!.look, drawn.length > 0], ['settled', true])
  })

  it('says at first what is exact, and keeps it', async () => {
    const first = (await worker.check(1, null, route, profileKey('usual'), none, 'rough'))!
    assert.equal(first.look, 'settled')
    const view = updated(null, first.update)
    assert.deepEqual(view.result, resultOf(records, profileKey('usual')))
    const again = (await worker.check(2, first.number, route, profileKey('usual'), none))!
    assert.strictEqual(updated(view, again.update).result!.gates, view.result!.gates)
  })

  it('looks first at what is in view after an edit, where much comes after it', async () => {
    const long = recordsOf(samplePlan({ places: 30, sources: 900, gates: 90, seed: 3 }))
    await worker.load(plainRecords(long))
    const first = (await worker.check(1, null, route, straight, none, 'near', 3))!
    assert.equal(first.look, 'settled')
    const before = updated(null, first.update)
    const source = inOrder(long, 'source').find(({ place }) => place === inOrder(long, 'place')[1]!.key)!
    const more = setFields(long, 'source', source.key, { count: source.count + 4 }, 'more')
    await worker.edit(more)
    const near = (await worker.check(2, first.number, route, straight, none, 'near', 3))!
    assert.deepEqual([near.look, near.isWhole], ['near', false])
    const [view, after] = [updated(before, near.update), resultOf(apply(long, more), straight)]
    assert.deepEqual(view.result!.stops.slice(0, 4), after.stops.slice(0, 4))
    assert.deepEqual(view.result!.stops.slice(4), before.result!.stops.slice(4))
    const all = (await worker.check(2, near.number, route, straight, none, 'rough', 3))!
    assert.deepEqual([all.look, all.isWhole], ['settled', false])
    assert.deepEqual(updated(view, all.update).result, after)
    // Near the end the whole is there as soon; so it is where one gate alone has changed.
    await worker.edit(setFields(apply(long, more), 'source', source.key, { count: source.count }, 'less'))
    assert.equal((await worker.check(3, all.number, route, straight, none, 'near', 28))!.look, 'settled')
    await worker.edit(setFields(long, 'gate', inOrder(long, 'gate')[0]!.key, { requires: 'level >= 99' }, 'raise'))
    assert.equal((await worker.check(4, null, route, straight, none, 'near', 3))!.look, 'settled')
  })

  it('tells which verdicts a change would turn, and changes nothing', async () => {
    await worker.check(1, null, route, straight, none)
    const [before, after] = [resultOf(records, straight), resultOf(apply(records, raised(30)), straight)]
    const turns = (await worker.preview(1, raised(30), route, straight))!
    assert.deepEqual(turns.map(({ gate, before: was, after: now }) => ({ gate, before: was, after: now })), before.gates.flatMap(({ gate, verdict }, i) => (after.gates[i]!.verdict === verdict ? [] : [{ gate, before: verdict, after: after.gates[i]!.verdict }])))
    assert.isNotEmpty(turns)
    assert.deepEqual(updated(null, (await worker.check(2, null, route, straight, none))!.update).result, before)
  })

  it('goes on from what it has looked at ahead when that change is made, and from nothing of it when another one is', async () => {
    const usual = profileKey('usual')
    const { key } = inOrder(records, 'source').find(({ requires }) => requires === '')!
    const counted = (of: Records, count: number) => setFields(of, 'source', key, { count }, 'count')
    let of = records
    let token = 0
    /** Looks ahead at one change, and makes another. */
    const lookAndMake = async (looked: Diff, made: Diff) => {
      for (const profile of [straight, usual]) await worker.check(++token, null, route, profile, none)
      const turns = await worker.preview(token, looked, route, usual)
      assert.deepEqual(turns, turnsBetween(resultOf(of, usual), resultOf(apply(of, looked), usual), apply(of, looked)))
      of = apply(of, made)
      await worker.edit(made)
      // Also for whom it was not looked at.
      for (const profile of [usual, straight]) assert.deepEqual(updated(null, (await worker.check(++token, null, route, profile, none))!.update).result, resultOf(of, profile))
    }
    await lookAndMake(raised(30), raised(30))
    await lookAndMake(counted(of, 40), counted(of, 40))
    await lookAndMake(counted(of, 90), counted(of, 7))
    const doubled = doubleItems(of, [{ kind: 'source', row: of.source.get(key)! }], newKeys()).diff
    await lookAndMake(doubled, doubled)
    await lookAndMake(removeRecords(of, [{ kind: 'source', key }]), counted(of, 2))
  })

  it('finds what a whole check finds, and hands on the verdicts of all routes and kinds of player while they stand', async () => {
    const handed = async () => {
      const { port1, port2 } = new MessageChannel()
      const plan = new Promise<HandedPlan>((done) => (port1.onmessage = ({ data }: MessageEvent<HandedPlan>) => done(data)))
      await worker.hand(transfer(port2, [port2]))
      return plan.finally(() => port1.close())
    }
    await worker.stepBack()
    assert.isNull((await handed()).verdicts)
    const findings = (await worker.findings(0))!
    const { result } = checkWhole(records, { lockouts: false })
    const name = ({ id, item, says }: (typeof findings)[number]) => `${id} ${item.kind} ${item.id}: ${says}`
    assert.sameMembers(findings.map(name), result.findings!.map(name))
    assert.deepEqual(await handed(), { records: plainRecords(records), verdicts: verdictsAlone(result.routes) })
    await worker.edit(raised(9))
    assert.isNull((await handed()).verdicts)
  })

  it('shows every kind of player on a route, and explains a gate', async () => {
    const views = (await worker.everyone(0, route))!
    assert.deepEqual(views.map(({ key }) => key), inOrder(records, 'profile').map(({ key }) => key))
    const { game } = compile(records)
    const g = game.gates.findIndex(({ requires }) => requires.comparisons.length > 0)
    const explained = await worker.explain(route, straight, game.gates[g]!.key, 10)
    assert.deepEqual(explained, readable(explainGate(game, game.routes[0]!, game.profiles.find(({ key }) => key === straight)!, g), 10))
    assert.isNull(await worker.explain(route, straight, 'no such gate', 10))
  })

  it('leaves a sum for the verdicts of a plan that has changed meanwhile', async () => {
    const long = recordsOf(samplePlan({ places: 300, sources: 12_000, gates: 600, seed: 5 }))
    await worker.load(plainRecords(long))
    const last = inOrder(long, 'gate').filter(({ place }) => place !== null).at(-1)!
    const row = inOrder(long, 'source')[0]!
    const asked = worker.explain(inOrder(long, 'route')[0]!.key, inOrder(long, 'profile')[0]!.key, last.key, 10)
    await worker.edit(setFields(long, 'source', row.key, { count: row.count + 1 } as never, 'more'))
    assert.isNull(await asked)
  })

  it('tells of the gate that is looked at what would open it, the quickest first, and no more than are read at a glance', async () => {
    const places = Array.from({ length: 130 }, (_, i) => ({ id: `p${i}`, name: `Depot ${i}`, kind: 'area', contents: [{ source: { id: `s${i}`, name: `Round ${i}`, kind: 'quest', role: 'side', minutes: 200 - i, yields: [{ tally: 'stamps', min: 1, max: 1 }] } }] }))
    const gate = { gate: { id: 'g', name: 'Window', kind: 'door', requires: 'stamps >= 1' } }
    const post = smallPlan({ start: 'p0', places: [...places.slice(0, -1), { ...places.at(-1)!, contents: [...places.at(-1)!.contents, gate] }] as never, routes: [{ id: 'line', name: 'Line', stops: places.map(({ id }) => id) }] as never })
    await worker.load(plainRecords(post))
    const keyOf = (kind: 'route' | 'profile' | 'gate') => inOrder(post, kind)[0]!.key
    const explained = async () => (await worker.explain(keyOf('route'), keyOf('profile'), keyOf('gate'), 10))!.debt.map(({ source }) => source)
    // Of what it is looked for depends on the verdict: it has to be known.
    assert.isEmpty(await explained())
    const { update } = (await worker.check(1, null, keyOf('route'), keyOf('profile'), none))!
    const { debt, verdict } = updated(null, update).result!.gates[0]!
    assert.deepEqual([verdict, debt], ['short', []])
    assert.deepEqual(await explained(), ['s129', 's128', 's127', 's126'])
  })

  it('tells of a gate what it tells in full, whatever came and went before', async () => {
    const usual = profileKey('usual')
    let of = records
    await worker.check(1, null, route, usual, none)
    const gate = items(of, 'gate')[9]!.row
    for (const diff of [removeRecords(of, [{ kind: 'gate', key: gate.key }]), raised(40)]) {
      of = apply(of, diff)
      await worker.edit(diff)
    }
    const back = diffOf(of, apply(records, raised(40)), 'it is put back')
    of = apply(of, back)
    await worker.edit(back)
    await worker.check(2, null, route, usual, none)
    const whole = checkWhole(of, { lockouts: false, fixes: 0, profile: 'usual' }).result.routes[0]!.profiles[0]!
    for (const { row } of items(of, 'gate')) {
      const { debt, from } = whole.gates.find((one) => one.gate === row.id)!
      const explained = (await worker.explain(route, usual, row.key, Infinity))!
      assert.deepEqual([explained.debt, explained.from], [debt.slice(0, 4), from], row.id)
    }
  })

  it('rests behind while hands are busy', async () => {
    await worker.stepBack()
    await worker.hush(true)
    let isDone = false
    const found = worker.findings(0).then((whole) => {
      isDone = true
      return whole
    })
    // What is asked for later and needs no rest is answered first.
    await worker.explain(route, straight, inOrder(records, 'gate')[0]!.key, 10)
    assert.isFalse(isDone)
    await worker.hush(false)
    assert.isNotEmpty(await found)
  })

  it('says of a plan without a route what is wrong with it, and no more', async () => {
    await worker.load(plainRecords({ ...records, route: new Map() }))
    const { update } = (await worker.check(1, null, route, straight, none))!
    assert.deepEqual([update.result, update.trace], [null, null])
    assert.deepEqual(await worker.everyone(1, route), [])
  })
})
