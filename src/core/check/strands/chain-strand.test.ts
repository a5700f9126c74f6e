import { assert } from 'chai'
import fc from 'fast-check'
import type { Curve } from '../../plan/curve.ts'
import { compile } from '../../rules/compile.ts'
import { gain, plainPlay, setCaps } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { cloneState, limitOf, newState, type State } from '../../rules/state.ts'
import { growth, smallPlan } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { ChainStrand } from './chain-strand.ts'

/** Units that come one after another, or a cap that is set. */
type Step = { yields: readonly [number, number][]; count: number; share: number } | { cap: number }

const anyYield = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 2 })).map(([min, more]): [number, number] => [min, min + more])
const anyStep: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ yields: fc.array(anyYield, { minLength: 1, maxLength: 2 }), count: fc.integer({ min: 1, max: 2 }), share: fc.constantFrom(0.25, 0.5, 1) }) },
  { weight: 1, arbitrary: fc.record({ cap: fc.integer({ min: 1, max: 6 }) }) },
)
const anyCurve: fc.Arbitrary<Curve> = fc.record({
  counts: fc.constantFrom('step', 'total'), levelUpAt: fc.constantFrom('reached', 'exceeded'), remainder: fc.constantFrom('carry', 'clear'),
  levelsPerGain: fc.constantFrom('many', 'one'), atTop: fc.constantFrom('discard', 'hold', 'bank'),
}).map((fields) => ({ ...growth, rule: { kind: 'growth', base: 20, factor: 1.5, add: 0 }, ...fields }) as Curve)

function gameOf(curve: Curve): Game {
  return compile(smallPlan({ curves: [curve], characters: [{ id: 'dog', name: 'Dog', experience: 'renown', curve: curve.id, cap: 3 }] })).game
}

const standing = ({ level, xp }: State) => `${level[0]} ${xp[0]}`
const units = (amount: number) => amount * 10_000

/** Every way in which steps can go, each by itself, through the rules. */
function everyWay(game: Game, steps: readonly Step[]): Map<string, number> {
  const { curve } = game.characters[0]!
  let ways: [State, number][] = [[newState(game), 1]]
  const gained = (amount: number) => ([state, weight]: [State, number]): [State, number] => {
    const next = cloneState(state)
    gain(next, 0, 0, curve!, limitOf(game, next, 0), units(amount), plainPlay, [])
    return [next, weight]
  }
  for (const step of steps) {
    if ('cap' in step) {
      for (const [state] of ways) setCaps(game, state, [{ character: 0, level: step.cap }], plainPlay)
      continue
    }
    for (let unit = 0; unit < step.count; unit++) {
      const left = step.share < 1 ? ways.map(([state, weight]): [State, number] => [cloneState(state), weight * (1 - step.share)]) : []
      let taken = ways.map(([state, weight]): [State, number] => [state, weight * step.share])
      for (const [min, max] of step.yields) {
        const amounts = Array.from({ length: max - min + 1 }, (_, i) => min + i)
        taken = amounts.flatMap((amount) => taken.map(([state, weight]): [State, number] => [state, weight / amounts.length]).map(gained(amount)))
      }
      ways = merged([...left, ...taken])
    }
  }
  const all = new Map<string, number>()
  for (const [state, weight] of ways) all.set(standing(state), (all.get(standing(state)) ?? 0) + weight)
  return all
}

function merged(ways: readonly [State, number][]): [State, number][] {
  const known = new Map<string, [State, number]>()
  for (const [state, weight] of ways) {
    const same = known.get(standing(state))
    if (same) same[1] += weight
    else known.set(standing(state), [state, weight])
  }
  return [...known.values()]
}

function chained(game: Game, steps: readonly Step[]): ChainStrand {
  const chain = new ChainStrand(game, 0)
  play(chain, steps)
  return chain
}

function play(chain: ChainStrand, steps: readonly Step[]): void {
  for (const step of steps) {
    if ('cap' in step) chain.setCap(step.cap)
    else chain.add(step.yields.map(([min, max]) => ({ tally: 0, min: units(min), max: units(max) })), step.count, step.share)
  }
}

function toldBy(game: Game, chain: ChainStrand): Map<string, number> {
  const [told, state] = [new Map<string, number>(), newState(game)]
  chain.each(state, (weight) => told.set(standing(state), (told.get(standing(state)) ?? 0) + weight))
  return told
}

function assertAlike(found: ReadonlyMap<string, number>, wanted: ReadonlyMap<string, number>): void {
  assert.sameMembers([...found.keys()], [...wanted.keys()])
  for (const [key, weight] of wanted) assert.closeTo(found.get(key)!, weight, 1e-12, key)
}

describe('levels that are followed gain by gain', () => {
  it('are those of every way that the gains can go, for any curve, whenever caps are set', () => {
    fc.assert(fc.property(anyCurve, fc.array(anyStep, { maxLength: 7 }), (curve, steps) => {
      const game = gameOf(curve)
      const chain = chained(game, steps)
      const wanted = everyWay(game, steps)
      assert.isFalse(chain.isLost)
      assertAlike(toldBy(game, chain), wanted)
      const levels = [...wanted.keys()].map((key) => Number.parseInt(key))
      assert.deepEqual(chain.levels(), [Math.min(...levels), Math.max(...levels)])
    }), { numRuns: runs(200) })
  })

  it('go on from where another of the same character was kept', () => {
    fc.assert(fc.property(anyCurve, fc.array(anyStep, { maxLength: 4 }), fc.array(anyStep, { maxLength: 4 }), (curve, before, after) => {
      const game = gameOf(curve)
      const first = chained(game, before)
      const kept = first.keep()
      play(first, after)
      const next = new ChainStrand(game, 0)
      next.goOnFrom(kept)
      play(next, after)
      assertAlike(toldBy(game, next), toldBy(game, first))
      assert.deepEqual(next.levels(), first.levels())
    }), { numRuns: runs(100) })
  })

  it('lose what comes at a cap, and go on when it is lifted', () => {
    const game = gameOf({ ...growth, rule: { kind: 'growth', base: 20, factor: 1, add: 0 } })
    // Three levels take 20 each; at the cap, 3, the other half of the gains is lost.
    const steps: Step[] = [{ yields: [[40, 40]], count: 1, share: 1 }, { yields: [[10, 10]], count: 2, share: 0.5 }, { cap: 5 }, { yields: [[10, 10]], count: 1, share: 0.5 }]
    assert.deepEqual([...toldBy(game, chained(game, steps))].sort(), [[`3 ${units(0)}`, 0.5], [`3 ${units(10)}`, 0.5]])
  })

  it('leave the state that they are read into as it was', () => {
    const game = gameOf(growth)
    const state = newState(game)
    const before = structuredClone(state)
    chained(game, [{ yields: [[150, 150]], count: 3, share: 0.5 }]).each(state, () => {})
    assert.deepEqual(state, before)
  })

  it('are given up where they may stand at too many points', () => {
    const game = gameOf({ ...growth, atTop: 'bank' })
    assert.isTrue(chained(game, [{ yields: [[0, 9_000]], count: 1, share: 1 }]).isLost)
  })
})
