import { assert } from 'chai'
import fc from 'fast-check'
import { anySample, growth, recordsOf, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { compile, fromUnits } from './compile.ts'
import { canOpen, canTake, closedOnWay, enter, hasWhatItAsks, isOpen, open, quit, retry, standsAt, take } from './engine.ts'
import { plainPlay } from './gain.ts'
import type { Game } from './game.ts'
import { levelPosition } from './level-position.ts'
import { limitOf, newState, type State } from './state.ts'

describe('the engine', () => {
  it('resets on entering and on failing, and forgets what is not saved', () => {
    const { game } = compile(smallPlan({ tallies: [
      { id: 'day', name: 'Day', kind: 'score', start: 1, resets: 'place' },
      { id: 'breath', name: 'Breath', kind: 'score', start: 2, resets: 'retry' },
      { id: 'song', name: 'Song', kind: 'score', start: 3, saved: false },
    ] }))
    const state = newState(game)
    const set = () => state.tallies.fill(90_000)
    const held = () => Array.from(state.tallies, fromUnits)
    set()
    enter(game, state, 0, plainPlay)
    assert.deepEqual(held(), [1, 9, 9])
    set()
    retry(game, state, plainPlay)
    assert.deepEqual(held(), [9, 2, 9])
    set()
    quit(game, state, plainPlay)
    assert.deepEqual(held(), [9, 9, 3])
  })

  it('counts what is in error as closed, and says why', () => {
    const gate = (id: string, requires: string, more = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
    const { game, issues } = compile(smallPlan({ places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [
      gate('no_name', 'stmaps >= 1'), gate('by_nothing', '1 / stamps > 2'), gate('pays_live', '', { stays: 'live', costs: [{ tally: 'stamps', amount: 1 }] }),
      gate('a', 'open(b)', { stays: 'live' }), gate('b', 'open(a)', { stays: 'live' }), gate('good', ''),
    ] }] }))
    const state = newState(game)
    assert.deepEqual(game.gates.map((_, g) => canOpen(game, state, g) || isOpen(game, state, g)), [false, false, false, false, false, true])
    assert.deepEqual(issues.map((issue) => issue.code), ['requirement', 'live-gate-pays', 'live-ring', 'live-ring'])
  })

  it('starts within the bounds, and knows no max below the min', () => {
    const tally = (id: string, bounds: object) => ({ id, name: id, kind: 'score', ...bounds })
    const { game } = compile(recordsOf({ format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [tally('a', { start: 9, max: 5 }), tally('b', { start: -2, min: 1 }), tally('c', { start: 4, min: 0, max: -1 })] }))
    assert.deepEqual(game.tallies.map(({ start, max }) => [start / 10_000, max / 10_000]), [[5, 5], [1, Infinity], [4, Infinity]])
  })

  it('keeps every rule along any moves: clamps, limits, costs, presence', () => {
    fc.assert(fc.property(anySample, fc.array(fc.nat(1000), { maxLength: 60 }), (records, picks) => {
      const { game } = compile(records)
      const state = newState(game)
      enter(game, state, game.start, plainPlay)
      for (const pick of picks) makeMove(game, state, pick)
    }), { numRuns: runs(60) })
  })
})

/** A game of one place, entered, and what the player holds of its tallies. */
function depotWith(contents: object[], parts: Parameters<typeof smallPlan>[0] = {}) {
  const { game } = compile(smallPlan({
    tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency', start: 10, min: 2, max: 20 }, { id: 'debts', name: 'Debts', kind: 'score', min: null }, { id: 'renown', name: 'Renown', kind: 'experience' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents }],
    ...parts,
  }))
  const state = newState(game)
  enter(game, state, 0, plainPlay)
  const held = () => Object.fromEntries(game.tallies.map(({ id }, t) => [id, fromUnits(state.tallies[t]!)]))
  return { game, state, held }
}

const quest = (id: string, more: object = {}) => ({ source: { id, name: id, kind: 'quest', ...more } })
const door = (id: string, more: object = {}) => ({ gate: { id, name: id, kind: 'door', ...more } })
const amount = (tally: string, by: number) => ({ tally, amount: by })
const fixed = (tally: string, by: number) => ({ tally, min: by, max: by })

