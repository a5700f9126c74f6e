import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { smallPlan } from '../../testing/plans.ts'
import { explainGate } from './explain.ts'

const door = (id: string, requires: string) => ({ gate: { id, name: id, kind: 'door', role: 'main', requires } })

/** A depot and an attic behind it, with a key in the attic that the depot's doors ask for. */
const records = smallPlan({
  tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'brass_key', name: 'Brass key', kind: 'flag' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'area', contents: [
      { source: { id: 'round', name: 'Round', kind: 'quest', count: 3, yields: [{ tally: 'stamps', min: 2, max: 2 }] } },
      door('hatch', 'stamps >= 4 and brass_key'),
      door('stair', 'not brass_key or at_least(2, taken(round), open(attic_door), visited(attic), 1)'),
      door('divided', '1 / brass_key and taken(round) - 3'),
    ] },
    { id: 'attic', name: 'Attic', kind: 'interior', contents: [{ source: { id: 'drawer', name: 'Drawer', kind: 'pickup', yields: [{ tally: 'brass_key', min: 1, max: 1 }] } }, door('attic_door', 'brass_key')] },
  ],
  passages: [{ id: 'way', from: 'depot', to: 'attic' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'attic'] }],
})
const { game } = compile(records)
const [route, profile] = [game.routes[0]!, game.profiles[0]!]
const conditionsOf = (id: string) => explainGate(game, route, profile, game.gates.findIndex((gate) => gate.id === id)).conditions
const said = (id: string) => conditionsOf(id).map(({ text, holds }) => `${text}: ${holds}`)

describe('what a gate asks for besides numbers', () => {
  it('is told part by part, as the middle walk has it when the gate is due', () => {
    assert.deepEqual(said('hatch'), ['brass_key: false'])
    assert.deepEqual(said('stair'), ['not brass_key: true', 'taken(round): true', 'open(attic_door): false', 'visited(attic): false'])
    assert.deepEqual(said('attic_door'), ['brass_key: true'])
  })

  it('counts what cannot be reckoned as not there', () => {
    assert.deepEqual(said('divided'), ['1 / brass_key: false', 'taken(round) - 3: false'])
  })
})
