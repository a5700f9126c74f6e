import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { canTake, hasWhatItAsks, take } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { relaxedGame } from '../../rules/relaxed.ts'
import { newState, type State } from '../../rules/state.ts'
import { growth, smallPlan } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { furtherUnits, furtherUnitsOpen } from './further.ts'

const source = (id: string, renown: number, fields: object = {}) => ({ source: { id, name: id, kind: 'event', role: 'side', minutes: 1, count: 1, yields: [{ tally: 'renown', min: renown, max: renown }], ...fields } })
const gate = (requires: string) => ({ gate: { id: 'g', name: 'g', kind: 'door', role: 'main', requires } })
const courier = { id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }

function gameOf(contents: readonly object[], more: object = {}): Game {
  const places = [{ id: 'depot', name: 'Depot', kind: 'area', contents }, { id: 'flats', name: 'Flats', kind: 'area', contents: [source('far', 500)] }]
  return compile(smallPlan({ curves: [growth], characters: [courier], places, passages: [{ id: 'way', from: 'depot', to: 'flats' }], ...more })).game
}

/** Who has entered the first place and taken nothing; `visited`: or others as well. */
function stateIn(game: Game, visited: readonly number[] = [0]): State {
  const state = newState(game)
  state.place = 0
  for (const place of visited) state.visited[place] = 1
  return state
}

/** What they do; whether they open it at all is asked for alone, too. */
function furtherIn(game: Game, state = stateIn(game), g = 0) {
  const found = furtherUnits(game, relaxedGame(game), state, g)
  assert.equal(furtherUnitsOpen(game, relaxedGame(game), state, g), found.opens)
  return found
}
const debtsOf = (contents: readonly object[], more?: object) => furtherIn(gameOf(contents, more)).debt.map(({ source: of, untaken, repeats }) => [of, untaken, repeats])

