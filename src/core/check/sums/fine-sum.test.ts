import { assert } from 'chai'
import { FineSum, long, longest } from './fine-sum.ts'
import { Spread } from './spread.ts'

const unit = (amount: number, share = 0.5) => Spread.at(amount).orNothing(share)

/** A sum of so many units of some amounts, each of which comes or not. */
function sumOf(amounts: readonly number[], share = 0.5): FineSum {
  const sum = new FineSum()
  for (const amount of amounts) sum.add(unit(amount, share))
  return sum
}

describe('a fine sum', () => {
  const amounts = Array.from({ length: 6_000 }, (_, i) => 20 + (i % 31))
  const all = amounts.reduce((sum, amount) => sum + amount, 0)

  it('of thousands of parts lies where it must, however often its waves were made longer', () => {
    const sum = sumOf(amounts)
    const deviation = Math.sqrt(amounts.reduce((squares, amount) => squares + amount ** 2 / 4, 0))
    const [low, middle, high] = sum.quantiles([0.05, 0.5, 0.95]) as [number, number, number]
    // It is the same from both ends, and a bell but for a step.
    assert.approximately(middle, all / 2, 1)
    assert.approximately(low + high, all, 1)
    assert.approximately((high - middle) / deviation, 1.644854, 0.002)
    assert.approximately(sum.whole().total, 1, 1e-11)
    assert.approximately(sum.whole().moments.mean, all / 2, 1e-5)
    assert.isBelow(sum.end - sum.from, all / 2)
    assert.isFalse(sum.isRough)
  })

  it('tells nothing of what lies outside, and all of what lies within', () => {
    const sum = sumOf(amounts.slice(0, 200))
    const [below, within, above] = sum.likelihoods([-1_000_000, sum.from, sum.end, 1_000_000])
    assert.deepEqual([below, above], [0, 0])
    assert.approximately(within!, 1, 1e-11)
    assert.approximately(sum.likelihoods([sum.from, 0])[0]!, 0, 1e-12)
  })

  it('costs as much for each part, however long it has become', () => {
    const sum = sumOf(amounts.slice(0, 1_000))
    const before = sum.costOf(unit(20))
    for (const amount of amounts) sum.add(unit(amount))
    assert.isBelow(sum.costOf(unit(20)), 2 * before)
  })

  it('is rough where few parts make it long, and where it is longer than its waves may be', () => {
    assert.isTrue(sumOf([100_000, 70_000, 33_333]).isRough)
    const longer = new FineSum(Spread.even(0, longest))
    assert.isTrue(longer.isRough)
    assert.deepEqual(longer.quantiles([0.5]), [longest / 2])
    assert.isFalse(new FineSum(Spread.even(0, long - 3)).isRough)
  })

  it('stays what it was when it is asked for all its values', () => {
    const [asked, other] = [sumOf(amounts.slice(0, 900)), sumOf(amounts.slice(0, 900))]
    for (const amount of amounts.slice(900, 1_200)) {
      asked.whole()
      asked.add(unit(amount))
      other.add(unit(amount))
    }
    assert.deepEqual(asked.quantiles([0.05, 0.5, 0.95]), other.quantiles([0.05, 0.5, 0.95]))
    asked.whole().weights.forEach((weight, i) => assert.approximately(weight, other.whole().weights[i]!, 1e-15))
  })
})
