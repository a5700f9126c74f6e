import { assert } from 'chai'
import fc from 'fast-check'
import { apply, type Diff } from '../../change/diff.ts'
import { removeRecords, setFields } from '../../change/edits.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recompile } from '../../rules/recompile.ts'
import { recordsOf, smallPlan } from '../../testing/plans.ts'
import { anyAsk, anyEdit, diffOf, roadOf } from '../../testing/roads.ts'
import { rounded } from '../../testing/rounded.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { finished } from '../finished.ts'
import type { GateResult } from '../result.ts'
import { keptCheckInSteps, type KeptCheck } from './kept-check.ts'
import { nearLookInSteps, type NearLook } from './near-look.ts'
import { defaultRouteOptions } from './route-check.ts'
import { momentWidth, type RouteTrace } from './trace.ts'

const options = { ...defaultRouteOptions, debts: false }

interface Looks {
  before: KeptCheck
  near: NearLook | null
  now: KeptCheck
}

/** What an edit of a plan shows up to a stop, and then in all, for one kind of player; null: it is compiled whole. */
function looksAt(records: Records, profile: number, diff: Diff, until: number): Looks | null {
  const compiled = compile(records)
  const again = recompile(compiled, apply(records, diff), diff.changes)
  if (!again) return null
  const [route, player] = [compiled.game.routes[0]!, compiled.game.profiles[profile]!]
  const before = finished(keptCheckInSteps(compiled.game, route, player, options, null))
  const told = JSON.stringify([before.result, [...before.trace.items]])
  const since = { kept: before, touched: again.touched }
  const near = finished(nearLookInSteps(again.compiled.game, route, player, options, since, until))
  const now = finished(keptCheckInSteps(again.compiled.game, route, player, options, since))
  assert.equal(JSON.stringify([before.result, [...before.trace.items]]), told)
  return { before, near, now }
}

/** Those of what is told of a gate that can come after it is due, beside meeting it. */
const late = ['opened', 'ready'] as const

function isTrueUntil(until: number, { before, near, now }: Looks): void {
  const [result, trace] = [near!.result, near!.trace]
  const was = new Map(before.result.gates.map((gate) => [gate.gate, gate]))
  assert.deepEqual(result.gates.map(({ gate }) => gate), now.result.gates.map(({ gate }) => gate))
  result.gates.forEach((gate, i) => {
    const whole = now.result.gates[i]!
    if (whole.due === null || whole.due.stop > until) return assert.deepEqual(gate, was.get(gate.gate) ?? gate)
    const isThere = (stop: number | null) => stop !== null && stop <= until
    const told = (of: GateResult) => ({ ...of, met: isThere(of.met?.stop ?? null) ? of.met : null, wait: isThere(of.ready) ? of.wait : null, ...Object.fromEntries(late.map((part) => [part, isThere(of[part]) ? of[part] : null])) })
    assert.deepEqual(rounded(told(gate)), rounded(told(whole)))
  })
  assert.deepEqual(rounded(result.stops.slice(0, until + 1)), rounded(now.result.stops.slice(0, until + 1)))
  assert.deepEqual(result.stops.slice(until + 1), before.result.stops.slice(until + 1))
  isJoined(until, trace, now.trace, before.trace)
}

function isJoined(until: number, trace: RouteTrace, now: RouteTrace, before: RouteTrace): void {
  const width = momentWidth(trace)
  const items = (of: RouteTrace, stop: number) => Array.from({ length: of.itemsFrom[stop + 1]! - of.itemsFrom[stop]! }, (_, i) => {
    const at = of.itemsFrom[stop]! + i
    return [of.keys[at], ...of.items.subarray(at * width, (at + 1) * width)]
  })
  const moments = (of: RouteTrace, stop: number) => (['entered', 'left'] as const).map((part) => [...of[part].subarray(stop * width, (stop + 1) * width)])
  for (let stop = 0; stop < trace.places.length; stop++) {
    const from = stop <= until ? now : before
    assert.deepEqual([items(trace, stop), moments(trace, stop)], [items(from, stop), moments(from, stop)])
  }
  assert.lengthOf(trace.keys, trace.itemsFrom.at(-1)!)
  assert.lengthOf(trace.items, trace.keys.length * width)
}

