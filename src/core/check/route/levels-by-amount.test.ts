import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { giveAmount, plainPlay } from '../../rules/gain.ts'
import { newState } from '../../rules/state.ts'
import { smallPlan } from '../../testing/plans.ts'
import { LevelsByAmount } from './levels-by-amount.ts'

describe('levels by amount', () => {
  it('are those of who gained as much at once, in whatever order they are asked for', () => {
    const anyCurve = fc.record({ base: fc.integer({ min: 1, max: 90 }), add: fc.nat(20), maxLevel: fc.integer({ min: 2, max: 9 }), counts: fc.constantFrom('step', 'total'), levelUpAt: fc.constantFrom('reached', 'exceeded'), atTop: fc.constantFrom('discard', 'hold', 'bank') })
    fc.assert(fc.property(anyCurve, fc.nat(40), fc.array(fc.nat(3_000), { minLength: 1 }), ({ base, add, counts, ...rest }, start, gains) => {
      const rule = { kind: 'formula', text: counts === 'step' ? `${base} + ${add} * L` : `${base} * L + ${add}` }
      const { game } = compile(smallPlan({
        tallies: [{ id: 'renown', name: 'R', kind: 'experience', start }],
        curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, counts, rule, remainder: 'carry', levelsPerGain: 'many', ...rest }],
        characters: [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }],
      }))
      const levels = new LevelsByAmount(game, 0, [0])
      const read = newState(game)
      for (const gained of [...gains, ...gains]) {
        const state = newState(game)
        giveAmount(game, state, 0, gained * 10_000, plainPlay)
        levels.read(start + gained, read)
        assert.deepEqual([read.level[0], read.xp[0]], [state.level[0], state.xp[0]])
      }
    }))
  })
})
