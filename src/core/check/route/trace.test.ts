import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { growth, recordsOf, anySample } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { columnOf, lostBy, numberAt, traceRoute, type RouteTrace } from './trace.ts'

const rounded = (n: number) => Math.round(n * 1e6) / 1e6

/** What all items of a stop did to a column together. */
function doneAt(trace: RouteTrace, stop: number, column: number): number {
  let sum = 0
  for (let item = trace.itemsFrom[stop]!; item < trace.itemsFrom[stop + 1]!; item++) sum += numberAt(trace, 'items', item, column)
  return sum
}

describe('the trace of a walk', () => {
  it('leaves each stop with what it was entered with and what the items did there', () => {
    fc.assert(fc.property(anySample, (records) => {
      const { game } = compile(records)
      for (const profile of game.profiles) {
        const trace = traceRoute(game, game.routes[0]!, profile)
        const columns = [...game.tallies.keys()].concat([...game.characters.keys()].map((c) => game.tallies.length + c))
        for (let stop = 0; stop < trace.places.length; stop++) for (const column of columns) {
          assert.equal(rounded(numberAt(trace, 'entered', stop, column) + doneAt(trace, stop, column)), rounded(numberAt(trace, 'left', stop, column)))
        }
      }
    }), { numRuns: runs(15) })
  })

  const source = (id: string, yields: object[], more = {}) => ({ source: { id, name: id, kind: 'event', yields, ...more } })
  const gives = (tally: string, amount: number) => ({ tally, min: amount, max: amount })
  const records = recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', max: 3 }],
    curves: [{ ...growth, rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: growth.id, cap: 2 }],
    places: [{
      id: 'depot', name: 'Depot', kind: 'hub', contents: [
        source('round', [gives('renown', 150)]), source('change', [gives('stamps', 2), gives('stamps', -2)]),
        source('drifts', [gives('renown', 30)], { count: 2 }), source('satchel', [], { caps: [{ character: 'all', level: 3 }] }),
        source('purse', [gives('stamps', 3)]), source('full', [gives('stamps', 1)]),
      ],
    }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot'] }],
    profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
  })
  const { game } = compile(records)
  const trace = traceRoute(game, game.routes[0]!, game.profiles[0]!)
  const keyOf = (id: string) => game.sources.find((one) => one.id === id)!.key

  it('has an item for what did something to an amount, a level or a cap, and for nothing else', () => {
    assert.deepEqual(trace.keys, ['round', 'drifts', 'satchel', 'purse'].map(keyOf))
  })

  it('tells the XP that is lost by what lost it', () => {
    const column = columnOf(trace, { character: 'courier' }) + trace.characters.length
    assert.deepEqual(trace.keys.map((_, item) => numberAt(trace, 'items', item, column)), [50, 60, 0, 0])
    assert.equal(lostBy(trace, 0), 110)
  })
})