describe('a look at the first stops after an edit', () => {
  const anyRoad = fc.tuple(fc.nat(1_000_000), fc.array(anyAsk, { minLength: 3, maxLength: 8 })).map(([seed, asks]) => roadOf(seed, asks))
  for (const [name, anyPlan] of [['roads', anyRoad], ['worlds in which all rules mix', anyWorld]] as const) {
    it(`tells up to there what the whole tells, and after it what was told before, of ${name}`, () => {
      const seen = { near: 0, none: 0 }
      fc.assert(fc.property(anyPlan, anyEdit, fc.nat(2), fc.nat(15), (records, edit, profile, until) => {
        const stops = compile(records).game.routes[0]?.stops.length ?? 0
        const diff = records.source.size && records.gate.size ? diffOf(records, edit) : null
        if (!diff?.changes.length || stops === 0) return
        const looks = looksAt(records, profile, diff, until % stops)
        if (!looks) return
        seen[looks.near ? 'near' : 'none']++
        if (looks.near && !looks.now.check.isDrawn) isTrueUntil(until % stops, looks)
      }), { numRuns: runs(40) })
      assert.isAbove(seen.near, 5)
      assert.isAbove(seen.none, 3)
    })
  }

  const found = (id: string, count: number, more: object = {}) => ({ source: { id, name: id, kind: 'pickup', count, yields: [{ tally: 'stamps', min: 2, max: 2 }], ...more } })
  const door = (id: string, requires: string, more: object = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
  const contents = [[found('parcel', 2), door('hatch', 'stamps >= 6')], [door('shed', 'stamps >= 4')], [found('crate', 2), door('barn', 'stamps >= 8', { due: 'route' })], [door('loft', 'stamps >= 9')]]
  const ids = contents.map((_, p) => `stop_${p}`)
  const plan = smallPlan({
    places: ids.map((id, p) => ({ id, name: id, kind: 'area', contents: contents[p]! })), start: ids[0],
    routes: [{ id: 'line', name: 'Line', stops: ids }], profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
  })
  const keyOf = (id: string) => [...plan.source.values(), ...plan.gate.values()].find((row) => row.id === id)!.key
  const look = (...of: Parameters<typeof looksAt>) => looksAt(...of)!
  const edited = (id: string, count: number, until: number) => look(plan, 0, setFields(plan, 'source', keyOf(id), { count }, 'an edit'), until)
  const verdicts = ({ result }: Pick<NearLook, 'result'>) => Object.fromEntries(result.gates.map(({ gate, verdict, opened }) => [gate, [verdict, opened]]))

  it('turns the verdicts up to there alone, and keeps what comes to a gate later', () => {
    const looks = edited('parcel', 3, 1)
    assert.deepEqual(verdicts(looks.before), { hatch: ['sealed', null], shed: ['clear', 1], barn: ['clear', 2], loft: ['sealed', null] })
    assert.deepEqual(verdicts(looks.near!), { hatch: ['clear', 0], shed: ['clear', 1], barn: ['clear', 2], loft: ['sealed', null] })
    assert.deepEqual(verdicts(looks.now), { hatch: ['clear', 0], shed: ['clear', 1], barn: ['clear', 2], loft: ['clear', 3] })
    // The hatch is ready later, at a stop that is not looked at.
    assert.equal(looks.before.result.gates[0]!.ready, 2)
    const fewer = edited('parcel', 1, 1)
    assert.deepEqual([fewer.near!.result.gates[0]!.ready, fewer.near!.result.gates[0]!.wait, fewer.now.result.gates[0]!.ready], [2, 2, 2])
  })

  it('is none where nothing up to there is altered', () => {
    assert.isNull(edited('crate', 5, 1).near)
    assert.isNotNull(edited('crate', 5, 2).near)
  })

  it('tells of rows that are gone no more, up to there', () => {
    const { near, now } = look(plan, 0, removeRecords(plan, [{ kind: 'gate', key: keyOf('hatch') }, { kind: 'source', key: keyOf('parcel') }]), 1)
    assert.deepEqual(verdicts(near!), { shed: ['sealed', null], barn: ['clear', 2], loft: ['sealed', null] })
    assert.notInclude(near!.trace.keys, keyOf('parcel'))
    assert.deepEqual(now.result.gates.map(({ gate }) => gate), ['shed', 'barn', 'loft'])
  })

  it('is none where something was drawn before', () => {
    const tips = { source: { id: 'tips', name: 'Tips', kind: 'pickup', role: 'side', count: 40, yields: [{ tally: 'stamps', min: 1, max: 99 }] } }
    const coat = { gate: { id: 'coat', name: 'Coat', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount: 1_000 }] } }
    const shop = recordsOf({
      format: 'tundrift-plan', version: 1, id: 'shop', name: 'The shop', start: 'shop', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
      places: [{ id: 'shop', name: 'Shop', kind: 'hub', contents: [tips, coat, { ...coat, gate: { ...coat.gate, id: 'hat', name: 'Hat' } }] }],
      routes: [{ id: 'in', name: 'In', stops: ['shop'] }], profiles: [{ id: 'half', name: 'Half', main: 1, side: 0.5, buys: 'all' }],
    })
    const [source] = [...shop.source.values()]
    const { before, near } = look(shop, 0, setFields(shop, 'source', source!.key, { count: 41 }, 'an edit'), 0)
    assert.isTrue(before.check.isDrawn)
    assert.isNull(near)
  })
})
