import { assert } from 'chai'
import fc from 'fast-check'
import { dotOf, graphmlOf } from '../exchange/graph.ts'
import { compile } from '../rules/compile.ts'
import { anySample, recordsOf } from '../testing/plans.ts'
import { chainOf, mapOf } from './map.ts'
import { layoutMap } from './map-layout.ts'

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
    }), { numRuns: 20 })
  })

  it('can be taken along as GraphML and DOT', () => {
    assert.match(graphmlOf(data), /<node id="stair"><data key="name">Stair<\/data><data key="wave">never<\/data><data key="goal">true<\/data><\/node>/)
    assert.match(graphmlOf(data), /source="depot" target="flats"><data key="gates">The &quot;door&quot;<\/data>/)
    assert.match(dotOf(data), /depot -> flats \[dir=both, label="The \\"door\\""\];/)
    assert.match(dotOf(data), /stair \[label="Stair\\nwave never", peripheries=2\];/)
  })
})
