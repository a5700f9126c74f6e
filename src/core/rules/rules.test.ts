import { assert } from 'chai'
import fc from 'fast-check'
import type { Curve } from '../plan/curve.ts'
import { anySample, recordsOf, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { compile, fromUnits } from './compile.ts'
import { curveValues } from './curve-values.ts'
import { canOpen, canTake, enter, isOpen, open, quit, retry, take } from './engine.ts'
import { plainPlay } from './gain.ts'
import type { Game } from './game.ts'
import { levelPosition } from './level-position.ts'
import { limitOf, newState, type State } from './state.ts'

const growth: Curve = {
  id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 6, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1.1, add: 0 },
  rounding: 'up', levelUpAt: 'reached', remainder: 'carry', levelsPerGain: 'many', atTop: 'discard',
}

function values(curve: Partial<Curve>): number[] {
  return curveValues({ ...growth, ...curve }).values.map((v) => v.toNumber())
}

/** A game with one courier on a curve, and a source of each amount of renown. */
function gameWith(curve: Partial<Curve>, amounts: number[], more: Record<string, unknown> = {}): { game: Game; state: State } {
  const records = smallPlan({
    curves: [{ ...growth, ...curve }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank', ...more }],
    places: [{
      id: 'depot', name: 'Depot', kind: 'area',
      contents: amounts.map((amount, i) => ({ source: { id: `gift_${i}`, name: 'Gift', kind: 'event', yields: [{ tally: 'renown', min: amount, max: amount }], respawns: true } })),
    }],
  })
  const { game, issues } = compile(records)
  assert.deepEqual(issues, [])
  const state = newState(game)
  enter(game, state, 0, plainPlay)
  return { game, state }
}

describe('curve values', () => {
  it('are exact decimals: 100 and a tenth more is 110 even when rounded up', () => {
    assert.deepEqual(values({}), [100, 110, 121, 134, 148])
    assert.deepEqual(values({ rounding: 'none', maxLevel: 4 }), [100, 110, 121])
  })

  it('round half-way values in five ways, and compound them', () => {
    const of = (rounding: Curve['rounding']) => values({ rounding, maxLevel: 4, rule: { kind: 'growth', base: 10, factor: 1.25, add: 0 } })
    assert.deepEqual(of('nearest'), [10, 13, 16])
    assert.deepEqual(of('nearest_even'), [10, 12, 15])
    assert.deepEqual(of('down'), [10, 12, 15])
    assert.deepEqual(of('up'), [10, 13, 17])
    assert.deepEqual(of('none'), [10, 12.5, 15.625])
  })

  it('come from formulas with prev, L and first', () => {
    assert.deepEqual(values({ maxLevel: 4, rounding: 'none', rule: { kind: 'formula', text: 'prev + 10 * L + first' } }), [11, 32, 63])
  })

  it('say at which level they fail', () => {
    const faults = (curve: Partial<Curve>) => curveValues({ ...growth, ...curve }).faults.map(({ code, level }) => `${code} ${level}`)
    assert.deepEqual(faults({ rule: { kind: 'table', values: [10, 20] } }), ['length 3', 'value 3'])
    assert.deepEqual(faults({ rule: { kind: 'table', values: [10, 20, 0, 5, 5] } }), ['value 3'])
    assert.deepEqual(faults({ counts: 'total', rule: { kind: 'table', values: [10, 20, 20, 30, 40] } }), ['value 3'])
    assert.deepEqual(faults({ rule: { kind: 'formula', text: '10 / (L - 3)' } }), ['value 1', 'value 2', 'formula 3'])
    assert.deepEqual(faults({ rule: { kind: 'formula', text: 'stamps' } }), ['formula 1'])
    assert.deepEqual(faults({ firstLevel: 6 }), ['limits 6'])
  })
})

describe('a gain', () => {
  const after = (curve: Partial<Curve>, amounts: number[], more = {}) => {
    const { game, state } = gameWith(curve, amounts, more)
    amounts.forEach((_, s) => take(game, state, s, plainPlay))
    return [state.level[0]!, fromUnits(state.xp[0]! / game.characters[0]!.curve!.grain)]
  }

  it('levels up when the value is reached, or exceeded', () => {
    assert.deepEqual(after({}, [100]), [2, 0])
    assert.deepEqual(after({ levelUpAt: 'exceeded' }, [100]), [1, 100])
    assert.deepEqual(after({ levelUpAt: 'exceeded' }, [101]), [2, 1])
  })

  it('carries what is over, or clears it', () => {
    assert.deepEqual(after({}, [215]), [3, 5])
    assert.deepEqual(after({ remainder: 'clear' }, [215]), [2, 0])
  })

  it('gives many levels, or one', () => {
    assert.deepEqual(after({ levelsPerGain: 'one' }, [350]), [2, 250])
    assert.deepEqual(after({ levelsPerGain: 'one' }, [350, 0]), [3, 140])
  })

  it('discards, holds or banks at the limit', () => {
    assert.deepEqual(after({}, [400, 50], { cap: 3 }), [3, 0])
    assert.deepEqual(after({ atTop: 'hold' }, [400, 50], { cap: 3 }), [3, 121])
    assert.deepEqual(after({ atTop: 'bank' }, [400, 50], { cap: 3 }), [3, 240])
    assert.deepEqual(after({ atTop: 'hold', maxLevel: 3 }, [400]), [3, 0])
  })

  it('counts in total from the start', () => {
    const total = { counts: 'total' as const, rule: { kind: 'table' as const, values: [100, 220, 360, 500, 700] } }
    assert.deepEqual(after(total, [230]), [3, 230])
    assert.deepEqual(after(total, [230], { startLevel: 2 }), [3, 330])
    assert.deepEqual(after(total, [400, 10], { cap: 2 }), [2, 100])
  })

  it('keeps values with more than four decimals apart', () => {
    const thirds = { rounding: 'none' as const, rule: { kind: 'formula' as const, text: '100 / 3' } }
    assert.equal(after(thirds, [100])[0], 4)
    assert.equal(after(thirds, [99.9999])[0], 3)
  })

  it('gives rewards that may be gains in turn', () => {
    const { game, state } = gameWith({}, [100], { rewards: [{ level: 2, yields: [{ tally: 'renown', min: 110, max: 110 }] }, { level: 'every', yields: [{ tally: 'stamps', min: 1, max: 1 }] }] })
    take(game, state, 0, plainPlay)
    assert.equal(state.level[0], 3)
    assert.equal(fromUnits(state.tallies[1]!), 2)
  })
})

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
