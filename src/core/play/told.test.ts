import { assert } from 'chai'
import { compile } from '../rules/compile.ts'
import type { Game } from '../rules/game.ts'
import { recordsOf } from '../testing/plans.ts'
import { statsAt } from '../view/stat-table.ts'
import { toldOf } from './told.ts'
import { replay, type WalkMove } from './walk.ts'

const source = (id: string, yields: [string, number][], fields: object = {}) => ({ source: { id, name: id, kind: 'event', count: 1, respawns: true, yields: yields.map(([tally, amount]) => ({ tally, min: amount, max: amount })), ...fields } })

const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [
    { id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', start: 5, max: 20 },
    { id: 'breath', name: 'Breath', kind: 'score', start: 3, resets: 'place' }, { id: 'warmth', name: '', kind: 'score', start: 2, resets: 'retry', saved: false },
  ],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 4, counts: 'step', rule: { kind: 'table', values: [100, 100, 100] }, remainder: 'clear' }],
  characters: [
    {
      id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', cap: 3,
      stats: [{ id: 'stamina', name: 'Stamina', start: 40, growth: 'add', by: 6, rounding: 'none' }, { id: 'luck', name: 'Luck', start: 1, growth: 'add', by: 0, rounding: 'none' }],
      forms: [{ id: 'novice', name: 'Novice coat', from: 1, to: 2 }, { id: 'carrier', name: 'Carrier coat', from: 3, to: 4 }],
    },
    { id: 'dog', name: 'Dog', experience: 'renown', curve: 'rank', joins: 'flats' },
  ],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [
      source('round', [['renown', 100]]), source('long_round', [['renown', 230]]), source('sale', [['stamps', 7], ['stamps', -3]]), source('gust', [['breath', -1], ['warmth', -1]]),
      source('medal', [], { caps: [{ character: 'courier', level: 4 }] }), source('nothing', [['stamps', 2], ['stamps', -2]]),
    ] },
    { id: 'flats', name: 'Flats', kind: 'area', contents: [] },
  ],
  passages: [{ id: 'way', from: 'depot', to: 'flats' }],
})
const { game } = compile(records)

/** What the last of some moves is told to have done. */
const told = (...moves: WalkMove[]) => toldIn(game, moves)

function toldIn(of: Game, moves: readonly WalkMove[]): string[] {
  const { steps, broken } = replay(of, { at: 'start' }, moves)
  assert.isNull(broken)
  return toldOf(of, steps.at(-1)!, (c, level) => statsAt(records, c, level))
}
const take = (id: string, units = 1): WalkMove => ({ take: id, units })

describe('what a move did', () => {
  it('is told as amounts, several of a tally as one', () => {
    assert.deepEqual(told(take('sale')), ['+4 Stamps'])
    assert.deepEqual(told(take('sale', 3)), ['+12 Stamps'])
    assert.deepEqual(told(take('nothing')), [])
  })

  it('is told as far as it went: what a full purse takes no more is no gain', () => {
    assert.deepEqual(told({ give: 'stamps', amount: 30 }), ['+15 Stamps'])
    assert.deepEqual(told({ give: 'stamps', amount: 30 }, { give: 'stamps', amount: 1 }), [])
  })

  it('tells a level-up with the stats that it changes, and no other', () => {
    assert.deepEqual(told(take('round')), ['+100 Renown', 'Courier level 1 → 2; Stamina 40 → 46 (+6)'])
  })

  it('tells several levels as one climb, with the look that is another at its end', () => {
    assert.deepEqual(told(take('round', 2)), ['+200 Renown', 'Courier level 1 → 3, now Carrier coat; Stamina 40 → 52 (+12)'])
  })

  it('tells how many levels wait where a gain brings one, as far as they still wait at its end', () => {
    const one = compile({ ...records, curve: new Map([...records.curve].map(([key, curve]) => [key, { ...curve, levelsPerGain: 'one' as const, remainder: 'carry' as const }])) }).game
    const courier = (lines: string[]) => lines.filter((line) => line.includes('Courier'))
    assert.deepEqual(courier(toldIn(one, [take('long_round')])), ['Courier level 1 → 2; Stamina 40 → 46 (+6)', 'the next gains bring Courier 1 level more'])
    assert.deepEqual(courier(toldIn(one, [take('long_round'), take('round')])), ['Courier level 2 → 3, now Carrier coat; Stamina 46 → 52 (+6)', '130 XP of Courier lost at the limit'])
  })

  it('tells XP that was lost, and whether at a level-up or at the limit', () => {
    assert.deepEqual(told(take('long_round')), ['+230 Renown', 'Courier level 1 → 2; Stamina 40 → 46 (+6)', '130 XP of Courier lost at the level-up'])
    assert.deepEqual(told(take('round', 2), take('round')), ['+100 Renown', '100 XP of Courier lost at the limit'])
  })

  it('tells a cap that is another, and nothing where it is the same', () => {
    assert.deepEqual(told(take('medal')), ['the cap of Courier is 4'])
    assert.deepEqual(told(take('medal'), take('medal')), [])
  })

  it('tells who joins, and what goes back to its start when it was elsewhere', () => {
    assert.deepEqual(told({ go: 'way' }), ['Dog joins'])
    assert.deepEqual(told(take('gust'), { go: 'way' }), ['Breath back to 3 (was 2)', 'Dog joins'])
    assert.deepEqual(told(take('gust'), { fail: true }), ['warmth back to 2 (was 1)'])
    assert.deepEqual(told(take('gust'), { quit: true }), ['warmth back to 2 (was 1)'])
  })
})