describe('paying', () => {
  const pays = (...costs: [string, number][]) => {
    const { game, state } = depotWith([door('shop', { costs: costs.map(([tally, by]) => amount(tally, by)) })])
    return canOpen(game, state, 0)
  }

  it('may take a tally down to its min, not below', () => {
    assert.isTrue(pays(['stamps', 8]))
    assert.isFalse(pays(['stamps', 8.0001]))
  })

  it('adds up what is asked of a tally at once', () => {
    assert.isTrue(pays(['stamps', 4], ['stamps', 4]))
    assert.isFalse(pays(['stamps', 4], ['debts', 1], ['stamps', 5]))
  })

  it('may go on without end where there is no min', () => {
    assert.isTrue(pays(['debts', 1_000_000]))
  })

  it('comes before what is given: a unit cannot pay for itself', () => {
    const { game, state, held } = depotWith([quest('dear', { takes: [amount('stamps', 9)], yields: [fixed('stamps', 20)] }), quest('fair', { takes: [amount('stamps', 8)], yields: [fixed('stamps', 20)] })])
    assert.deepEqual([0, 1].map((s) => canTake(game, state, s)), [false, true])
    take(game, state, 1, plainPlay)
    // From 10 down to 2, and 20 more than that would be above the max.
    assert.equal(held()['stamps'], 20)
  })
})

describe('a unit', () => {
  it('gives in the order of its yields, each clamped by itself', () => {
    const { game, state, held } = depotWith([quest('up', { count: 2, yields: [fixed('stamps', 50), fixed('stamps', -15)] }), quest('down', { count: 2, yields: [fixed('stamps', -50), fixed('stamps', 15)] })])
    take(game, state, 0, plainPlay)
    assert.equal(held()['stamps'], 5)
    take(game, state, 1, plainPlay)
    assert.equal(held()['stamps'], 17)
  })

  it('can be taken as often as it counts, and without end where it respawns', () => {
    const { game, state } = depotWith([quest('round', { count: 2 }), quest('drift', { count: 2, respawns: true })])
    for (let i = 0; i < 2; i++) for (const s of [0, 1]) take(game, state, s, plainPlay)
    assert.deepEqual([0, 1].map((s) => canTake(game, state, s)), [false, true])
  })

  it('adds to a tally of experience too, also before anybody listens', () => {
    const { game, state, held } = depotWith([], {
      curves: [growth], characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', joins: 'flats' }],
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [quest('round', { count: 2, yields: [fixed('renown', 30)] })] }, { id: 'flats', name: 'Flats', kind: 'area' }],
      passages: [{ id: 'road', from: 'depot', to: 'flats' }],
    })
    take(game, state, 0, plainPlay)
    enter(game, state, 1, plainPlay)
    take(game, state, 0, plainPlay)
    assert.equal(held()['renown'], 60)
    assert.equal(fromUnits(state.xp[0]!), 30)
  })

  it('sets caps after it has given, so that what it gives may be lost at the old one', () => {
    const { game, state } = depotWith([], {
      curves: [growth], characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', cap: 2 }],
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [quest('exam', { yields: [fixed('renown', 400)], caps: [{ character: 'courier', level: 4 }] })] }],
    })
    take(game, state, 0, plainPlay)
    assert.deepEqual([state.level[0], state.xp[0], limitOf(game, state, 0)], [2, 0, 4])
  })
})

describe('entering', () => {
  const town = (tallies: object[], more: object = {}) => depotWith([], {
    tallies, curves: [growth], characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [quest('round', { count: 9, yields: [fixed('renown', 120)] })] }], ...more,
  })

  it('takes level and XP of who listens back to the start, with the experience that resets', () => {
    const { game, state, held } = town([{ id: 'renown', name: 'Renown', kind: 'experience', resets: 'place', start: 7 }])
    take(game, state, 0, plainPlay)
    assert.deepEqual([state.level[0], held()['renown']], [2, 127])
    enter(game, state, 0, plainPlay)
    assert.deepEqual([state.level[0], state.xp[0], held()['renown']], [1, 0, 7])
  })

  it('gives rewards of levels again that were lost and are entered again', () => {
    const { game, state, held } = town([{ id: 'renown', name: 'Renown', kind: 'experience', resets: 'place' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }], {
      characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', rewards: [{ level: 2, yields: [fixed('stamps', 3)] }] }],
    })
    for (let i = 0; i < 3; i++) {
      take(game, state, 0, plainPlay)
      enter(game, state, 0, plainPlay)
    }
    assert.equal(held()['stamps'], 9)
  })

  it('leaves caps as they are, whatever resets', () => {
    const { game, state } = town([{ id: 'renown', name: 'Renown', kind: 'experience', resets: 'place' }])
    state.cap[0] = 3
    enter(game, state, 0, plainPlay)
    assert.equal(limitOf(game, state, 0), 3)
  })
})

