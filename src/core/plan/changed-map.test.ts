import { assert } from 'chai'
import fc from 'fast-check'
import { copyToChange, plainMap } from './changed-map.ts'

type Step = { key: number; value: number | null }
/** Keys that are there, and some that are not; often the same ones. */
const step = fc.record({ key: fc.oneof(fc.integer({ min: 2_090, max: 2_105 }), fc.integer({ min: 0, max: 2_200 })), value: fc.option(fc.nat(9)) })
const edits = fc.array(fc.array(step, { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 12 })

const numbers = new Map(Array.from({ length: 2_100 }, (_, i) => [i, i * 10]))

function changed(map: ReadonlyMap<number, number>, steps: readonly Step[], count = steps.length): ReadonlyMap<number, number> {
  const copy = copyToChange(map, count)
  for (const { key, value } of steps) {
    if (value === null) copy.delete(key)
    else copy.set(key, value)
  }
  return copy
}

const ways: ((map: ReadonlyMap<number, number>) => unknown[])[] = [told, (map) => [...map], (map) => [...map.keys()], (map) => [...map.values()], (map) => [...structuredClone(plainMap(map))]]

function told(map: ReadonlyMap<number, number>): [number, number][] {
  const all: [number, number][] = []
  map.forEach((value, key) => all.push([key, value]))
  return all
}

describe('a large map with a few changes', () => {
  it('is, whichever way it is read, the map that a copy would be', () => {
    fc.assert(fc.property(edits, (all) => {
      let [map, copy]: ReadonlyMap<number, number>[] = [numbers, numbers] as ReadonlyMap<number, number>[]
      for (const steps of all) {
        map = changed(map!, steps)
        // More changes than are kept apart: it is copied.
        copy = changed(copy!, steps, 10_000)
      }
      assert.equal(map!.size, copy!.size)
      // Compared as texts: so many pairs take long one by one.
      for (const read of ways) assert.equal(String(read(map!)), String(read(copy!)))
      for (const { key } of all.flat()) assert.deepEqual([map!.has(key), map!.get(key)], [copy!.has(key), copy!.get(key)])
    }))
  })

  it('leaves what it was made from as it was', () => {
    const first = changed(numbers, [{ key: 5, value: 1 }, { key: 9_000, value: 2 }])
    const second = changed(first, [{ key: 5, value: 3 }, { key: 9_000, value: null }, { key: 6, value: null }])
    assert.deepEqual([numbers.get(5), numbers.has(9_000), numbers.size], [50, false, 2_100])
    assert.deepEqual([first.get(5), first.get(9_000), first.get(6), first.size], [1, 2, 60, 2_101])
    assert.deepEqual([second.get(5), second.get(9_000), second.get(6), second.size], [3, undefined, undefined, 2_099])
  })

  it('says of a key whether it was there to be taken away', () => {
    const copy = copyToChange(numbers, 1)
    assert.deepEqual([copy.delete(4_000), copy.delete(7), copy.delete(7), copy.set(7, 1) && copy.delete(7)], [false, true, false, true])
  })

  it('is made anew after many changes, so that no copy becomes long', () => {
    let map: ReadonlyMap<number, number> = numbers
    for (let i = 0; i < 600; i++) map = changed(map, [{ key: i, value: -1 }])
    assert.deepEqual([...map].filter(([, value]) => value === -1).length, 600)
    assert.equal(map.size, 2_100)
  })
})
