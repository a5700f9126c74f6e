import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { playFreely } from '../../testing/free-play.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { defaultBound } from './bound.ts'
import { checkLockouts } from './lockout-check.ts'

describe('lock-outs of whole worlds', () => {
  it('are what plain play finds in worlds in which all rules mix', () => {
    const bounds = { tally: 1_000_000, xp: 1_000_000, states: 2_000 }
    const most = 50_000
    let decided = 0
    fc.assert(fc.property(anyWorld, (records) => {
      const { game } = compile(records)
      const plain = playFreely(game, bounds)
      if (!plain) return
      const { stuck, forcedGrind } = checkLockouts(game, { ...defaultBound, states: most })
      if (stuck.result !== 'undecided') {
        assert.equal(stuck.result === 'found', plain.stuck, 'stuck')
        // Where there are more states than were looked at, it may be known of a later one alone that nothing leads on from it.
        if (stuck.witness && stuck.states < most) assert.equal(stuck.witness.length === 0, !plain.canBeWon, 'an empty witness')
        decided++
      }
      if (forcedGrind.result !== 'undecided') assert.equal(forcedGrind.result === 'found', plain.forcedGrind, 'forced grind')
    }), { numRuns: runs(120) })
    assert.isAbove(decided, 60)
  })
})
