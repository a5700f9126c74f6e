import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { giveAmount, plainPlay } from '../../rules/gain.ts'
import { levelPosition } from '../../rules/level-position.ts'
import { newState } from '../../rules/state.ts'
import { smallPlan } from '../../testing/plans.ts'
import { LevelsByAmount } from './levels-by-amount.ts'

describe('levels by amount', () => {
  it('are those of who gained as much at once, in whatever order they are asked for', () => {
    const anyCurve = fc.record({ base: fc.integer({ min: 1, max: 90 }), add: fc.nat(20), maxLevel: fc.integer({ min: 2, max: 9 }), counts: fc.constantFrom('step', 'total'), levelUpAt: fc.constantFrom('reached', 'exceeded'), atTop: fc.constantFrom('discard', 'hold', 'bank') })
    fc.assert(fc.property(anyCurve, fc.constantFrom(1, 5000, 10_000, 70_000), fc.array(fc.nat(3_000), { minLength: 1 }), ({ base, add, counts, ...rest }, step, gains) => {
      const rule = { kind: 'formula', text: counts === 'step' ? `${base} + ${add} * L` : `${base} * L + ${add}` }
      const { game } = compile(smallPlan({
        tallies: [{ id: 'renown', name: 'R', kind: 'experience', start: 7 }],
        curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, counts, rule, remainder: 'carry', levelsPerGain: 'many', ...rest }],
        characters: [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }],
      }))
      const levels = new LevelsByAmount(game, 0, [0], step)
      const read = newState(game)
      for (const gained of [...gains, ...gains]) {
        const state = newState(game)
        giveAmount(game, state, 0, gained * step, plainPlay)
        levels.read(gained, read)
        assert.equal(read.level[0], state.level[0])
        assert.equal(levelPosition(game, read, 0), levelPosition(game, state, 0))
        const end = levels.endOfLevel(gained)
        assert.isAbove(end, gained)
        if (end !== Infinity) for (const [steps, rises] of [[end - 1, 0], [end, 1]] as const) {
          levels.read(steps, read)
          assert.equal(Number(read.level[0]! > state.level[0]!), rises)
        }
      }
    }))
  })
})
