import { assert } from 'chai'
import { compile } from '../../rules/compile.ts'
import { recordsOf } from '../../testing/plans.ts'
import { checkReach } from './reach-check.ts'

type Part = Record<string, unknown>

const gate = (id: string, requires: string, more: Part = {}) => ({ gate: { id, name: id, kind: 'door', requires, ...more } })
const gives = (id: string, tally: string, amount: number | [number, number], more: Part = {}) => ({ source: { id, name: id, kind: 'event', yields: [{ tally, min: [amount].flat()[0], max: [amount].flat().at(-1) }], ...more } })
const pays = (tally: string, amount: number) => [{ tally, amount }]
const flat = { id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 0 } }
const courier = { id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }

/** Reach over a depot and a shed behind it, each with what stands there. */
function reach(contents: unknown[][], more: Part = {}) {
  return checkReach(compile(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'glass', name: 'Glass', kind: 'collectible' }, { id: 'day', name: 'Day', kind: 'score', resets: 'place' }, { id: 'key', name: 'Key', kind: 'flag' }],
    curves: [flat], characters: [courier],
    places: ['depot', 'shed', 'loft'].map((id, i) => ({ id, name: id, kind: 'area', contents: contents[i] ?? [] })),
    passages: [{ id: 'path', from: 'depot', to: 'shed' }, { id: 'ladder', from: 'shed', to: 'loft' }],
    ...more,
  })).game).result
}

/** The waves of a gate, without and with repeats, in a depot with some things. */
function waves(id: string, contents: unknown[], more: Part = {}): [number | null, number | null] {
  const { wave, waveWithRepeats } = reach([contents], more).gates[id]!
  return [wave, waveWithRepeats]
}

describe('reach at its kindest', () => {
  it('uses nothing up, by takes or costs: they must be affordable from all that was gained', () => {
    const both = [gives('a', 'stamps', 5), gate('g', '', { costs: pays('stamps', 5) }), gate('h', '', { costs: pays('stamps', 5) }), gate('i', '', { costs: pays('stamps', 6) })]
    assert.deepEqual(['g', 'h', 'i'].map((id) => waves(id, both)), [[1, 1], [1, 1], [null, null]])
    assert.deepEqual(waves('g', [gives('a', 'stamps', 2), gives('b', 'glass', 1, { count: 3, takes: pays('stamps', 2) }), gate('g', 'glass >= 3')]), [1, 1])
    assert.deepEqual(waves('g', [gives('a', 'stamps', 1), gives('b', 'glass', 1, { takes: pays('stamps', 2) }), gate('g', 'glass >= 1')]), [null, null])
  })

  it('leaves out what a negative yield takes', () => {
    assert.deepEqual(waves('g', [gives('a', 'glass', 3), gives('b', 'glass', -2), gate('g', 'glass >= 3')]), [1, 1])
  })

  it('gives the most of a range', () => {
    assert.deepEqual(waves('g', [gives('a', 'glass', [1, 4], { count: 2 }), gate('g', 'glass >= 8')]), [1, 1])
    assert.deepEqual(waves('g', [gives('a', 'glass', [1, 4], { count: 2 }), gate('g', 'glass >= 9')]), [null, null])
  })

  it('stops at the max of a tally', () => {
    const most = { tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'glass', name: 'G', kind: 'collectible', max: 5 }] }
    assert.deepEqual(['5', '6'].map((n) => waves('g', [gives('a', 'glass', 3, { respawns: true }), gate('g', `glass >= ${n}`)], most)), [[null, 1], [null, null]])
  })

  it('lets hold what falls as things grow, and whatever is not rising', () => {
    for (const requires of ['glass < 2', 'glass == 77', 'glass % 5 == 3', 'not open(h)', 'glass * stamps > 40', 'glass - 3', 'stamps >= 1 or glass <= -1']) assert.deepEqual(waves('g', [gives('a', 'glass', 9), gate('h', ''), gate('g', requires)]), [1, 1], requires)
    assert.deepEqual(waves('g', [gives('a', 'glass', 9), gate('g', 'glass < 2 and stamps >= 1')]), [null, null])
  })

  it('keeps a gain at a limit, and climbs as far as it can', () => {
    const capped = { characters: [{ ...courier, cap: 2 }] }
    assert.deepEqual(waves('g', [gives('a', 'renown', 40), gate('exam', 'level >= 2', { caps: [{ character: 'courier', level: 5 }] }), gate('g', 'level >= 5')], capped), [2, 2])
    assert.deepEqual(waves('g', [gives('a', 'renown', 40), gate('g', 'level >= 3')], capped), [null, null])
    for (const curve of [{ remainder: 'clear' }, { levelsPerGain: 'one' }]) assert.deepEqual(waves('g', [gives('a', 'renown', 20), gives('b', 'renown', 20), gate('g', 'level >= 5')], { curves: [{ ...flat, ...curve }] }), [1, 1], JSON.stringify(curve))
  })

  it('counts of what resets in a place what that place gives, beside rewards and gates of anywhere', () => {
    const two = (need: number, more: Part = {}) => reach([[gives('a', 'day', 3)], [gives('b', 'day', 2), gate('g', `day >= ${need}`)]], more).gates.g!.wave
    assert.deepEqual([2, 3, 5].map((need) => two(need)), [1, null, null])
    assert.equal(two(5, { anywhere: [gate('hat', '', { yields: [{ tally: 'day', min: 3, max: 3 }] }).gate] }), 2)
    assert.equal(two(6, { characters: [{ ...courier, startLevel: 1, rewards: [{ level: 2, yields: [{ tally: 'day', min: 4, max: 4 }] }] }], places: [{ id: 'depot', name: 'D', kind: 'area', contents: [gives('x', 'renown', 10)] }, { id: 'shed', name: 'S', kind: 'area', contents: [gives('b', 'day', 2), gate('g', 'day >= 6')] }, { id: 'loft', name: 'L', kind: 'area' }] }), 1)
  })

  it('chooses for the lowest and the average who has joined', () => {
    const party = { characters: [{ ...courier, startLevel: 4 }, { ...courier, id: 'dog', joins: 'shed' }] }
    assert.deepEqual(['lowest(level) >= 4', 'average(level) >= 4', 'lowest(level) >= 5'].map((requires) => waves('g', [gate('g', requires)], party)[0]), [1, 1, null])
  })

  it('tests a live gate from the side from which it is passed', () => {
    const tide = (at: number) => [0, 1].map((i) => [...(i === at ? [gives('a', 'day', 2)] : []), ...(i === 0 ? [gate('g', 'day >= 2', { stays: 'live', guards: { passage: 'path' } })] : [])])
    assert.deepEqual([reach(tide(0)).places.shed!.wave, reach(tide(1)).places.shed!.wave], [1, null])
  })

  it('opens in a wave what the one before made possible, and takes then what that gives', () => {
    const { gates, places, sources } = reach([[gives('a', 'glass', 1), gate('g', 'glass >= 1', { guards: { passage: 'path' } }), gate('h', 'glass >= 2')], [gives('b', 'glass', 1)]])
    assert.deepEqual([gates.g!.wave, places.shed!.wave, sources.b!.wave, gates.h!.wave], [1, 1, 1, 2])
  })

  it('knows what only repeats give', () => {
    const { gates, sources } = reach([[gives('a', 'glass', 1, { count: 2, respawns: true }), gate('g', 'glass >= 9', { guards: { passage: 'path' } })], [gives('b', 'stamps', 1)]])
    assert.deepEqual([gates.g, sources.b], [{ wave: null, waveWithRepeats: 1 }, { wave: null, waveWithRepeats: 1 }])
    assert.deepEqual(waves('g', [gives('a', 'glass', 1), gate('g', 'taken(a) >= 2')]), [null, null])
    assert.deepEqual(waves('g', [gives('a', 'glass', 1, { respawns: true }), gate('g', 'taken(a) >= 9')]), [null, 1])
  })
})

