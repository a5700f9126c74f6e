import { assert } from 'chai'
import fc from 'fast-check'
import { compile, fromUnits } from '../rules/compile.ts'
import type { Game } from '../rules/game.ts'
import type { State } from '../rules/state.ts'
import { anySample, recordsOf } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { impossible, lockedText, missingFor, replay, type WalkMove, type WalkStart } from './walk.ts'

const plan = (renown: number) => compile(recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'day', name: 'Day', kind: 'score', resets: 'place' }, { id: 'luck', name: 'Luck', kind: 'flag', saved: false }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 2, yields: [{ tally: 'renown', min: renown, max: renown }, { tally: 'day', min: 3, max: 3 }] } },
      { gate: { id: 'door', name: 'Door', kind: 'door', requires: 'level >= 2', costs: [{ tally: 'stamps', amount: 2 }], guards: { passage: 'road' }, lockedText: 'Rank {need}, you have {have}: {short} short.' } },
    ] },
    { id: 'flats', name: 'Flats', kind: 'area' },
  ],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})).game

const start: WalkStart = { at: 'start' }
const held = (game: Game, state: State, id: string) => fromUnits(state.tallies[game.tallies.findIndex((tally) => tally.id === id)]!)
const last = (game: Game, moves: readonly WalkMove[]) => replay(game, start, moves).steps.at(-1)!

describe('a walk by hand', () => {
  const game = plan(60)

  it('takes, is given, opens and goes on, and tells what came of it', () => {
    const moves: WalkMove[] = [{ take: 'round', units: 2 }, { give: 'stamps', amount: 5 }, { open: 'door' }, { go: 'road' }]
    const { steps, broken } = replay(game, start, moves)
    assert.isNull(broken)
    assert.deepEqual(steps[0]!.events.filter(({ type }) => type === 'level'), [{ type: 'level', character: 0, to: 2 }])
    assert.equal(held(game, steps[2]!.state, 'stamps'), 3)
    assert.equal(held(game, steps[2]!.state, 'day'), 6)
    assert.equal(held(game, steps[3]!.state, 'day'), 0)
    assert.deepInclude(steps[3]!.events, { type: 'reset', tally: 2, from: 60_000 })
  })

  it('reads what the player would read, with the numbers in it, and says how far it is', () => {
    const { first } = replay(game, start, [])
    assert.equal(lockedText(game, first, 0), 'Rank 2, you have 1: 1 short.')
    assert.deepEqual(missingFor(game, first, 0), [{ text: 'level >= 2', need: 2, have: 1 }, { text: 'stamps', need: 2, have: 0 }])
    assert.equal(impossible(game, first, { go: 'road' }), 'Door bars the way')
    assert.match(impossible(game, last(game, [{ take: 'round', units: 2 }]).state, { take: 'round', units: 1 })!, /nothing is left of it/)
  })

  it('loses on quitting what is not saved, and nothing on failing that does not reset', () => {
    assert.equal(held(game, last(game, [{ give: 'luck', amount: 1 }, { fail: true }]).state, 'luck'), 1)
    assert.equal(held(game, last(game, [{ give: 'luck', amount: 1 }, { quit: true }]).state, 'luck'), 0)
  })

  it('says at which move it no longer goes, once the plan is changed', () => {
    const moves: WalkMove[] = [{ take: 'round', units: 2 }, { give: 'stamps', amount: 5 }, { open: 'door' }, { go: 'road' }]
    assert.deepEqual(replay(plan(40), start, moves).broken, { index: 2, says: 'Rank 2, you have 1: 1 short.' })
  })

  it('begins at a stop as a kind of player comes to it', () => {
    const { first } = replay(game, { at: 'stop', route: game.routes[0]!.key, profile: game.profiles[0]!.key, stop: 1 }, [])
    assert.deepEqual([game.places[first.place]!.id, first.level[0], held(game, first, 'renown'), held(game, first, 'day')], ['flats', 2, 120, 0])
  })

  it('keeps the bounds of every tally and goes the same way each time, whatever is done', () => {
    fc.assert(fc.property(anySample, fc.array(fc.nat(10_000), { maxLength: 40 }), (records, picks) => {
      const { game: any } = compile(records)
      const moves: WalkMove[] = []
      for (const pick of picks) {
        const at = replay(any, start, moves)
        const state = at.steps.at(-1)?.state ?? at.first
        const place = any.places[state.place]!
        const all: WalkMove[] = [
          ...place.contents.map(({ source, gate }): WalkMove => (source !== null ? { take: any.sources[source]!.id, units: 1 } : { open: any.gates[gate!]!.id })),
          ...place.ways.map(({ passage }): WalkMove => ({ go: any.passages[passage]!.id })), { fail: true } as const, { quit: true } as const,
        ]
        const possible = all.filter((move) => impossible(any, state, move) === null)
        moves.push(possible[pick % possible.length]!)
      }
      const [once, twice] = [replay(any, start, moves), replay(any, start, moves)]
      assert.isNull(once.broken)
      assert.deepEqual(once.steps.at(-1)?.state, twice.steps.at(-1)?.state)
      for (const { state } of once.steps) any.tallies.forEach((tally, t) => assert.isTrue(state.tallies[t]! >= tally.min && state.tallies[t]! <= tally.max, tally.id))
    }), { numRuns: runs(25) })
  })
})