describe('further units of one source', () => {
  it('are as few as open the gate, those not taken before repeats', () => {
    // Level 3 takes 100 and 110.
    assert.deepEqual(debtsOf([source('round', 30, { count: 3, respawns: true }), gate('level >= 3')]), [['round', 3, 4]])
    assert.deepEqual(debtsOf([source('round', 30, { count: 7 }), gate('level >= 3')]), [['round', 7, 0]])
  })

  it('are none where all that there are fall one short', () => {
    assert.deepEqual(debtsOf([source('round', 30, { count: 6 }), source('letter', 210), gate('level >= 3')]), [['letter', 1, 0]])
  })

  it('may be very many, and are none past 200,000', () => {
    const crumbs = (amount: number) => debtsOf([source('crumb', amount, { respawns: true }), gate('renown >= 100')])
    assert.deepEqual(crumbs(0.001), [['crumb', 1, 99_999]])
    assert.deepEqual(crumbs(0.0005), [['crumb', 1, 199_999]])
    assert.deepEqual(crumbs(0.0001), [])
  })

  it('are told of the hundred quickest sources where there are more than a thousand, and of all where there are not', () => {
    const letters = (n: number) => [...Array.from({ length: n }, (_, i) => source(`letter_${i}`, 100, { minutes: n - i })), gate('renown >= 100')]
    assert.deepEqual(debtsOf(letters(1_000)), Array.from({ length: 100 }, (_, i) => [`letter_${999 - i}`, 1, 0]))
    assert.lengthOf(debtsOf(letters(999)), 999)
  })

  it('may give so much that whole numbers are hardly told apart', () => {
    const vast = [source('vast', 100_000_000_000, { count: 3, respawns: true }), source('crumb', 0.0001)]
    assert.deepEqual(debtsOf([...vast, gate('renown >= 350000000000')]), [['vast', 3, 1]])
  })

  it('open a gate together in one order alone, however many sources do alike', () => {
    const tallies = [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'glass', name: 'Glass', kind: 'collectible' }]
    const teas = Array.from({ length: 300 }, (_, i) => source(`tea_${i}`, 0, { takes: [{ tally: 'glass', amount: 1 }], yields: [{ tally: 'stamps', min: 1, max: 1 }] }))
    // Whoever pours tea gets no second lamp: both come before.
    const opens = (lamps: number) => furtherIn(gameOf([...teas, source('lamp', 0, { count: lamps, requires: 'stamps < 1', yields: [{ tally: 'glass', min: 1, max: 1 }] }), gate('stamps >= 1 and glass >= 1')], { tallies })).opens
    assert.deepEqual([opens(2), opens(1)], [true, false])
  })

  it('come to nothing at the limit', () => {
    const capped = { characters: [{ ...courier, cap: 2 }] }
    assert.deepEqual(debtsOf([source('round', 30, { respawns: true }), gate('level >= 3')], capped), [])
    assert.deepEqual(debtsOf([source('round', 30, { respawns: true }), gate('renown >= 300')], capped), [['round', 1, 9]])
  })

  it('count at what they give in the middle, whatever they may give', () => {
    // 2.5 each.
    const yields = [{ tally: 'stamps', min: 1, max: 4 }]
    assert.deepEqual(debtsOf([source('stall', 0, { yields, respawns: true }), gate('stamps >= 9')]), [['stall', 1, 3]])
  })

  it('give as well what the levels give that they bring', () => {
    const rewarded = { characters: [{ ...courier, rewards: [{ level: 2, yields: [{ tally: 'stamps', min: 5, max: 5 }] }] }] }
    assert.deepEqual(debtsOf([source('round', 30, { respawns: true }), gate('stamps >= 5')], rewarded), [['round', 1, 3]])
    const fined = { characters: [{ ...courier, rewards: [{ level: 3, yields: [{ tally: 'stamps', min: -9, max: -9 }] }] }] }
    const both = { yields: [{ tally: 'renown', min: 30, max: 30 }, { tally: 'stamps', min: 1, max: 1 }], respawns: true }
    // The seventh brings level 3, which takes all stamps, and then its own: nine more are enough.
    assert.deepEqual(debtsOf([source('round', 0, both), gate('stamps >= 10')], fined), [['round', 1, 15]])
  })

  it('are of places that have been visited', () => {
    const game = gameOf([gate('renown >= 400')])
    assert.deepEqual(furtherIn(game), { opens: false, debt: [] })
    assert.deepEqual(furtherIn(game, stateIn(game, [0, 1])).debt.map(({ source: of }) => of), ['far'])
  })

  it('of another place bring nothing of what resets on the way', () => {
    const tallies = [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', resets: 'place' }]
    const stamps = { yields: [{ tally: 'stamps', min: 1, max: 1 }], respawns: true }
    const places = [{ id: 'depot', name: 'Depot', kind: 'area', contents: [source('here', 0, stamps), gate('stamps >= 3')] }, { id: 'flats', name: 'Flats', kind: 'area', contents: [source('there', 0, stamps)] }]
    const game = gameOf([], { tallies, places })
    assert.deepEqual(furtherIn(game, stateIn(game, [0, 1])).debt.map(({ source: of, repeats }) => [of, repeats]), [['here', 2]])
  })

  it('are told for a purse that lets go of some of them', () => {
    const takes = [{ tally: 'stamps', amount: 1 }]
    const swap = source('swap', 0, { takes, count: 9, yields: [{ tally: 'renown', min: 60, max: 60 }] })
    const purse = (start: number) => ({ tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', start }] })
    assert.deepEqual(debtsOf([swap, gate('level >= 2')], purse(2)), [['swap', 2, 0]])
    assert.deepEqual(debtsOf([swap, gate('level >= 2')], purse(1)), [])
  })
})

describe('further units in made-up worlds', () => {
  /** Every unit by itself. */
  const oneByOne = (game: Game): Game => ({ ...game, sources: game.sources.map((one) => ({ ...one, atOnce: false })) })

  it('are as many as are found unit by unit, and leave the state as it was', () => {
    let compared = 0
    fc.assert(fc.property(anyWorld, fc.nat(2), (records, place) => {
      const { game } = compile(records)
      const state = stateIn(game, [...game.places.keys()])
      state.place = place % game.places.length
      game.gates.forEach((_, g) => {
        const before = structuredClone(state)
        const found = furtherIn(game, state, g)
        assert.deepEqual(state, before)
        assert.deepEqual(found, furtherIn(oneByOne(game), state, g), `gate ${g}`)
        compared += found.debt.length
      })
    }), { numRuns: runs(150) })
    assert.isAbove(compared, 100)
  })

  it('open the gate when they are taken, and one less does not', () => {
    fc.assert(fc.property(anyWorld, (records) => {
      const { game } = compile(records)
      game.gates.forEach((_, g) => {
        for (const { source: id, untaken, repeats, mends } of furtherIn(game, stateIn(game), g).debt) {
          if (mends !== undefined) continue
          const s = game.sources.findIndex((one) => one.id === id)
          // What is taken elsewhere and lost on the way is left to the story above.
          if (game.sources[s]!.place !== 0) continue
          const state = stateIn(game)
          const opens = Array.from({ length: untaken + repeats }, () => {
            assert.isTrue(canTake(game, state, s))
            take(game, state, s, plainPlay)
            return hasWhatItAsks(game, state, g)
          })
          assert.deepEqual([opens.indexOf(true), opens.length - 1], [opens.length - 1, opens.length - 1], `gate ${g}, ${id}`)
        }
      })
    }), { numRuns: runs(150) })
  })
})
