import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { scopeOf } from './scope.ts'
import { leadsBack } from './ways-back.ts'

/** Places a to e, the goal last; ways as `from>to` (one way) or `from-to`, a `!` before those that a gate bars. */
function allLeadBack(ways: readonly string[], goal = 'e'): boolean {
  const names = ['a', 'b', 'c', 'd', 'e']
  const passages = ways.map((way, i) => ({ id: `way_${i}`, from: way.at(-3)!, to: way.at(-1)!, twoWay: way.at(-2) === '-' }))
  const bars = ways.flatMap((way, i) => (way.startsWith('!') ? [{ gate: { id: `bar_${i}`, name: 'B', kind: 'door', requires: '', guards: { passage: `way_${i}` } } }] : []))
  const { game } = compile(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'a',
    places: names.map((id) => ({ id, name: id, kind: 'area', goal: id === goal, contents: id === 'a' ? bars : [] })),
    passages,
  }))
  return leadsBack(game, scopeOf(game))
}

describe('ways', () => {
  const cases: [string, readonly string[], boolean][] = [
    ['both ways lead back, barred or not', ['a-b', '!b-c', 'c-d', 'd-e'], true],
    ['one way with another back that nothing bars', ['a>b', 'b>a', 'b-c', 'c-d', 'd-e'], true],
    ['one way that is barred, with another back', ['!a>b', 'b>a', 'b-c', 'c-d', 'd-e'], true],
    ['one way back that is barred', ['a>b', '!b>a', 'b-c', 'c-d', 'd-e'], false],
    ['one way only, with the goal beyond it', ['a-b', 'b>c', 'c-d', 'd-e'], false],
    ['one way only, into the one goal', ['a-b', 'b-c', 'c-d', 'd>e'], true],
    ['one way only, from where the goal is out of reach', ['a-b', 'b-c', 'b>d', 'c>e'], true],
    ['one way only, with a goal left behind that may have been reached', ['a-b', 'a-e', 'b>c', 'c-d'], false],
    ['round in a circle', ['a>b', 'b>c', 'c>a', 'c-d', 'd-e'], true],
    ['round in a circle with a bar in it', ['a>b', '!b>c', 'c>a', 'c-d', 'd-e'], false],
  ]
  for (const [what, ways, leads] of cases) it(`${leads ? 'lead back' : 'do not lead back'}: ${what}`, () => assert.equal(allLeadBack(ways), leads))
})
