import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../../change/diff.ts'
import { setFields } from '../../change/edits.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recompile } from '../../rules/recompile.ts'
import { samplePlan } from '../../sample/sample-plan.ts'
import { anySample, recordsOf, samplePurse, smallPlan } from '../../testing/plans.ts'
import { rounded } from '../../testing/rounded.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { finished } from '../finished.ts'
import { keptCheckInSteps, type CheckBefore } from './kept-check.ts'
import { checkRoute, defaultRouteOptions } from './route-check.ts'
import { isTrouble } from '../result.ts'
import { traceRoute } from './trace.ts'

const options = { ...defaultRouteOptions, walks: 60, effort: 0.1 }

/** What is typed into one field of a source or gate, some of it wrong. */
const anyEdit = fc.record({
  kind: fc.constantFrom('source' as const, 'gate' as const),
  which: fc.nat(1000),
  fields: fc.record({ source: fc.constantFrom(
    { count: 7 }, { role: 'side' }, { role: 'main' }, { requires: 'level >= 3' }, { requires: 'stamps >= 4' }, { requires: 'open(gate_1)' }, { requires: 'not open(gate_2) or taken(source_3) >= 1' }, { requires: 'nothing_known >= 1' }, { requires: '' }, { respawns: true }, { takes: [{ tally: 'stamps', amount: 1 }] },
    { yields: [{ tally: 'stamps', min: 1, max: 4 }] }, { yields: [{ tally: 'renown', min: 40, max: 40 }] }, { yields: [] }, { minutes: 9 }, { name: 'Another name' }, { caps: [{ character: 'all', level: 3 }] },
  ), gate: fc.constantFrom(
    { requires: 'level >= 4' }, { requires: 'level >= 2 and stamps >= 2' }, { requires: 'stamps >= 9' }, { requires: 'stamps < 2' }, { requires: 'open(gate_2)' }, { requires: 'stamps >=' }, { requires: '' }, { costs: [{ tally: 'stamps', amount: 3 }] }, { costs: [] },
    { role: 'side' }, { due: 'meeting' }, { due: 'route' }, { yields: [{ tally: 'stamps', min: 0, max: 2 }] }, { minutes: 4 }, { lockedText: 'Come back with {need}.' },
  ) }),
})

function diffOfEdit(records: Records, { kind, which, fields }: typeof anyEdit extends fc.Arbitrary<infer E> ? E : never) {
  const keys = [...records[kind].keys()]
  return keys.length ? setFields(records, kind, keys[which % keys.length]!, fields[kind] as never, 'an edit') : null
}

const hasRange = (part: unknown): part is { min: number; max: number } => typeof part === 'object' && part !== null && 'min' in part && 'max' in part

