import { assert } from 'chai'
import fc from 'fast-check'
import { apply, diffOf, invert, type Diff } from '../../change/diff.ts'
import { doubleItems } from '../../change/double.ts'
import { addItem, moveItems, removeRecords, setFields } from '../../change/edits.ts'
import { contentsByPlace, inOrder, type ItemRow, type Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recompile } from '../../rules/recompile.ts'
import { anySample, newKeys, samplePurse, smallPlan } from '../../testing/plans.ts'
import { rounded } from '../../testing/rounded.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { finished } from '../finished.ts'
import type { ProfileResult } from '../result.ts'
import { keptCheckInSteps, type CheckBefore } from './kept-check.ts'
import { checkRoute, defaultRouteOptions } from './route-check.ts'
import { traceRoute } from './trace.ts'

const options = { ...defaultRouteOptions, walks: 60, effort: 0.1 }

const kinds = ['double', 'move', 'delete', 'guard', 'add', 'edit', 'undo'] as const
const anyStep = fc.record({ do: fc.constantFrom(...kinds), which: fc.nat(1000), where: fc.nat(1000), many: fc.integer({ min: 1, max: 3 }) })
type Step = typeof anyStep extends fc.Arbitrary<infer S> ? S : never

const itemsOf = (records: Records): ItemRow[] => [...contentsByPlace(records).values()].flat()

/** What a step does to a plan; null: nothing. `newKey`: gives keys that there are none of. */
function diffOfStep(records: Records, { do: what, which, where, many }: Step, newKey: () => string, last: Diff | null): Diff | null {
  const items = itemsOf(records)
  const [place, first] = [inOrder(records, 'place')[where % records.place.size]!.key, which % (items.length || 1)]
  const some = items.slice(first, first + many)
  const gate = some.find(({ kind }) => kind === 'gate')
  const source = some.find(({ kind }) => kind === 'source')
  if (what === 'undo') return last && invert(last)
  if (what === 'add') return addItem(records, 'gate', newKey(), { id: `new_${newKey()}`, name: 'N', kind: 'door', role: 'main', guards: null, requires: 'stamps >= 2', costs: [], stays: where % 3 ? 'open' : 'live', yields: [], caps: [], due: 'stop', lockedText: '', minutes: 0 }, { place: where % 5 ? place : null, after: null })
  if (some.length === 0) return null
  if (what === 'double') return doubleItems(records, some, newKey).diff
  if (what === 'move') return moveItems(records, some, { place: some.every(({ kind }) => kind === 'gate') && where % 5 === 0 ? null : place, after: null })
  if (what === 'delete') return removeRecords(records, some.map(({ kind, row }) => ({ kind, key: row.key })))
  if (what === 'edit') return source ? setFields(records, 'source', source.row.key, { count: 1 + (where % 9) }, 'a count') : null
  const passages = inOrder(records, 'passage')
  return gate ? setFields(records, 'gate', gate.row.key, { guards: where % 3 === 0 ? null : where % 3 === 1 || !passages.length ? { place: records.place.get(place)!.id } : { passage: passages[where % passages.length]!.id } }, 'a way') : null
}

/** Gates in an order of their own: how they are numbered makes no difference to whoever is told of them. */
const inOrderOfIds = (result: ProfileResult) => ({ ...result, gates: [...result.gates].sort((a, b) => (a.gate < b.gate ? -1 : 1)) })