describe('reach is exact', () => {
  const isExact = (contents: unknown[], more: Part = {}) => reach([contents], more).exact

  it('where nothing in the plan asks for kindness', () => {
    assert.isTrue(isExact([gives('a', 'glass', 2), gives('b', 'renown', 20, { respawns: true }), gate('g', 'glass >= 2 and level >= 2')], { tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'glass', name: 'G', kind: 'collectible' }] }))
  })

  const plain = { tallies: [{ id: 'renown', name: 'R', kind: 'experience' }, { id: 'stamps', name: 'S', kind: 'currency' }, { id: 'glass', name: 'G', kind: 'collectible' }] }
  const kind: Record<string, [unknown[], Part?]> = {
    'costs': [[gate('g', '', { costs: pays('stamps', 1) })]], 'takes': [[gives('a', 'glass', 1, { takes: pays('stamps', 1) })]], 'a range': [[gives('a', 'glass', [1, 2])]], 'a negative yield': [[gives('a', 'glass', -1)]],
    'a tally that resets': [[], { tallies: [...plain.tallies, { id: 'day', name: 'D', kind: 'score', resets: 'place' }] }], 'someone who joins': [[], { characters: [courier, { ...courier, id: 'dog', joins: 'shed' }] }],
    'a curve that clears': [[], { curves: [{ ...flat, remainder: 'clear' }] }], 'one level for each gain': [[], { curves: [{ ...flat, levelsPerGain: 'one' }] }],
    'a cap': [[], { characters: [{ ...courier, cap: 3 }] }], 'a requirement that falls': [[gate('g', 'glass < 3')]], 'a requirement that is neither': [[gives('a', 'glass', 1, { requires: 'stamps == 0' })]],
  }
  for (const [what, [contents, more]] of Object.entries(kind)) it(`not with ${what}`, () => assert.isFalse(isExact(contents, { ...plain, ...more })))

  it('with a cap above which everything is banked', () => {
    assert.isTrue(isExact([], { ...plain, characters: [{ ...courier, cap: 3 }], curves: [{ ...flat, atTop: 'bank' }] }))
  })
})

describe('what stays closed', () => {
  const closed = (contents: unknown[][], more: Part = {}) => reach(contents, more).closed

  it('says what fails with what there is, and which names wait on closed things', () => {
    const [g] = closed([[gives('a', 'glass', 2), gate('g', 'glass >= 3 and open(h) and visited(shed) and key')], [gives('b', 'key', 1), gate('h', '')]], { passages: [] })
    assert.equal(g!.gate, 'g')
    assert.includeMembers(g!.why, ['glass >= 3: 2 against 3'])
    for (const name of ['h', 'shed', 'key']) assert.isTrue(g!.why.some((why) => why.includes(name)), name)
  })

  it('has gates that wait on each other as a ring, in order', () => {
    const ring = closed([[gate('g', 'open(h)'), gate('h', 'open(i)'), gate('i', 'open(g)'), gate('j', 'open(g)')]])
    assert.deepEqual(ring.map(({ gate: id, ring: of }) => [id, of]), [['g', ['g', 'h', 'i']], ['h', ['h', 'i', 'g']], ['i', ['i', 'g', 'h']], ['j', null]])
  })

  it('lists nothing that repeats open', () => {
    assert.deepEqual(closed([[gives('a', 'glass', 1, { respawns: true }), gate('g', 'glass >= 5')]]), [])
  })
})