describe('a check that is kept up with edits', () => {
  type Edit = typeof anyEdit extends fc.Arbitrary<infer E> ? E : never

  function followAll(sample: Records, edits: readonly Edit[]): void {
    let records = sample
    let compiled = compile(records)
    const route = 0
    const kept = new Map(compiled.game.profiles.map((profile, p) => [p, finished(keptCheckInSteps(compiled.game, compiled.game.routes[route]!, profile, options, null))]))
    for (const edit of edits) {
      const diff = diffOfEdit(records, edit)
      if (!diff?.changes.length) continue
      records = apply(records, diff)
      const again = recompile(compiled, records, diff.changes)
      const whole = compile(records)
      compiled = again?.compiled ?? whole
      assert.deepEqual(compiled.issues, whole.issues)
      assert.equal(JSON.stringify(compiled.game), JSON.stringify(whole.game))
      for (const [p, before] of kept) {
        const { game } = compiled
        const since: CheckBefore | null = again && { kept: before, touched: again.touched }
        const now = finished(keptCheckInSteps(game, game.routes[route]!, game.profiles[p]!, options, since))
        kept.set(p, now)
        assert.deepEqual(rounded(now.result), rounded(checkRoute(whole.game, whole.game.routes[route]!, whole.game.profiles[p]!, options)))
        assert.deepEqual(now.trace, traceRoute(whole.game, whole.game.routes[route]!, whole.game.profiles[p]!))
      }
    }
  }
  const staysTrue = fc.property(fc.oneof(anySample, anyWorld), fc.array(anyEdit, { minLength: 1, maxLength: 4 }), followAll)

  it('comes to what a new check of the changed plan comes to', () => {
    fc.assert(staysTrue, { numRuns: runs(25) })
  })

  it('draws anew what was drawn with few walks, and comes to what a check with many comes to', () => {
    let drawn = 0
    const purse = (seed: number) => samplePurse({ places: 14, sources: 90, gates: 40, seed })
    // Of what all of few walks showed, and all of many show, the interval is another.
    const alike: [Records, Edit] = [purse(2), { kind: 'source', which: 0, fields: { source: { takes: [{ tally: 'stamps', amount: 1 }] }, gate: { requires: 'level >= 4' } } }]
    fc.assert(fc.property(fc.nat(1000).map(purse), anyEdit, (sample, edit) => {
      const { game } = compile(sample)
      for (const profile of game.profiles) {
        const route = game.routes[0]!
        const look = finished(keptCheckInSteps(game, route, profile, { ...options, walks: 10 }, null))
        const all = finished(keptCheckInSteps(game, route, profile, options, { kept: look, touched: { sources: new Set(), gates: new Set() } }))
        assert.deepEqual(all.result, checkRoute(game, route, profile, options))
        if (look.check.isDrawn) drawn++
        // An edit that comes before all walks are drawn goes on from the look.
        const diff = diffOfEdit(sample, edit)
        const again = diff?.changes.length ? recompile(compile(sample), apply(sample, diff), diff.changes) : null
        const next = diff?.changes.length ? compile(apply(sample, diff)).game : null
        if (!again || !next) continue
        const now = finished(keptCheckInSteps(again.compiled.game, route, profile, { ...options, walks: 10 }, { kept: look, touched: again.touched }))
        const settled = finished(keptCheckInSteps(again.compiled.game, route, profile, options, { kept: now, touched: { sources: new Set(), gates: new Set() } }))
        assert.deepEqual(settled.result, checkRoute(next, next.routes[0]!, next.profiles.find(({ id }) => id === profile.id)!, options))
      }
    }), { numRuns: runs(4), examples: [alike] })
    assert.isAbove(drawn, 3)
  })

  it('draws anew together what was drawn together, though an edit bears on one part alone', () => {
    fc.assert(staysTrue, { seed: 818037477, numRuns: 8 })
  })

  it('tells what comes out as it was by the very same results, and leaves those before as they were', () => {
    let [same, other] = [0, 0]
    fc.assert(fc.property(fc.oneof(anySample, anyWorld), fc.nat(1000), (records, which) => {
      const compiled = compile(records)
      const sources = [...records.source.values()]
      const source = sources[which % sources.length]
      if (!source) return
      const diff = setFields(records, 'source', source.key, { count: source.count + 1 } as never, 'one more')
      const again = recompile(compiled, apply(records, diff), diff.changes)!
      const hasChance = [compiled.game.sources, compiled.game.gates].flat().some(({ yields }) => yields.some(({ min, max }) => min !== max))
      for (const profile of compiled.game.profiles) {
        const route = compiled.game.routes[0]!
        const before = finished(keptCheckInSteps(compiled.game, route, profile, options, null))
        const told = structuredClone(before.result)
        const now = finished(keptCheckInSteps(again.compiled.game, route, profile, options, { kept: before, touched: again.touched }))
        assert.deepEqual(before.result, told)
        if (now.check.isDrawn) continue
        now.result.gates.forEach((gate, g) => {
          // What further units would do is worked out anew.
          if (isTrouble(gate.verdict)) return
          const was = before.result.gates[g]!
          if (gate === was) same++
          else other++
          if (profile.main === 1 && profile.side === 0 && !hasChance) assert.equal(gate === was, JSON.stringify(gate) === JSON.stringify(was))
        })
      }
    }), { numRuns: runs(15) })
    assert.isAbove(same, 100)
    assert.isAbove(other, 20)
  })

  it('notes what comes later of a gate that was met before the edit, and leaves the check before as it was', () => {
    const places = Array.from({ length: 12 }, (_, i) => `place_${i}`)
    const lamp = (i: number) => ({ source: { id: `lamp_${i}`, name: 'Lamp', kind: 'event', count: 1, yields: [{ tally: 'stamps', min: 8, max: 8 }] } })
    const shelf = { gate: { id: 'shelf', name: 'Shelf', kind: 'shop_item', role: 'side', requires: 'stamps >= 100', due: 'stop' } }
    let records = recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'place_0', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
      places: places.map((id, i) => ({ id, name: id, kind: 'area', contents: i === 0 ? [shelf, lamp(i)] : [lamp(i)] })),
      passages: places.slice(1).map((to, i) => ({ id: `way_${i}`, from: places[i], to })),
      routes: [{ id: 'line', name: 'Line', stops: places }],
      profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    })
    let compiled = compile(records)
    const [route, profile] = [compiled.game.routes[0]!, compiled.game.profiles[0]!]
    let kept = finished(keptCheckInSteps(compiled.game, route, profile, options, null))
    const lampAt = [...records.source.values()].find(({ id }) => id === 'lamp_9')!.key
    const readyWith = (count: number) => {
      const diff = setFields(records, 'source', lampAt, { count } as never, 'lamps')
      records = apply(records, diff)
      const again = recompile(compiled, records, diff.changes)!
      compiled = again.compiled
      const [before, told] = [kept, structuredClone(kept.result)]
      kept = finished(keptCheckInSteps(compiled.game, route, profile, options, { kept, touched: again.touched }))
      assert.deepEqual(before.result, told)
      return kept.result.gates[0]!.ready
    }
    assert.isNull(kept.result.gates[0]!.ready)
    assert.deepEqual([2, 4, 1, 3].map(readyWith), [11, 9, null, 10])
  })

  it('says what is wrong with a gate, though it comes to the same', () => {
    const cairn = { gate: { id: 'cairn', name: 'Cairn', kind: 'ability' } }
    const records = recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
      places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [] }, { id: 'ridge', name: 'Ridge', kind: 'area', contents: [cairn] }],
      passages: [{ id: 'path', from: 'depot', to: 'ridge' }], routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
      profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    })
    const compiled = compile(records)
    const [route, profile] = [compiled.game.routes[0]!, compiled.game.profiles[0]!]
    const withRhythm = { ...options, rhythm: true }
    const kept = finished(keptCheckInSteps(compiled.game, route, profile, withRhythm, null))
    const gate = [...records.gate.values()][0]!
    const edited = (fields: object) => {
      const diff = setFields(records, 'gate', gate.key, fields as never, 'an edit')
      const again = recompile(compiled, apply(records, diff), diff.changes)
      return again && finished(keptCheckInSteps(again.compiled.game, route, profile, withRhythm, { kept, touched: again.touched })).result.gates[0]
    }
    assert.equal(kept.result.gates[0]!.verdict, 'off_route')
    assert.isString(edited({ requires: '(' })!.error)
    const renamed = edited({ id: 'beacon' })
    assert.equal(renamed ? renamed.gate : 'beacon', 'beacon')
  })

  it('works out alone what bears on nothing else, and comes to the same', () => {
    let alone = 0
    const amount = /([<>=!]=?) (\d+)/
    fc.assert(fc.property(fc.oneof(anySample, anyWorld), fc.array(fc.record({ which: fc.nat(1000), by: fc.integer({ min: -2, max: 3 }), due: fc.constantFrom('stop', 'route', 'meeting') }), { minLength: 1, maxLength: 4 }), (sample, nudges) => {
      let records = sample
      let compiled = compile(records)
      const route = compiled.game.routes[0]!
      const profiles = [...compiled.game.profiles, { ...compiled.game.profiles[0]!, main: 0.7, side: 0 }]
      const kept = profiles.map((profile) => finished(keptCheckInSteps(compiled.game, route, profile, options, null)))
      for (const { which, by, due } of nudges) {
        const gates = [...records.gate.values()].filter(({ requires }) => amount.test(requires))
        const gate = gates[which % gates.length]
        if (!gate) continue
        const diff = setFields(records, 'gate', gate.key, { requires: gate.requires.replace(amount, (_, op: string, n: string) => `${op} ${Math.max(0, Number(n) + by)}`), due } as never, 'a nudge')
        if (!diff.changes.length) continue
        records = apply(records, diff)
        const again = recompile(compiled, records, diff.changes)
        if (!again) return
        compiled = again.compiled
        profiles.forEach((profile, p) => {
          const before = kept[p]!
          const now = finished(keptCheckInSteps(compiled.game, route, profile, options, { kept: before, touched: again.touched }))
          if (now.result.stops === before.result.stops) alone++
          kept[p] = now
          assert.deepEqual(rounded(now.result), rounded(checkRoute(compiled.game, route, profile, options)))
          assert.deepEqual(now.trace, traceRoute(compiled.game, route, profile))
        })
      }
    }), { numRuns: runs(12) })
    assert.isAbove(alone, 10)
  })

  it('asks a live gate as it is now, whoever comes to ask after it', () => {
    const gate = { requires: 'stamps < 2' }
    const booth = recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'S', kind: 'currency' }, { id: 'seals', name: 'S', kind: 'collectible' }],
      places: [{ id: 'depot', name: 'D', kind: 'hub', contents: [
        { source: { id: 'till', name: 'T', kind: 'event', count: 3, yields: [{ tally: 'stamps', min: 1, max: 1 }] } }, { gate: { id: 'gate_1', name: 'B', kind: 'door', stays: 'live', requires: 'stamps >= 9' } },
        { source: { id: 'box', name: 'X', kind: 'pickup', yields: [{ tally: 'seals', min: 1, max: 1 }] } }, { gate: { id: 'gate_2', name: 'G', kind: 'door', requires: 'seals >= 1' } },
      ] }],
      routes: [{ id: 'line', name: 'L', stops: ['depot'] }], profiles: [{ id: 'straight', name: 'S', main: 1, side: 0, buys: 'nothing' }],
    })
    // The gate is made anew alone, for nobody asks after it; then somebody does.
    followAll(booth, [{ kind: 'gate', which: 0, fields: { source: { requires: '' }, gate } }, { kind: 'source', which: 1, fields: { source: { requires: 'open(gate_1)' }, gate } }] as Edit[])
  })

  it('knows sums that are none any more, and those that have become one', () => {
    const first = { kind: 'source' as const, which: 0 }
    const gate = { requires: 'level >= 4' }
    const sample = recordsOf(samplePlan({ places: 4, sources: 12, gates: 16, seed: 3 }))
    followAll(sample, [{ ...first, fields: { source: { requires: 'nothing_known >= 1' }, gate } }, { ...first, fields: { source: { count: 7 }, gate } }, { ...first, fields: { source: { requires: '' }, gate } }] as Edit[])
  })

  it('follows what levels give of a tally, though nobody asks after the levels themselves', () => {
    const round = (id: string, yields: object[]) => ({ source: { id, name: id, kind: 'event', count: 30, yields } })
    const [renown, stamps] = [{ tally: 'renown', min: 5, max: 5 }, { tally: 'stamps', min: 1, max: 1 }]
    const kennel = recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'stamps', name: 'S', kind: 'currency' }],
      curves: [{ id: 'rank', name: 'R', firstLevel: 1, maxLevel: 40, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 0 } }],
      characters: [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank', rewards: [{ level: 'every', yields: [{ tally: 'stamps', min: 2, max: 2 }] }] }],
      places: [{ id: 'depot', name: 'D', kind: 'hub', contents: [round('both', [renown, stamps]), round('fame', [renown]), round('post', [stamps])] }],
      routes: [{ id: 'line', name: 'L', stops: ['depot'] }], profiles: [{ id: 'usual', name: 'U', main: 0.7, side: 0, buys: 'nothing' }],
    })
    followAll(kennel, [{ kind: 'source', which: 2, fields: { source: { count: 7 }, gate: { requires: '' } } }] as Edit[])
  })

  const post = smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [
    { source: { id: 'round', name: 'Round', kind: 'quest', count: 3, yields: [{ tally: 'stamps', min: 1, max: 3 }] } },
    { gate: { id: 'glass', name: 'Glass', kind: 'shop_item', costs: [{ tally: 'stamps', amount: 3 }] } },
    { source: { id: 'drifts', name: 'Drifts', kind: 'event', count: 2, yields: [{ tally: 'renown', min: 10, max: 10 }] } },
    { gate: { id: 'fame', name: 'Fame', kind: 'ability', requires: 'renown >= 20' } },
  ] }] })
  const changed = (kind: 'source' | 'gate', id: string, fields: object) => {
    const key = [...post[kind].values()].find((row) => row.id === id)!.key
    return setFields(post, kind, key, fields as never, 'an edit')
  }

  it('works nothing out again for a gate that the edit does not bear on', () => {
    const compiled = compile(post)
    const [route, profile] = [compiled.game.routes[0]!, compiled.game.profiles[0]!]
    const before = finished(keptCheckInSteps(compiled.game, route, profile, options, null))
    const diff = changed('source', 'drifts', { count: 1 })
    const { compiled: after, touched } = recompile(compiled, apply(post, diff), diff.changes)!
    const now = finished(keptCheckInSteps(after.game, route, profile, options, { kept: before, touched }))
    assert.strictEqual(now.result.gates[0], before.result.gates[0])
    assert.deepEqual([before.result.gates[1]!.verdict, now.result.gates[1]!.verdict], ['clear', 'sealed'])
  })

  it('goes on from where an edit can bear on the walk: what was left and due before that stands as it stood', () => {
    // Where no chance falls on anything: what it falls on is worked out again from the beginning.
    const plan = samplePlan({ places: 24, sources: 72, gates: 40, seed: 5 })
    const sample = recordsOf(JSON.parse(JSON.stringify(plan), (_, part: unknown) => (hasRange(part) ? { ...part, max: part.min } : part)))
    const compiled = compile(sample)
    const { game, game: { routes: [route] } } = compiled
    const places = new Map([...sample.place.values()].map(({ id, key }) => [id, key]))
    const sourceAt = (stop: number) => [...sample.source.values()].find(({ place, role }) => role === 'main' && place === places.get(game.places[route!.stops[stop]!]!.id))!
    const straight = game.profiles[0]!
    const before = finished(keptCheckInSteps(game, route!, straight, options, null))
    // Milestones stand two stops apart.
    for (const [stop, from] of [[23, 22], [12, 12], [11, 10], [1, 0]] as const) {
      const { key, count } = sourceAt(stop)
      const diff = setFields(sample, 'source', key, { count: count + 2 } as never, 'a count')
      const { compiled: after, touched } = recompile(compiled, apply(sample, diff), diff.changes)!
      const now = finished(keptCheckInSteps(after.game, route!, straight, options, { kept: before, touched }))
      const isSame = now.result.stops.map((one, s) => one === before.result.stops[s])
      assert.deepEqual(isSame.slice(0, from), Array.from({ length: from }, () => true), `an edit at stop ${stop}`)
      assert.notDeepEqual(now.result.stops[stop], before.result.stops[stop])
      assert.deepEqual(now.result, checkRoute(after.game, route!, straight, options))
      assert.deepEqual(now.trace, traceRoute(after.game, route!, straight))
    }
  })

  it('leaves what touches more than one item to be compiled whole', () => {
    const compiled = compile(post)
    const attempt = (diff: ReturnType<typeof changed>) => recompile(compiled, apply(post, diff), diff.changes)
    assert.isNotNull(attempt(changed('gate', 'fame', { requires: 'renown >= 5' })))
    assert.isNull(attempt(changed('gate', 'fame', { id: 'renown_of_all' })))
    assert.isNull(attempt(changed('gate', 'fame', { stays: 'live' })))
    assert.isNull(attempt(setFields(post, 'tally', [...post.tally.keys()][1]!, { start: 3 } as never, 'an edit')))
  })
})
