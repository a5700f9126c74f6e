import { assert } from 'chai'
import fc from 'fast-check'
import { apply, type Diff } from '../../change/diff.ts'
import { setFields } from '../../change/edits.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recompile } from '../../rules/recompile.ts'
import { smallPlan } from '../../testing/plans.ts'
import { anyAsk, anyEdit, diffOf, roadOf, type Ask, type Edit } from '../../testing/roads.ts'
import { rounded } from '../../testing/rounded.ts'
import { runs } from '../../testing/runs.ts'
import { finished } from '../finished.ts'
import { keptCheckInSteps } from './kept-check.ts'
import { checkRoute, defaultRouteOptions } from './route-check.ts'

/** Keeps a check up with edits, and holds it against a new one after each. */
function follow(sample: Records, profile: number, diffs: Iterable<(records: Records) => Diff>): void {
  let records = sample
  let compiled = compile(records)
  let kept = finished(keptCheckInSteps(compiled.game, compiled.game.routes[0]!, compiled.game.profiles[profile]!, defaultRouteOptions, null))
  for (const edit of diffs) {
    const diff = edit(records)
    if (!diff.changes.length) continue
    records = apply(records, diff)
    const again = recompile(compiled, records, diff.changes)!
    compiled = again.compiled
    const { game } = compiled
    const whole = compile(records).game
    kept = finished(keptCheckInSteps(game, game.routes[0]!, game.profiles[profile]!, defaultRouteOptions, { kept, touched: again.touched }))
    assert.deepEqual(rounded(kept.result), rounded(checkRoute(whole, whole.routes[0]!, whole.profiles[profile]!)))
  }
}

describe('a check that is kept up for who leaves units to chance', () => {
  it('comes to what a new check comes to, from wherever it goes on', () => {
    fc.assert(fc.property(fc.nat(1_000_000), fc.array(anyAsk, { minLength: 3, maxLength: 8 }), fc.array(anyEdit, { minLength: 2, maxLength: 4 }), (seed, asks, edits) => {
      // What one edit walks again the next of the same kind goes on from.
      const all = edits.flatMap((one) => [one, { ...one, which: one.which + 1 }, { ...one, number: one.number + 1 }])
      follow(roadOf(seed, asks), 1, all.map((edit) => (records: Records) => diffOf(records, edit)))
    }), { numRuns: runs(12) })
  })

  it('looks for further units anew where a gate is due later for others than for the middle, and an edit lies between', () => {
    const ask = (of: Ask['of'], share: number): Ask => ({ of, share, fields: {} })
    const type = (of: Edit['of'], which: number, number: number) => (records: Records) => diffOf(records, { of, which, number })
    const edits = [type('threshold', 26, 1), type('threshold', 27, 1), type('threshold', 26, 2), type('count', 48, 2), type('count', 49, 2), type('count', 48, 3)]
    follow(roadOf(0, [ask('renown', 1.015909090909091), ask('stamps', 0.3), ask('stamps', 0.3), ask('stamps', 0.3)]), 1, edits)
  })

  it('begins anew where amounts are told apart more finely than before', () => {
    const ids = Array.from({ length: 12 }, (_, p) => `stop_${p}`)
    const places = ids.map((id, p) => ({
      id, name: id, kind: 'area', contents: [
        { source: { id: `parcel_${p}`, name: 'Parcel', kind: 'pickup', role: 'side', count: 2, yields: [{ tally: 'stamps', min: 2, max: 2 }] } },
        { gate: { id: `shed_${p}`, name: 'Shed', kind: 'door', requires: `stamps >= ${2 * p + 2}` } },
      ],
    }))
    const plan = smallPlan({ places, start: ids[0], routes: [{ id: 'line', name: 'Line', stops: ids }], profiles: [{ id: 'half', name: 'Half', main: 1, side: 0.5, buys: 'nothing' }] })
    const type = (p: number, fields: object) => (records: Records) => setFields(records, 'source', [...records.source.keys()][p]!, fields, 'an edit')
    const giving = (amount: number) => ({ yields: [{ tally: 'stamps', min: amount, max: amount }] })
    follow(plan, 0, [type(10, { count: 3 }), type(9, { count: 3 }), type(11, giving(1.5)), type(11, giving(2)), type(8, { count: 1 })])
  })

  it('goes on from no walk before one in which it was left to drawn walks what somebody can pay', () => {
    const found = (id: string, tally: string, count: number, max: number, more: object = { role: 'side' }) => ({ source: { id, name: id, kind: 'pickup', count, yields: [{ tally, min: 1, max }], ...more } })
    const contents = [[found('tips', 'stamps', 40, 99), found('drifts', 'renown', 4, 1)], [], [found('round', 'stamps', 12, 1, {})], [{ gate: { id: 'coat', name: 'Coat', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount: 10 }] } }]]
    const places = contents.map((of, p) => ({ id: `stop_${p}`, name: `Stop ${p}`, kind: 'area', contents: of }))
    const plan = smallPlan({ places, start: 'stop_0', routes: [{ id: 'line', name: 'Line', stops: places.map(({ id }) => id) }], profiles: [{ id: 'half', name: 'Half', main: 1, side: 0.5, buys: 'all' }] })
    const round = [...plan.source.values()].find(({ id }) => id === 'round')!.key
    const type = (count: number) => (records: Records) => setFields(records, 'source', round, { count }, 'an edit')
    follow(plan, 0, [type(7), type(12)])
  })
})