describe('a gate', () => {
  it('that is live is never opened, and stands open while it holds', () => {
    const { game, state } = depotWith([door('tide', { stays: 'live', requires: 'stamps < 12' }), quest('round', { yields: [fixed('stamps', 3)] })])
    assert.deepEqual([canOpen(game, state, 0), isOpen(game, state, 0)], [false, true])
    take(game, state, 0, plainPlay)
    assert.isFalse(isOpen(game, state, 0))
  })

  it('opens once, gives once', () => {
    const { game, state, held } = depotWith([door('chest', { costs: [amount('stamps', 1)], yields: [fixed('stamps', 5)] })])
    open(game, state, 0, plainPlay)
    assert.equal(held()['stamps'], 14)
    assert.deepEqual([canOpen(game, state, 0), isOpen(game, state, 0), hasWhatItAsks(game, state, 0)], [false, true, true])
  })

  it('of anywhere can be opened beside the place that it guards, others everywhere', () => {
    const place = (id: string) => ({ id, name: id, kind: 'area' })
    const { game } = compile(smallPlan({
      places: ['depot', 'flats', 'island', 'far'].map(place),
      passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'slide', from: 'island', to: 'flats', twoWay: false }, { id: 'ice', from: 'flats', to: 'far' }],
      anywhere: [door('lock', { guards: { place: 'flats' } }), door('bar', { guards: { passage: 'road' } }), door('hat')].map(({ gate }) => gate),
    }))
    const from = (g: number) => game.places.flatMap(({ id }, p) => (standsAt(game, game.gates[g]!, p) ? [id] : []))
    assert.deepEqual(from(0), ['depot', 'island', 'far'])
    assert.deepEqual(from(1), ['depot', 'flats', 'island', 'far'])
    assert.deepEqual(from(2), ['depot', 'flats', 'island', 'far'])
  })

  it('of several on one way bars it as long as one is closed, on its side of a guarded place only', () => {
    const { game } = compile(smallPlan({
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [door('rope', { guards: { passage: 'road' } }), door('hall', { guards: { place: 'flats' } })] }, { id: 'flats', name: 'Flats', kind: 'area' }],
      passages: [{ id: 'road', from: 'depot', to: 'flats' }],
    }))
    const state = newState(game)
    enter(game, state, 0, plainPlay)
    const closed = (to: number) => closedOnWay(game, state, 0, to).map((g) => game.gates[g]!.id)
    assert.deepEqual([closed(1), closed(0)], [['rope', 'hall'], ['rope']])
    open(game, state, 0, plainPlay)
    assert.deepEqual([closed(1), closed(0)], [['hall'], []])
  })

  it('in error while it is played counts as closed as long as that lasts', () => {
    const { game, state } = depotWith([door('odd', { requires: '6 / (stamps - 10) >= 2' }), quest('round', { yields: [fixed('stamps', 3)] })])
    assert.isFalse(canOpen(game, state, 0))
    take(game, state, 0, plainPlay)
    assert.isTrue(canOpen(game, state, 0))
  })
})

/** One move out of all that can be made, and what must hold after it. */
function makeMove(game: Game, state: State, pick: number): void {
  const here = game.places[state.place]!
  const moves = [
    ...here.contents.flatMap(({ source, gate }) => {
      if (source !== null) return canTake(game, state, source) ? [() => take(game, state, source, plainPlay)] : []
      return canOpen(game, state, gate!) ? [() => open(game, state, gate!, plainPlay)] : []
    }),
    ...here.ways.map(({ to }) => () => enter(game, state, to, plainPlay)),
    () => retry(game, state, plainPlay),
    () => quit(game, state, plainPlay),
  ]
  moves[pick % moves.length]!()
  game.tallies.forEach((tally, t) => {
    assert.isAtLeast(state.tallies[t]!, tally.min)
    assert.isAtMost(state.tallies[t]!, tally.max)
  })
  game.characters.forEach((character, c) => {
    assert.isAtMost(state.level[c]!, Math.max(limitOf(game, state, c), character.startLevel))
    assert.isAtLeast(state.xp[c]!, 0)
    if (!state.present[c]) assert.equal(state.level[c], character.startLevel)
    assert.isBelow(levelPosition(game, state, c), state.level[c]! + 1)
  })
}
