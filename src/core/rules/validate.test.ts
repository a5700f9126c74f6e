import { assert } from 'chai'
import { issueText } from '../plan/issue-text.ts'
import type { IssueCode } from '../plan/issue.ts'
import { pathText } from '../plan/issue.ts'
import { recordsOf } from '../testing/plans.ts'
import { validate } from './validate.ts'

type Part = Record<string, unknown>

const curve = { id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 4, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 5 } }
const courier = { id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }
const gate = (more: Part) => ({ gate: { id: 'g', name: 'G', kind: 'door', ...more } })

function issuesOf(more: Part, contents: unknown[] = []) {
  return validate(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
    curves: [curve], characters: [courier],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents }, { id: 'flats', name: 'Flats', kind: 'area' }],
    passages: [{ id: 'road', from: 'depot', to: 'flats', twoWay: false }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats'] }],
    ...more,
  }))
}

/** A plan for each fault of meaning: what is in it, and where it lies. */
const faults: [IssueCode, string, ReturnType<typeof issuesOf>][] = [
  ['unknown-reference', 'start', issuesOf({ start: 'nowhere' })],
  ['unknown-reference', 'joins', issuesOf({ characters: [{ ...courier, joins: 'depto' }] })],
  ['unknown-reference', 'guards.passage', issuesOf({}, [gate({ guards: { passage: 'raod' } })])],
  ['unknown-reference', 'costs[0].tally', issuesOf({}, [gate({ costs: [{ tally: 'coins', amount: 1 }] })])],
  ['unknown-reference', 'caps[0].character', issuesOf({}, [gate({ caps: [{ character: 'dog', level: 2 }] })])],
  ['unknown-reference', 'stops[1]', issuesOf({ routes: [{ id: 'r', name: 'R', stops: ['depot', 'hut'] }] })],
  ['duplicate-id', 'id', issuesOf({ curves: [curve, curve] })],
  ['curve-value', 'rule', issuesOf({ curves: [{ ...curve, rule: { kind: 'table', values: [10, 0, 5] } }] })],
  ['curve-limits', 'maxLevel', issuesOf({ curves: [{ ...curve, maxLevel: 1 }] })],
  ['curve-limits', 'rule.values', issuesOf({ curves: [{ ...curve, rule: { kind: 'table', values: [1, 2] } }] })],
  ['curve-formula', 'rule.text', issuesOf({ curves: [{ ...curve, rule: { kind: 'formula', text: 'prev + stamps' } }] })],
  ['requirement', 'requires', issuesOf({}, [gate({ requires: 'level >= ' })])],
  ['live-gate-pays', 'stays', issuesOf({}, [gate({ stays: 'live', caps: [{ character: 'all', level: 3 }] })])],
  ['live-ring', 'requires', issuesOf({}, [gate({ stays: 'live', requires: 'open(g)' })])],
  ['stops-not-joined', 'stops[1]', issuesOf({ routes: [{ id: 'r', name: 'R', stops: ['flats', 'depot'] }] })],
  ['experience-kind', 'experience', issuesOf({ characters: [{ ...courier, experience: 'stamps' }] })],
  ['negative-experience', 'yields[0].min', issuesOf({}, [gate({ yields: [{ tally: 'renown', min: -2, max: -2 }] })])],
  ['clamp-order', 'min', issuesOf({ tallies: [{ id: 'renown', name: 'R', kind: 'experience', min: 3, max: 1 }] })],
  ['start-outside', 'start', issuesOf({ tallies: [{ id: 'renown', name: 'R', kind: 'experience', start: 9, max: 5 }] })],
  ['start-level', 'startLevel', issuesOf({ characters: [{ ...courier, startLevel: 9 }] })],
  ['level-outside', 'rewards[0].level', issuesOf({ characters: [{ ...courier, rewards: [{ level: 8, yields: [] }] }] })],
  ['passage-to-itself', 'to', issuesOf({ passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'loop', from: 'flats', to: 'flats' }] })],
  ['no-stops', 'stops', issuesOf({ routes: [{ id: 'r', name: 'R', stops: [] }] })],
  ['form-order', 'forms[0].to', issuesOf({ characters: [{ ...courier, forms: [{ id: 'a', name: 'A', from: 3, to: 2 }] }] })],
  ['guards-nowhere', 'guards.place', issuesOf({}, [gate({ guards: { place: 'depot' } })])],
]

describe('what is wrong with what a plan says', () => {
  it('is nothing in a plan that is sound', () => {
    assert.deepEqual(issuesOf({}, [gate({ requires: 'level >= 2 and stamps >= 1', guards: { passage: 'road' } })]), [])
  })

  for (const [code, path, issues] of faults) {
    it(`${code} is told once, at ${path}, in a sentence`, () => {
      const found = issues.filter((issue) => issue.code === code && pathText(issue.path) === path)
      assert.equal(found.length, 1, issues.map((issue) => `${issue.code} ${pathText(issue.path)}`).join())
      assert.match(issueText(found[0]!), /^[^{}]{8,}$/)
    })
  }

  it('suggests what was meant', () => {
    assert.match(issueText(issuesOf({ characters: [{ ...courier, joins: 'depto' }] })[0]!), /there is no place "depto"; did you mean "depot"\?/)
    assert.match(issueText(issuesOf({}, [gate({ requires: 'Stamps >= 1' })])[0]!), /\(column 1\); did you mean "stamps"\?/)
  })
})
