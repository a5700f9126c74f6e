import { assert } from 'chai'
import fc from 'fast-check'
import { leastOf } from '../../plan/least-of.ts'
import { runs } from '../../testing/runs.ts'
import { reached } from './reached.ts'
import { Spread } from './spread.ts'

/** Likelihoods side by side, of which most may be 0: nothing like a bell. */
const anyWeights = fc.array(fc.oneof(fc.constant(0), fc.double({ min: 0, max: 1, noNaN: true })), { minLength: 1, maxLength: 60 }).filter((weights) => weights.some((weight) => weight > 1e-9))
const anyBell = fc.record({ mean: fc.double({ min: -90, max: 90, noNaN: true }), deviation: fc.double({ min: 0.01, max: 50, noNaN: true }) })

describe('where a sum of likelihoods is reached', () => {
  it('is the least number up to which there is so much, wherever it is looked for first and whatever bell is taken for it', () => {
    fc.assert(fc.property(anyWeights, fc.integer({ min: -40, max: 40 }), fc.double({ min: 0.001, max: 1, noNaN: true }), fc.double({ min: -200, max: 200, noNaN: true }), anyBell, (weights, from, share, guess, bell) => {
      const sums = new Spread(from, Float64Array.from(weights)).cumulated()
      const below = (value: number) => sums[value - from]!
      const wanted = share * sums.at(-1)!
      const end = from + weights.length
      assert.equal(reached(below, wanted, from, end, guess, bell), leastOf(from, end - 1, (value) => below(value + 1) >= wanted))
    }), { numRuns: runs(300) })
  })

  it('is found in a few guesses where there is a bell, and never in many', () => {
    const asked = (spread: Spread, guess: number) => {
      const sums = spread.cumulated()
      const { mean, variance } = spread.moments
      return [0.05, 0.5, 0.95].map((share) => {
        let asks = 0
        const below = (value: number) => {
          asks++
          return sums[value - spread.from]!
        }
        reached(below, share, spread.from, spread.end, guess, { mean, deviation: Math.sqrt(variance) })
        return asks
      })
    }
    const bell = Spread.even(0, 60).times(40)
    assert.isBelow(Math.max(...asked(bell, bell.moments.mean)), 9)
    const two = Spread.at(30_000).orNothing(0.4).plus(Spread.even(0, 9))
    assert.isBelow(Math.max(...asked(two, 0)), 8 + 17)
  })
})
