import { assert } from 'chai'
import { apply } from '../../change/diff.ts'
import type { Records } from '../../plan/records.ts'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { defaultBound } from '../lockout/bound.ts'
import { checkLockouts } from '../lockout/lockout-check.ts'
import { lockoutFixes, type LockoutFix, type LockoutKind } from './lockout-fixes.ts'

const bound = { ...defaultBound, states: 20_000 }
const purse = (id: string, amount: number, more: object = {}) => ({ source: { id, name: id, kind: 'quest', yields: [{ tally: 'stamps', min: amount, max: amount }], ...more } })
const cost = (amount: number) => [{ tally: 'stamps', amount }]
const gate = (id: string, more: object) => ({ gate: { id, name: id, kind: 'door', ...more } })

function plan(depot: unknown[], passages: unknown[] = [{ id: 'way', from: 'depot', to: 'shore' }]): Records {
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: depot }, { id: 'pit', name: 'Pit', kind: 'area' }, { id: 'shore', name: 'Shore', kind: 'area', goal: true }],
    passages: [...passages],
  })
}
const bought = [purse('round', 8), gate('oil', { role: 'side', costs: cost(4) }), gate('door', { guards: { passage: 'way' }, costs: cost(6) })]

function fixesFor(records: Records, kind: LockoutKind): LockoutFix[] {
  const before = checkLockouts(compile(records).game, bound)[kind]
  assert.equal(before.result, 'found')
  const fixes = [...lockoutFixes(records, kind, before, bound)]
  for (const { diff, remains, says } of fixes) assert.equal(checkLockouts(compile(apply(records, diff)).game, bound)[kind].result, remains === null ? 'none' : 'found', says)
  return fixes
}

describe('fixes of lock-outs', () => {
  it('let a one-way passage into a dead end lead both ways', () => {
    const fixes = fixesFor(plan([], [{ id: 'way', from: 'depot', to: 'shore' }, { id: 'drop', from: 'depot', to: 'pit', twoWay: false }]), 'stuck')
    assert.deepEqual(fixes.map(({ says, remains }) => [says, remains]), [['let drop lead both ways', null]])
  })

  it('make up for what can be spent elsewhere: a price, an amount, or grinding for it', () => {
    assert.deepEqual(fixesFor(plan(bought), 'stuck').map(({ says }) => says), ['let door cost no stamps (6 now)', 'let round give 4 stamps more a unit', 'let round be repeated, as grinding for stamps'])
  })

  it('offer no grinding against a forced grind', () => {
    const fixes = fixesFor(plan([...bought, purse('letters', 1, { respawns: true })]), 'forcedGrind')
    assert.isAbove(fixes.length, 0)
    assert.isFalse(fixes.some(({ says }) => says.includes('repeated')))
  })

  it('say what remains where another way into a lock-out does', () => {
    const fixes = fixesFor(plan(bought, [{ id: 'way', from: 'depot', to: 'shore' }, { id: 'drop', from: 'depot', to: 'pit', twoWay: false }]), 'stuck')
    assert.match(fixes[0]!.remains ?? '', /door needs 6 stamps/)
  })
})
