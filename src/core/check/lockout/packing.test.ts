import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'
import { smallPlan } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { Packing } from './packing.ts'
import { RowTable } from '../row-table.ts'
import { scopeOf } from './scope.ts'

/** Amounts with a least and without, a count that needs many bits, and levels. */
const { game } = compile(smallPlan({
  tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'stamps', name: 'S', kind: 'currency' }, { id: 'debt', name: 'D', kind: 'score', min: null }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 4, counts: 'step', rule: { kind: 'growth', base: 20, factor: 1, add: 0 } }],
  characters: [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }],
  places: [{ id: 'depot', name: 'D', kind: 'area', contents: [
    { source: { id: 'round', name: 'R', kind: 'quest', count: 200, yields: [{ tally: 'renown', min: 1, max: 1 }, { tally: 'stamps', min: 1, max: 1 }] } },
    { source: { id: 'late', name: 'L', kind: 'event', count: 2, yields: [{ tally: 'debt', min: 1, max: 1 }] } },
    ...Array.from({ length: 40 }, (_, i) => ({ gate: { id: `gate_${i}`, name: 'G', kind: 'door', role: 'main', requires: 'level >= 2 and debt > -3', costs: [{ tally: 'stamps', amount: 1 }] } })),
  ] }],
}))
const packing = new Packing(game, scopeOf(game), [100_000_000_000])

const anyState = fc.record({ renown: fc.nat(40_000), stamps: fc.nat(400_000), debt: fc.double({ noNaN: true, min: -1e15, max: 1e15 }), level: fc.integer({ min: 1, max: 4 }), xp: fc.integer({ min: 0, max: 100_000_000_000 }), round: fc.nat(200), late: fc.nat(2), gates: fc.bigInt(0n, (1n << 40n) - 1n) }).map(({ renown, stamps, debt, level, xp, round, late, gates }): State => {
  const state = newState(game)
  state.place = 0
  state.tallies.set([renown, stamps, debt])
  state.level[0] = level
  state.xp[0] = xp
  state.taken.set([round, late])
  for (let g = 0; g < 40; g++) state.opened[g] = Number((gates >> BigInt(g)) & 1n)
  return state
})

describe('packed states', () => {
  it('are read again as they were, from whatever state was read before', () => {
    fc.assert(fc.property(fc.array(anyState, { minLength: 1, maxLength: 6 }), (states) => {
      const state = cloneState(states[0]!)
      const known = packing.rowOf(state)
      for (const wanted of states) {
        packing.unpack(packing.rowOf(wanted), 0, state, known)
        assert.deepEqual([...state.bytes], [...wanted.bytes])
      }
    }))
  })

  it('are the same rows where only what differs is written anew', () => {
    fc.assert(fc.property(anyState, anyState, fc.nat(39), (from, to, g) => {
      const row = packing.rowOf(from)
      const next = cloneState(from)
      next.tallies.set(to.tallies)
      next.taken.set(to.taken)
      next.opened[g] = to.opened[g]!
      packing.repack(next, packing.fieldsOf({ tallies: [0, 1, 2], taken: [0, 1], opened: [g] }), row, 0)
      assert.deepEqual([...row], [...packing.rowOf(next)])
    }))
  })

  it('are told apart in a table, and found again, however many there are', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat(60), fc.nat(3)), { maxLength: 3_000 }), (rows) => {
      const table = new RowTable(2)
      const numbers = new Map<string, number>()
      for (const row of rows) {
        table.rows.set(row, table.next)
        const known = numbers.get(row.join()) ?? numbers.size
        assert.equal(table.add(), known)
        numbers.set(row.join(), known)
      }
      assert.equal(table.size, numbers.size)
    }), { numRuns: runs(20) })
  })
})
