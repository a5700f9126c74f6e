import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { smallPlan } from '../../testing/plans.ts'
import { kindsOf, sourceOf, sourcesOf } from './alike-sources.ts'

type Part = Record<string, unknown>
const source = (id: string, stamps: number, more: Part = {}) => ({ source: { id, name: id, kind: 'event', count: 2, yields: [{ tally: 'stamps', min: stamps, max: stamps }], ...more } })
const gameOf = (here: unknown[], there: unknown[] = []) =>
  compile(smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: here }, { id: 'flats', name: 'Flats', kind: 'area', contents: there }], passages: [{ id: 'way', from: 'depot', to: 'flats' }] })).game

describe('sources that do alike', () => {
  const doings = (...all: unknown[]) => [...sourcesOf(gameOf(all)).doing]
  const isAlike = (more: Part) => {
    const [one, other] = doings(source('a', 3), source('b', 3, more))
    return one === other
  }

  it('give and ask for the same, whatever they are called and however many they are', () => {
    assert.isTrue(isAlike({ name: 'Other', count: 9, minutes: 4, role: 'side', kind: 'quest', respawns: true }))
    assert.isFalse(isAlike({ yields: [{ tally: 'stamps', min: 3, max: 4 }] }))
    assert.isFalse(isAlike({ requires: 'stamps >= 1' }))
    assert.isFalse(isAlike({ takes: [{ tally: 'renown', amount: 1 }] }))
  })

  it('are looked through without those in error', () => {
    const { sound, place } = sourcesOf(gameOf([source('a', 1), source('wrong', 1, { requires: 'pebbles >= 1' })], [source('c', 1)]))
    assert.deepEqual([[...sound], [...place]], [[0, 2], [0, 0, 1]])
  })

  it('are of one kind where a player stands, and of another where something may be lost on the way; who is counted is alone', () => {
    const game = gameOf([source('a', 3), source('b', 3), source('c', 5)], [source('d', 3)])
    const kinds = (place: number, counted: number[] = []) => kindsOf(game, [0, 1, 2, 3], place, new Set(counted), () => 2).map(({ sources, units, isCounted }) => [sources, units, isCounted])
    assert.deepEqual(kinds(0), [[[0, 1], 4, false], [[2], 2, false], [[3], 2, false]])
    assert.deepEqual(kinds(0, [1]), [[[0], 2, false], [[1], 2, true], [[2], 2, false], [[3], 2, false]])
  })

  it('give their units one source after another, and at last those that never end', () => {
    const kind = { sources: [4, 7, 9], left: [2, 0, 1], endless: 1 }
    assert.deepEqual([0, 1, 2, 3, 400].map((taken) => sourceOf(kind, taken)), [4, 4, 9, 7, 7])
    assert.isNull(sourceOf({ ...kind, endless: -1 }, 3))
    fc.assert(fc.property(fc.array(fc.nat(5), { minLength: 1, maxLength: 6 }), (left) => {
      const sources = [...left.keys()]
      const inTurn = left.flatMap((units, s) => Array.from({ length: units }, () => s))
      assert.deepEqual(Array.from({ length: inTurn.length + 1 }, (_, taken) => sourceOf({ sources, left, endless: -1 }, taken)), [...inTurn, null])
    }))
  })
})
