import { assert } from 'chai'
import fc from 'fast-check'
import { dotOf, graphmlOf } from '../exchange/graph.ts'
import { compile } from '../rules/compile.ts'
import { anySample, recordsOf } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { chainOf, mapOf } from './map.ts'
import { layoutMap, placeSize } from './map-layout.ts'
import { ringThrough, wayBetween, withPins } from './map-paths.ts'

const source = (id: string, tally: string, amount = 1, more: object = {}) => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: amount, max: amount }], ...more } })
const gate = (id: string, requires: string, guards: object | null = null) => ({ gate: { id, name: `The "${id}"`, kind: 'door', requires, guards } })
const { game } = compile(recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [{ id: 'key', name: 'Key', kind: 'flag' }, { id: 'glass', name: 'Glass', kind: 'collectible' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [source('find', 'key'), gate('door', 'key', { passage: 'road' }), gate('a', 'open(b)'), gate('b', 'open(a)')] },
    { id: 'flats', name: 'Flats', kind: 'area', contents: [source('shards', 'glass', 2, { respawns: true }), gate('hatch', 'glass >= 5', { place: 'stair' })] },
    { id: 'stair', name: 'Stair', kind: 'area', goal: true }, { id: 'moon', name: 'Moon', kind: 'area' },
  ],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'stair', twoWay: false }, { id: 'far', from: 'moon', to: 'stair' }],
}))
const data = mapOf(game)
const place = (id: string) => data.places.find((one) => one.id === id)!
const gateOf = (id: string) => data.gates.find((one) => one.id === id)!

describe('the map', () => {
  it('says in which wave everything is first had, without and with repeats', () => {
    assert.deepEqual(['depot', 'flats', 'stair', 'moon'].map((id) => [place(id).waves.once, place(id).waves.repeated]), [[0, 0], [1, 1], [null, 2], [null, 2]])
    assert.deepEqual(data.passages.map(({ id, gates }) => [id, gates.map((key) => data.gates.find((one) => one.key === key)!.id)]), [['road', ['door']], ['path', ['hatch']], ['far', ['hatch']]])
  })

  it('tells at each wave what is held', () => {
    assert.deepEqual(data.waves.once.map(({ tallies }) => tallies.map(({ amount }) => amount)), [[1, 0], [1, 2]])
    assert.deepEqual(data.waves.repeated.at(-1)!.tallies.map(({ amount }) => amount), [1, null])
  })

  it('knows what a closed gate waits on, back to its ring', () => {
    assert.deepEqual(gateOf('a').ring!.length, 2)
    assert.deepEqual([...chainOf(data, gateOf('a').key)].map((key) => data.gates.find((one) => one.key === key)!.id).sort(), ['a', 'b'])
    assert.deepEqual([...chainOf(data, gateOf('door').key)], [gateOf('door').key])
  })

  it('knows which gates of a ring break it by asking for less', () => {
    assert.sameMembers(gateOf('a').breaks.map((key) => data.gates.find((one) => one.key === key)!.id), ['a', 'b'])
    assert.deepEqual(gateOf('door').breaks, [])
  })

  it('stands in columns by wave, what is never had in the last, and nothing upon another', () => {
    const drawn = layoutMap(data, false)
    const x = (id: string) => drawn.places[place(id).key]!.x
    assert.isBelow(x('depot'), x('flats'))
    assert.lengthOf(drawn.bands, 1)
    assert.equal(x('stair'), x('moon'))
    assert.deepEqual(drawn.columns.map(({ wave }) => wave), [0, 1, null])
    fc.assert(fc.property(anySample, (records) => {
      const map = mapOf(compile(records).game)
      const spots = Object.values(layoutMap(map, true).places).map(({ x: left, y }) => `${left} ${y}`)
      assert.lengthOf(new Set(spots), map.places.length)
    }), { numRuns: runs(20) })
  })

  it('can be taken along as GraphML and DOT', () => {
    assert.match(graphmlOf(data), /<node id="stair"><data key="name">Stair<\/data><data key="wave">never<\/data><data key="goal">true<\/data><\/node>/)
    assert.match(graphmlOf(data), /source="depot" target="flats"><data key="gates">The &quot;door&quot;<\/data>/)
    assert.match(dotOf(data), /depot -> flats \[dir=both, label="The \\"door\\""\];/)
    assert.match(dotOf(data), /stair \[label="Stair\\nwave never", peripheries=2\];/)
  })

  it('has places where a person put them, with straight ways to them, and is large enough for them', () => {
    const layout = layoutMap(data, false)
    const key = place('flats').key
    const pinned = withPins(layout, { [key]: { x: layout.width + 300, y: 50 }, gone: { x: 1, y: 1 } })
    assert.deepInclude(pinned.places[key]!, { x: layout.width + 300, y: 50, isPinned: true })
    assert.isAtLeast(pinned.width, layout.width + 300 + placeSize.width / 2)
    assert.notProperty(pinned.places, 'gone')
    assert.strictEqual(withPins(layout, {}), layout)
    const [from, to] = [pinned.places[place('depot').key]!, pinned.places[key]!]
    assert.deepEqual(wayBetween(from, to, pinned).middle, { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 })
    assert.isFalse(wayBetween({ ...from, band: 0 }, { ...to, band: 1 }, pinned).isWrapped)
  })

  it('draws a ring through the places of its gates, and none through no place', () => {
    assert.isNull(ringThrough([]))
    const [a, b] = [{ x: 0, y: 0, band: 0 }, { x: 100, y: 0, band: 0 }]
    assert.match(ringThrough([a])!, /^M-30 -20 C/)
    assert.match(ringThrough([a, b])!, /^M0 0 Q.* 100 0 Q.* 0 0$/)
  })

  it('is laid out however long it is', () => {
    const ids = Array.from({ length: 1_500 }, (_, i) => `p${i}`)
    const long = mapOf(compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0', tallies: [{ id: 'key', name: 'Key', kind: 'collectible' }],
      places: ids.map((id, i) => ({ id, name: id, kind: 'area', contents: [source(`s${i}`, 'key'), gate(`g${i}`, `key >= ${i + 1}`, i + 1 < ids.length ? { passage: `w${i}` } : null)] })),
      passages: ids.slice(1).map((id, i) => ({ id: `w${i}`, from: ids[i], to: id })),
    })).game)
    const layout = layoutMap(long, false)
    assert.lengthOf(Object.keys(layout.places), 1_500)
    assert.isAbove(layout.bands.length, 10)
  })
})
