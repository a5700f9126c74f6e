import { assert } from 'chai'
import fc from 'fast-check'
import type { Curve } from '../plan/curve.ts'
import { toFile } from '../plan/file.ts'
import { inOrder, type Records } from '../plan/records.ts'
import { wholeSource } from '../plan/source.ts'
import { Player } from '../testing/plain/player.ts'
import { middleFall } from '../testing/plain/ways.ts'
import { growth, smallPlan } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { compile, fromUnits } from './compile.ts'
import { enter, open, take } from './engine.ts'
import type { GameEvent } from './events.ts'
import { middleRoll, plainPlay, playOf, setCaps } from './gain.ts'
import type { Game } from './game.ts'
import { newState, type State } from './state.ts'

/** A game with one courier on a curve, and a source of each amount of renown. */
function gameWith(curve: Partial<Curve>, amounts: number[], more: Record<string, unknown> = {}): { records: Records; game: Game; state: State } {
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
  return { records, game, state }
}

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

const anyCurve: fc.Arbitrary<Curve> = fc.record({
  firstLevel: fc.integer({ min: 0, max: 2 }), levels: fc.integer({ min: 1, max: 6 }), counts: fc.constantFrom('step', 'total'), steps: fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 6, maxLength: 6 }),
  levelUpAt: fc.constantFrom('reached', 'exceeded'), remainder: fc.constantFrom('carry', 'clear'), levelsPerGain: fc.constantFrom('many', 'one'), atTop: fc.constantFrom('discard', 'hold', 'bank'),
}).map(({ firstLevel, levels, steps, ...rest }) => {
  const values = steps.slice(0, levels).map((step, i) => (rest.counts === 'step' ? step : steps.slice(0, i + 1).reduce((a, b) => a + b)))
  return { id: 'rank', name: 'Rank', firstLevel, maxLevel: firstLevel + levels, rule: { kind: 'table', values }, rounding: 'none', ...rest } as Curve
})

const anyMoves = fc.array(fc.oneof(fc.integer({ min: 0, max: 90 }).map((gain) => ({ gain })), fc.integer({ min: 0, max: 9 }).map((cap) => ({ cap }))), { maxLength: 12 })

describe('gain and climb', () => {
  it('do what is written of them, whatever the curve, the gains and the caps', () => {
    fc.assert(fc.property(anyCurve, fc.nat(6), fc.option(fc.nat(9)), anyMoves, (curve, above, cap, moves) => {
      const startLevel = Math.min(curve.firstLevel + above, curve.maxLevel)
      const { records, game, state } = gameWith(curve, moves.map((move) => ('gain' in move ? move.gain : 0)), { startLevel, cap })
      const plain = new Player(toFile(records), middleFall)
      const gifts = inOrder(records, 'source').map((row) => wholeSource(row, undefined))
      moves.forEach((move, m) => {
        if ('gain' in move) {
          take(game, state, m, plainPlay)
          plain.take(gifts[m]!)
        } else {
          setCaps(game, state, [{ character: 0, level: move.cap }], plainPlay)
          plain.take({ ...gifts[m]!, yields: [], caps: [{ character: 'courier', level: move.cap }] })
        }
        const { level, xp } = plain.standingOf('courier')
        assert.deepEqual([state.level[0], fromUnits(state.xp[0]!)], [level, xp], `after move ${m}`)
      })
    }), { numRuns: runs(400) })
  })

  it('never take a level away by a cap that is set lower, and let no XP in above it', () => {
    const { game, state } = gameWith({ atTop: 'hold' }, [330, 20, 500])
    take(game, state, 0, plainPlay)
    assert.equal(state.level[0], 3)
    setCaps(game, state, [{ character: 0, level: 2 }], plainPlay)
    take(game, state, 1, plainPlay)
    take(game, state, 2, plainPlay)
    assert.deepEqual([state.level[0], fromUnits(state.xp[0]!)], [3, 121])
  })

  it('climb on what was banked when a cap is raised, and on what was held to the brim', () => {
    for (const [atTop, level, xp] of [['bank', 4, 19], ['hold', 3, 0], ['discard', 2, 0]] as const) {
      const { game, state } = gameWith({ atTop }, [350], { cap: 2 })
      take(game, state, 0, plainPlay)
      setCaps(game, state, [{ character: null, level: 5 }], plainPlay)
      assert.deepEqual([state.level[0], fromUnits(state.xp[0]!)], [level, xp], atTop)
    }
  })

  it('tell what is lost: at the limit, and cleared at a level-up', () => {
    const lost = (curve: Partial<Curve>, amounts: number[], more = {}) => {
      const events: GameEvent[] = []
      const { game, state } = gameWith(curve, amounts, more)
      amounts.forEach((_, s) => take(game, state, s, { ...plainPlay, events }))
      return events.flatMap((event) => (event.type === 'lost' ? [`${fromUnits(event.amount)} ${event.why}`] : []))
    }
    assert.deepEqual(lost({}, [130, 50], { cap: 2 }), ['30 top', '50 top'])
    assert.deepEqual(lost({ atTop: 'hold' }, [130, 100], { cap: 2 }), ['20 top'])
    assert.deepEqual(lost({ atTop: 'bank' }, [130, 100], { cap: 2 }), [])
    assert.deepEqual(lost({ remainder: 'clear' }, [130]), ['30 cleared'])
  })
})

