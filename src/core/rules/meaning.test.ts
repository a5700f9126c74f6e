import { assert } from 'chai'
import { parse } from '../language/parse.ts'
import { growth, smallPlan } from '../testing/plans.ts'
import { compile } from './compile.ts'
import { meaningIn, type Named } from './meaning.ts'

const { game } = compile(smallPlan({
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'stamps', name: 'Again', kind: 'score' }],
  curves: [growth], characters: ['courier', 'dog'].map((id) => ({ id, name: id, experience: 'renown', curve: 'rank' })),
  places: ['depot', 'flats'].map((id) => ({ id, name: id, kind: 'area', contents: id === 'flats' ? [{ source: { id: 'round', name: 'Round', kind: 'quest' } }, { gate: { id: 'hatch', name: 'Hatch', kind: 'door' } }] : [{ source: { id: 'letter', name: 'Letter', kind: 'quest' } }, { gate: { id: 'bar', name: 'Bar', kind: 'door' } }] })),
}))
const of = (text: string) => {
  const { of: what, index } = meaningIn(game, parse(text) as Named)
  return [what, index]
}

describe('what a name stands for', () => {
  it('is the leader, where nobody is named', () => {
    assert.deepEqual([of('level'), of('cap')], [['level', 0], ['cap', 0]])
  })

  it('is what has the id, of the kind that is asked', () => {
    assert.deepEqual(['stamps', 'level(dog)', 'cap(dog)', 'open(hatch)', 'visited(flats)', 'taken(round)'].map(of), [['tally', 1], ['level', 1], ['cap', 1], ['open', 1], ['visited', 1], ['taken', 1]])
  })

  it('is everybody for the lowest, the highest and the average', () => {
    assert.deepEqual(['lowest(level)', 'highest(level)', 'average(level)'].map(of), [['lowest', -1], ['highest', -1], ['average', -1]])
  })
})
