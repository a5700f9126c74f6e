import { assert } from 'chai'
import { growth, smallPlan } from '../testing/plans.ts'
import { compile } from './compile.ts'
import { canOpen, enter, take } from './engine.ts'
import { plainPlay } from './gain.ts'
import { newState } from './state.ts'

describe('a requirement', () => {
  /** What it comes to for a courier of rank 3 with a dog who joins at the flats, 4 stamps, one round run. */
  function truthOf(requires: string, joined = false): boolean {
    const { game } = compile(smallPlan({
      tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency', start: 10 }, { id: 'renown', name: 'Renown', kind: 'experience' }],
      curves: [growth],
      characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', cap: 5, startLevel: 3 }, { id: 'dog', name: 'Dog', experience: 'renown', curve: 'rank', joins: 'flats', startLevel: 2 }],
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [{ gate: { id: 'asked', name: 'Asked', kind: 'door', requires } }, { gate: { id: 'gone', name: 'Gone', kind: 'door', stays: 'live', requires: 'stamps >= 5' } }, { source: { id: 'round', name: 'Round', kind: 'quest', takes: [{ tally: 'stamps', amount: 6 }] } }] }, { id: 'flats', name: 'Flats', kind: 'area' }],
      passages: [{ id: 'road', from: 'depot', to: 'flats' }],
    }))
    const state = newState(game)
    enter(game, state, 0, plainPlay)
    take(game, state, 0, plainPlay)
    if (joined) enter(game, state, 1, plainPlay)
    return canOpen(game, state, 0)
  }

  const alone = [
    'level == 3', 'level(courier) == 3', 'level(dog) == 2', 'cap == 5', 'cap(dog) == 6', 'lowest(level) == 3', 'highest(level) == 3', 'average(level) == 3',
    'stamps == 4', 'taken(round) == 1', 'visited(depot)', 'not visited(flats)', 'not open(gone)', 'at_least(2, stamps > 9, level >= 3, visited(depot))',
    'min(stamps, level) == 3', 'max(stamps, level) == 4', 'stamps % 3 == 1', 'not stamps - 4', '2 ^ level > 7',
  ]
  for (const text of alone) it(`knows that ${text}`, () => assert.isTrue(truthOf(text)))

  const together = ['lowest(level) == 2', 'highest(level) == 3', 'average(level) == 2.5', 'visited(flats)']
  for (const text of together) it(`knows, once the dog has joined, that ${text}`, () => assert.deepEqual([truthOf(text), truthOf(text, true)], [text.startsWith('highest'), true]))
})
