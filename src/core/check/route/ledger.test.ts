import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { smallPlan } from '../../testing/plans.ts'
import type { FromEntry } from '../result.ts'
import { Ledger } from './ledger.ts'

const { game } = compile(smallPlan({
  tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'stamps', name: 'S', kind: 'currency', start: 5 }],
  places: [{ id: 'depot', name: 'D', kind: 'area', contents: ['round', 'parcel', 'letter'].map((id) => ({ source: { id, name: id, kind: 'quest' } })) }],
}))
const all = { tallies: new Set([0, 1]), characters: new Set<number>() } as Parameters<Ledger['from']>[1]

describe('the book of a walk', () => {
  type Deed = { type: 'take'; source: number; tally: number; by: number } | { type: 'stop' | 'page' } | { type: 'reset'; tally: number }
  const anyDeed: fc.Arbitrary<Deed> = fc.oneof(
    { weight: 6, arbitrary: fc.record({ type: fc.constant('take' as const), source: fc.nat(2), tally: fc.nat(1), by: fc.integer({ min: -3, max: 9 }).map((n) => n * 10_000) }) },
    { weight: 2, arbitrary: fc.record({ type: fc.constantFrom('stop' as const, 'page' as const) }) },
    { weight: 1, arbitrary: fc.record({ type: fc.constant('reset' as const), tally: fc.nat(1) }) },
  )

  it('gives at each of its pages what was held when it was turned, and every line once', () => {
    fc.assert(fc.property(fc.array(anyDeed, { maxLength: 60 }), (deeds) => {
      const ledger = new Ledger(game)
      const held = game.tallies.map(({ start }) => start)
      let stop = 0
      const pages: { page: number; held: number[]; told: string }[] = []
      const sums = (page: number) => ledger.from(page, all)
      for (const deed of deeds) {
        if (deed.type === 'stop') stop++
        if (deed.type === 'page') {
          const page = ledger.page()
          pages.push({ page, held: [...held], told: JSON.stringify(sums(page)) })
        }
        if (deed.type === 'take') {
          held[deed.tally]! += deed.by
          ledger.add([{ type: 'changed', tally: deed.tally, by: deed.by }], { type: 'source', index: deed.source }, stop)
        }
        if (deed.type === 'reset') {
          ledger.add([{ type: 'reset', tally: deed.tally, from: held[deed.tally]! }], { type: 'enter' }, stop)
          held[deed.tally] = game.tallies[deed.tally]!.start
        }
      }
      for (const { page, held: then, told } of pages) {
        const sum = sums(page)
        // What was entered later alters nothing.
        assert.equal(JSON.stringify(sum), told)
        game.tallies.forEach(({ id }, t) => assert.closeTo(sum.filter(({ tally }) => tally === id).reduce((total, entry) => total + entry.total, 0), then[t]! / 10_000, 1e-9))
        const named = sum.filter(({ source }) => source !== null).map(({ source, stop: at, tally }: FromEntry) => `${source} ${at} ${tally}`)
        assert.equal(new Set(named).size, named.length)
        assert.equal(ledger.linesUpTo(page, all), sum.length + ledger.lost(page, all).length)
      }
    }))
  })
})
