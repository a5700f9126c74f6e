import { assert } from 'chai'
import { drawnLane, zoomedDomain, type LaneInput } from './lane-scale.ts'

const lane = (fields: Partial<LaneInput>): LaneInput => ({ id: 'tally stamps', name: 'Stamps', line: null, low: 0, high: 100, left: 300, width: 70, wide: false, levels: null, others: [], zoom: null, ...fields })
const labels = (fields: Partial<LaneInput>) => drawnLane(lane(fields)).ticks.map(({ label }) => label)
const levels = Array.from({ length: 60 }, (_, i) => ({ level: i + 1, xp: i * 1_000 }))

describe('a lane as it is drawn', () => {
  it('has at least two numbers on its axis, however narrow it is, and none upon another', () => {
    for (const high of [3, 10, 64, 437, 1_100, 9_400, 88_000]) {
      const { ticks } = drawnLane(lane({ high }))
      assert.isAtLeast(ticks.length, 2, `up to ${high}`)
      ticks.slice(1).forEach((tick, i) => assert.isAtLeast(tick.x - ticks[i]!.x, 4 * (tick.label.length + ticks[i]!.label.length)))
      assert.isAtMost(ticks.at(-1)!.x + 4 * ticks.at(-1)!.label.length, 300 + 70)
    }
    assert.deepEqual(labels({ high: 1_100 }), ['0', '500'])
  })

  it('goes from edge to edge of what it has to show', () => {
    const { scale } = drawnLane(lane({ low: 5, high: 25 }))
    assert.deepEqual([scale(5), scale(25)], [314, 356])
  })

  it('leaves room between long numbers of XP', () => {
    const levels = Array.from({ length: 90 }, (_, i) => ({ level: i + 1, xp: i * 1_234 }))
    const { ticks } = drawnLane(lane({ id: 'level courier', low: 1, high: 90, width: 302, wide: true, levels }))
    assert.isAbove(ticks.length, 3)
    ticks.slice(1).forEach(({ x, under }, i) => assert.isAtLeast(x - ticks[i]!.x, ((under.length + ticks[i]!.under.length) / 2) * 5.6))
  })

  it('has levels a whole number apart, with the XP under them where there is room', () => {
    const wide = drawnLane(lane({ id: 'level courier', low: 1, high: 60, width: 300, wide: true, levels })).ticks
    const steps = wide.slice(1).map((tick, i) => Number(tick.label) - Number(wide[i]!.label))
    assert.lengthOf(new Set(steps), 1)
    assert.equal(wide[1]!.under, ((Number(wide[1]!.label) - 1) * 1_000).toLocaleString('en-US'))
    assert.isTrue(drawnLane(lane({ id: 'level courier', low: 1, high: 60, levels })).ticks.every(({ under }) => under === ''))
  })

  it('shows a part of its scale when it is zoomed, and never what lies beyond', () => {
    assert.deepEqual(zoomedDomain([0, 100], { times: 4, at: 50 }), [37.5, 62.5])
    assert.deepEqual(zoomedDomain([0, 100], { times: 4, at: 0 }), [0, 25])
    assert.deepEqual(zoomedDomain([0, 100], { times: 4, at: 99 }), [75, 100])
    assert.deepEqual(zoomedDomain([0, 100], { times: 0.5, at: 50 }), [0, 100])
    const zoomed = drawnLane(lane({ zoom: { times: 4, at: 50 } }))
    assert.isTrue(zoomed.zoomed)
    assert.deepEqual(zoomed.scale.domain(), [37.5, 62.5])
  })

  it('is the same again while it is drawn from the same', () => {
    const first = drawnLane(lane({}))
    assert.strictEqual(drawnLane(lane({}), first), first)
    assert.notStrictEqual(drawnLane(lane({ high: 101 }), first), first)
    assert.notStrictEqual(drawnLane(lane({ others: [{ name: 'Usual', line: null as never }] }), first), first)
  })
})
