import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { canWin } from '../../testing/free-play.ts'
import { smallPlan } from '../../testing/plans.ts'
import { stateAfter } from './going.ts'
import { checkLockouts } from './lockout-check.ts'

describe('how chance falls in a move', () => {
  it('is played out in each of several yields of one tally', () => {
    const yields = [{ tally: 'stamps', min: -2, max: -1 }, { tally: 'stamps', min: -1, max: 0 }]
    const toll = { source: { id: 'toll', name: 'Toll', kind: 'event', respawns: true, takes: [{ tally: 'stamps', amount: 2 }], yields } }
    const door = { gate: { id: 'door', name: 'Door', kind: 'door', requires: 'stamps >= 1', guards: { place: 'quay' } } }
    const { game } = compile(smallPlan({
      tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency', start: 3, min: -2 }],
      places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [toll, door] }, { id: 'quay', name: 'Quay', kind: 'area', goal: true }],
      passages: [{ id: 'way', from: 'depot', to: 'quay' }],
    }))
    const { stuck, forcedGrind } = checkLockouts(game)
    assert.equal(forcedGrind.result, 'none')
    // What comes of both is told as one.
    assert.deepEqual(stuck.witness, [{ take: 'toll', outcome: { stamps: -3 } }])
    assert.isFalse(canWin(game, stateAfter(game, stuck.witness!), true, { tally: 200_000, xp: 1, states: 1_000 }))
    const fallen = (outcome: number) => stateAfter(game, [{ take: 'toll', outcome: { stamps: outcome } }]).tallies[0]! / 10_000
    assert.deepEqual([-1, -2, -3].map(fallen), [0, -1, -2])
  })
})