describe('a check that is kept up while rows come, go and move', () => {
  /** How often a plan was not compiled whole. */
  function followAll(sample: Records, steps: readonly Step[]): number {
    const newKey = newKeys()
    let followed = 0
    let records = sample
    let compiled = compile(records)
    let last: Diff | null = null
    const kept = new Map(compiled.game.profiles.map((profile, p) => [p, finished(keptCheckInSteps(compiled.game, compiled.game.routes[0]!, profile, options, null))]))
    for (const step of steps) {
      const diff = diffOfStep(records, step, newKey, last)
      if (!diff?.changes.length) continue
      const next = apply(records, diff)
      last = diffOf(records, next, 'a step')
      records = next
      const again = recompile(compiled, records, diff.changes)
      const whole = compile(records)
      if (again && !again.compiled.isInOrder) followed++
      compiled = again?.compiled ?? whole
      assert.deepEqual(compiled.issues, whole.issues)
      const { game } = compiled
      for (const [p, before] of kept) {
        const [route, profile] = [whole.game.routes[0]!, whole.game.profiles[p]!]
        const since: CheckBefore | null = again && { kept: before, touched: again.touched }
        const now = finished(keptCheckInSteps(game, game.routes[0]!, game.profiles[p]!, options, since))
        kept.set(p, now)
        assert.deepEqual(rounded(inOrderOfIds(now.result)), rounded(inOrderOfIds(checkRoute(whole.game, route, profile, options))), JSON.stringify(step))
        assert.deepEqual(now.trace, traceRoute(whole.game, route, profile))
      }
    }
    return followed
  }

  it('comes to what a new check of the changed plan comes to', () => {
    let followed = 0
    fc.assert(fc.property(fc.oneof(anySample, anyWorld, fc.nat(1000).map((seed) => samplePurse({ places: 3, sources: 9, gates: 6, seed }))), fc.array(anyStep, { minLength: 1, maxLength: 5 }), (sample, steps) => {
      followed += followAll(sample, steps)
    }), { numRuns: runs(40) })
    assert.isAbove(followed, 20)
  })

  const step = (what: Step['do'], which: number, where: number): Step => ({ do: what, which, where, many: 1 })
  const round = (id: string, more: object = {}) => ({ source: { id, name: id, kind: 'quest', count: 2, yields: [{ tally: 'stamps', min: 2, max: 2 }], ...more } })
  const hatch = (id: string, requires: string, more: object = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
  const street = (depot: object[], flats: object[] = []) => smallPlan({
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: depot }, { id: 'flats', name: 'Flats', kind: 'area', contents: flats }],
    passages: [{ id: 'way', from: 'depot', to: 'flats' }], routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
  })

  it('counts a row that is gone no more, neither as taken nor as what could be', () => {
    assert.equal(followAll(street([round('first'), round('left', { role: 'side' }), hatch('door', 'stamps >= 7')]), [step('delete', 1, 0), step('delete', 0, 0), step('undo', 0, 0)]), 3)
  })

  it('finds each of two rows with one id where a third one is moved beside them: the plan is compiled whole', () => {
    const twins = street([round('same'), round('same', { count: 9 }), hatch('door', 'stamps >= 7')], [round('other')])
    assert.equal(followAll(twins, [step('move', 3, 0), step('move', 2, 1)]), 0)
  })

  it('compiles whole what somebody asks after, and what a text has waited for', () => {
    const asked = street([round('first'), hatch('door', 'taken(first) >= 2'), hatch('late', 'open(door)')])
    assert.equal(followAll(asked, [step('delete', 0, 0)]), 0)
    assert.equal(followAll(asked, [step('delete', 1, 0)]), 0)
    assert.equal(followAll(asked, [step('delete', 2, 0)]), 1)
    assert.equal(followAll(street([round('first'), hatch('door', 'open(new_new_1)')]), [step('add', 0, 1)]), 0)
  })

  it('knows nothing more of a gate that is taken to where the route does not come', () => {
    const records = smallPlan({
      places: ['depot', 'flats', 'ridge'].map((id) => ({ id, name: id, kind: 'area', contents: id === 'flats' ? [hatch('door', '')] : [round(`${id}_round`)] })),
      passages: [{ id: 'way', from: 'depot', to: 'flats' }], routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
    })
    const compiled = compile(records)
    const [route, profile] = [compiled.game.routes[0]!, compiled.game.profiles[0]!]
    const before = finished(keptCheckInSteps(compiled.game, route, profile, options, null))
    const diff = setFields(records, 'gate', [...records.gate.keys()][0]!, { place: [...records.place.keys()][2]! } as never, 'a move')
    const { compiled: after, touched } = recompile(compiled, apply(records, diff), diff.changes)!
    const now = finished(keptCheckInSteps(after.game, route, profile, options, { kept: before, touched }))
    assert.deepEqual([before, now].map(({ result: { gates: [door] } }) => [door!.verdict, door!.met?.stop, door!.due?.stop]), [['clear', 1, 1], ['off_route', undefined, undefined]])
    assert.strictEqual(now.result.stops[0], before.result.stops[0])
  })

  it('knows a gate by its name that came after the plan was compiled', () => {
    const newKey = newKeys()
    let records = street([round('first'), hatch('door', 'stamps >= 2')])
    let compiled = compile(records)
    const follow = (diff: Diff) => {
      records = apply(records, diff)
      compiled = recompile(compiled, records, diff.changes)!.compiled
    }
    follow(diffOfStep(records, { do: 'add', which: 0, where: 2, many: 1 }, newKey, null)!)
    const [key, late] = [...records.gate.entries()].find(([, { id }]) => id.startsWith('new'))!
    follow(setFields(records, 'gate', [...records.gate.keys()].find((one) => one !== key)!, { requires: `open(${late.id})` }, 'ask'))
    assert.isEmpty(compiled.issues)
    const verdicts = () => new Map(checkRoute(compiled.game, compiled.game.routes[0]!, compiled.game.profiles[0]!, options).gates.map(({ gate, verdict }) => [gate, verdict]))
    assert.deepEqual([verdicts().get('door'), verdicts().get(late.id)], ['clear', 'clear'])
    follow(setFields(records, 'gate', key, { requires: 'stamps >= 50' }, 'more'))
    assert.deepEqual([verdicts().get('door'), verdicts().get(late.id)], ['sealed', 'sealed'])
  })
})