describe('rewards', () => {
  /** A courier and a dog who listen to the same renown, at 10 XP a level, and what they are given level by level. */
  function pair(courier: object[], dog: object[], more: { caps?: object[]; amount?: number; cap?: number } = {}) {
    const flat = { ...growth, rule: { kind: 'growth', base: 10, factor: 1, add: 0 }, rounding: 'none', atTop: 'bank' }
    const listener = (id: string, rewards: object[]) => ({ id, name: id, experience: 'renown', curve: 'rank', rewards, cap: more.cap ?? null })
    const { game } = compile(smallPlan({
      tallies: ['renown', 'trust', 'stamps', 'glass'].map((id) => ({ id, name: id, kind: id === 'stamps' || id === 'glass' ? 'collectible' : 'experience', max: id === 'stamps' ? 5 : null })),
      curves: [flat], characters: [listener('courier', courier), listener('dog', dog), { ...listener('pup', []), experience: 'trust' }],
      places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: [
        { source: { id: 'letter', name: 'Letter', kind: 'quest', yields: [{ tally: 'renown', min: more.amount ?? 10, max: more.amount ?? 10 }, { tally: 'glass', min: 1, max: 1 }] } },
        { gate: { id: 'exam', name: 'Exam', kind: 'cap', caps: more.caps ?? [] } },
      ] }],
    }))
    const state = newState(game)
    const events: GameEvent[] = []
    const play = playOf(middleRoll, events)
    enter(game, state, 0, play)
    return { game, state, events, play }
  }
  const gives = (level: number | 'every', ...yields: [string, number][]) => ({ level, yields: yields.map(([tally, amount]) => ({ tally, min: amount, max: amount })) })
  /** Level-ups, rewards and changes of tallies, in the order in which they came. */
  const told = (game: Game, events: readonly GameEvent[]) => events.flatMap((event) => {
    if (event.type === 'level') return [`${game.characters[event.character]!.id} ${event.to}`]
    if (event.type === 'reward') return [`reward ${game.characters[event.character]!.id} ${event.level}`]
    return event.type === 'changed' ? [`${game.tallies[event.tally]!.id} ${fromUnits(event.by)}`] : []
  })

  it('come after everybody was credited, in plan order, levels rising, and before the next yield', () => {
    const { game, state, events, play } = pair([gives(2, ['stamps', 1]), gives(3, ['stamps', 2])], [gives('every', ['trust', 10])], { amount: 20 })
    take(game, state, 0, play)
    assert.deepEqual(told(game, events), [
      'renown 20', 'courier 2', 'courier 3', 'dog 2', 'dog 3',
      'reward courier 2', 'stamps 1', 'reward courier 3', 'stamps 2', 'reward dog 2', 'trust 10', 'pup 2', 'reward dog 3', 'trust 10', 'pup 3',
      'glass 1',
    ])
  })

  it('join the queue behind what was earned before', () => {
    const { game, state, events, play } = pair([gives(2, ['renown', 10]), gives(3, ['stamps', 1])], [gives(2, ['stamps', 2])])
    take(game, state, 0, play)
    assert.deepEqual(told(game, events), ['renown 10', 'courier 2', 'dog 2', 'reward courier 2', 'renown 10', 'courier 3', 'dog 3', 'reward dog 2', 'stamps 2', 'reward courier 3', 'stamps 1', 'glass 1'])
  })

  it('are given for each level above the start, not for the start itself', () => {
    const { game, state, play } = pair([gives('every', ['stamps', 1]), gives(1, ['stamps', 1])], [], { amount: 30 })
    take(game, state, 0, play)
    assert.equal(fromUnits(state.tallies[2]!), 3)
  })

  it('wait until a cap for all has made everybody climb', () => {
    const { game, state, events, play } = pair([gives(2, ['stamps', 1])], [gives(2, ['stamps', 9])], { cap: 1, amount: 10, caps: [{ character: 'all', level: 4 }] })
    take(game, state, 0, play)
    events.length = 0
    open(game, state, 0, play)
    assert.deepEqual(told(game, events), ['courier 2', 'dog 2', 'reward courier 2', 'stamps 1', 'reward dog 2', 'stamps 4'])
  })
})
