import { readdirSync, readFileSync } from 'node:fs'
import { assert } from 'chai'
import fc from 'fast-check'
import { readPlanValue } from '../../plan/file.ts'
import { compile } from '../../rules/compile.ts'
import { canOpen, canTake, enter, gatesOnWay, isOpen, standsAt } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { cloneState, newState, type State } from '../../rules/state.ts'
import type { Case } from '../../testing/compare-case.ts'
import { canWin, playFreely, startOf } from '../../testing/free-play.ts'
import { recordsOf } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import type { Move } from '../result.ts'
import { make, stateAfter } from './going.ts'
import { findsWin, isHopeless } from './hope.ts'
import { defaultBound } from './bound.ts'
import { checkLockouts } from './lockout-check.ts'
import { Space } from './space.ts'

const folder = new URL('../../testing/cases/', import.meta.url)

/** Whether a move can be made by a player who stands where the state says. */
function isPossible(game: Game, state: State, move: Move, repeats: boolean): boolean {
  if ('go' in move) {
    const p = game.passages.findIndex((found) => found.id === move.go)
    const { from, to, twoWay } = game.passages[p]!
    const target = state.place === from ? to : twoWay && state.place === to ? from : -1
    return target >= 0 && gatesOnWay(game, p, target).every((g) => isOpen(game, state, g))
  }
  if ('open' in move) {
    const g = game.gates.findIndex((gate) => gate.id === move.open)
    return standsAt(game, game.gates[g]!, state.place) && canOpen(game, state, g)
  }
  const s = game.sources.findIndex((source) => source.id === move.take)
  const source = game.sources[s]!
  return source.place === state.place && canTake(game, state, s) && (repeats || state.taken[s]! < source.count)
}

const bounds = { tally: 500_000, xp: 5_000_000, states: 30_000 }
const winnable = (game: Game, state: State, repeats: boolean) => canWin(game, cloneState(state), repeats, bounds)

describe('lock-outs', () => {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json') && !/^(bigger|rounding|hand_rounding|mixed_1)/.test(name))) {
    const known = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Case
    const read = readPlanValue(known.plan)
    if (!read.ok) throw new Error(file)
    const { game } = compile(read.records)
    const result = checkLockouts(game, { ...defaultBound, states: 250_000 })
    for (const part of ['stuck', 'forcedGrind'] as const) {
      const { witness } = result[part]
      if (!witness) continue
      it(`${file.replace('.json', '')}: the witness of ${part} can be played, and ends where it says`, () => {
        const state = newState(game)
        enter(game, state, game.start, plainPlay)
        for (const move of witness) {
          assert.isTrue(isPossible(game, state, move, part === 'stuck'), JSON.stringify(move))
          make(game, state, move)
        }
        if (part === 'stuck') assert.isNotTrue(winnable(game, state, true))
        else {
          assert.isNotTrue(winnable(game, state, false))
          assert.isNotFalse(winnable(game, state, true))
        }
        assert.isString(result[part].missing)
      })
    }
  }

  const anySource = fc.record({
    tally: fc.constantFrom('stamps', 'glass', 'day', 'renown', 'zeal'),
    amount: fc.integer({ min: 1, max: 3 }),
    fine: fc.constantFrom(0, 0, 0, 1, 3),
    takes: fc.constantFrom(0, 0, 0, 1),
    count: fc.integer({ min: 1, max: 2 }),
    respawns: fc.boolean(),
    requires: fc.constantFrom('', '', '', 'day >= 2', 'day >= 2 and glass >= 1', 'stamps >= 2', 'level >= 2', 'level(helper) >= 2'),
    cap: fc.constantFrom(null, null, null, 2),
  })
  const anyGate = fc.record({
    requires: fc.constantFrom('', 'glass >= 2', 'stamps >= 3', 'level >= 2', 'day >= 1', 'stamps < 4', 'level(helper) >= 2'),
    cost: fc.constantFrom(0, 0, 1, 2),
    guards: fc.constantFrom<object | null>(null, null, { passage: 'a' }, { passage: 'b' }, { passage: 'c' }, { place: 'p1' }, { place: 'p2' }),
    main: fc.boolean(),
    gives: fc.constantFrom(null, null, 'stamps', 'renown'),
    live: fc.constantFrom(false, false, true),
    anywhere: fc.constantFrom(false, false, true),
  })
  const anyItem = fc.oneof({ weight: 3, arbitrary: anySource.map((source) => ({ source })) }, { weight: 2, arbitrary: anyGate.map((gate) => ({ gate })) })
  type Item = typeof anyItem extends fc.Arbitrary<infer T> ? T : never
  const anyPlace = fc.array(anyItem, { maxLength: 3 })
  const anySmallWorld = fc.record({
    places: fc.tuple(anyPlace, anyPlace, anyPlace),
    twoWay: fc.boolean(),
    goal: fc.boolean(),
    joins: fc.constantFrom(null, null, 'p1'),
    /** A fourth place, into which a way leads that does not lead back, and another such way. */
    pit: fc.option(fc.tuple(fc.constantFrom('p1', 'p2', 'p3', 'p3'), fc.constantFrom('p0', 'p1', 'p2'))),
    atTop: fc.constantFrom('bank', 'bank', 'discard', 'hold'),
    cap: fc.constantFrom(null, null, 1),
    rewards: fc.constantFrom(null, null, 'stamps', 'glass'),
  })
  type World = typeof anySmallWorld extends fc.Arbitrary<infer T> ? T : never

  function gameOf({ places, twoWay, goal, joins, pit, atTop, cap, rewards }: World): Game {
    let n = 0
    const recordOf = (item: Item) => {
      const id = `i${n++}`
      if ('source' in item) {
        const { tally, amount, fine, takes, cap: level, ...rest } = item.source
        const fined = fine ? [{ tally: 'stamps', min: -fine, max: -fine }] : []
        return { source: { id, name: id, kind: 'event', ...rest, takes: takes ? [{ tally: 'stamps', amount: takes }] : [], yields: [{ tally, min: amount, max: amount }, ...fined], caps: level ? [{ character: 'courier', level }] : [] } }
      }
      const { cost, guards, main, gives, live, anywhere: _, ...rest } = item.gate
      const isThere = guards !== null && (pit !== null || (guards as { passage?: string }).passage !== 'c')
      const pays = !live && cost ? [{ tally: 'stamps', amount: cost }] : []
      return { gate: { id, name: id, kind: 'door', ...rest, stays: live ? 'live' : 'open', role: main ? 'main' : 'side', costs: pays, guards: isThere ? guards : null, yields: !live && gives ? [{ tally: gives, min: 1, max: 1 }] : [] } }
    }
    const isAnywhere = (item: Item) => 'gate' in item && item.gate.anywhere
    return compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0',
      tallies: [{ id: 'stamps', name: 'S', kind: 'currency' }, { id: 'glass', name: 'G', kind: 'collectible', max: 3 }, { id: 'day', name: 'D', kind: 'score', resets: 'place' }, { id: 'renown', name: 'R', kind: 'experience' }, { id: 'zeal', name: 'Z', kind: 'experience', resets: 'place' }],
      curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 3, counts: 'step', rule: { kind: 'growth', base: 2, factor: 1, add: 0 }, atTop }],
      characters: [
        { id: 'courier', name: 'C', experience: 'renown', curve: 'rank', joins, cap, rewards: rewards ? [{ level: 2, yields: [{ tally: rewards, min: 1, max: 1 }] }] : [] },
        { id: 'helper', name: 'H', experience: 'zeal', curve: 'rank' },
      ],
      places: [...places, []].map((items, p) => ({ id: `p${p}`, name: 'P', kind: 'area', goal: goal && p === 2, contents: items.filter((item) => !isAnywhere(item)).map(recordOf) })),
      anywhere: places.flat().filter(isAnywhere).map(recordOf).map((entry) => entry.gate),
      passages: [{ id: 'a', from: 'p0', to: 'p1' }, { id: 'b', from: 'p1', to: 'p2', twoWay }, ...(pit ? [{ id: 'c', from: 'p1', to: 'p3', twoWay: false }, { id: 'd', from: pit[0], to: pit[1], twoWay: false }] : [])],
    })).game
  }

  /** A live gate on the way into the place where alone is to be had what it asks for. */
  const behindItself: World = {
    places: [[], [{ gate: { requires: 'day >= 1', cost: 0, guards: { place: 'p1' }, main: false, gives: null, live: true, anywhere: false } }, { source: { tally: 'day', amount: 1, fine: 0, takes: 0, count: 1, respawns: true, requires: '', cap: null } }], []],
    twoWay: false, goal: true, joins: null, pit: null, atTop: 'bank', cap: null, rewards: null,
  }

  /** A live gate that asks for few stamps, of which one repeat gives more and another takes away: without end, in the order written. */
  const lessByRepeats: World = {
    places: [
      [{ source: { tally: 'stamps', amount: 2, fine: 0, takes: 0, count: 2, respawns: true, requires: '', cap: null } }, { source: { tally: 'stamps', amount: 1, fine: 3, takes: 0, count: 1, respawns: true, requires: '', cap: null } }],
      [],
      [{ gate: { requires: 'stamps < 4', cost: 0, guards: { passage: 'a' }, main: false, gives: null, live: true, anywhere: false } }],
    ],
    twoWay: false, goal: true, joins: null, pit: null, atTop: 'bank', cap: null, rewards: null,
  }

  it('are what plain play finds, on small plans of every make', () => {
    let decided = 0
    fc.assert(fc.property(anySmallWorld, fc.constantFrom(1, 6, 200_000), (world, few) => {
      const game = gameOf(world)
      const plain = playFreely(game, { tally: 120_000, xp: 200_000, states: 4_000 })
      if (!plain) return
      decided++
      // Whether there is hope is asked early, or never.
      const { stuck, forcedGrind } = checkLockouts(game, { ...defaultBound, states: 200_000, few })
      for (const [part, repeats] of [[stuck, true], [forcedGrind, false]] as const) {
        const state = startOf(game)
        for (const move of part.witness ?? []) {
          assert.isTrue(isPossible(game, state, move, repeats), JSON.stringify(part.witness))
          make(game, state, move)
        }
        if (part.witness) assert.isFalse(canWin(game, state, repeats, { tally: 120_000, xp: 200_000, states: 8_000 }) ?? false)
      }
      assert.equal(stuck.result === 'found', plain.stuck)
      if (stuck.witness) assert.equal(stuck.witness.length === 0, !plain.canBeWon, 'an empty witness')
      assert.equal(forcedGrind.result === 'found', plain.forcedGrind)
    }), { numRuns: runs(250), examples: [[behindItself, 1], [lessByRepeats, 1]] })
    assert.isAbove(decided, 100)
  })

  /** A place with these things and a door to the goal, of which some is asked. */
  function before(door: string, contents: unknown[], more: object = {}): Game {
    return compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'S', kind: 'currency' }, { id: 'glass', name: 'G', kind: 'collectible' }, { id: 'renown', name: 'R', kind: 'experience' }, { id: 'zeal', name: 'Z', kind: 'experience' }],
      places: [{ id: 'depot', name: 'D', kind: 'hub', contents: [...contents, { gate: { id: 'door', name: 'Door', kind: 'door', requires: door, guards: { place: 'quay' } } }] }, { id: 'quay', name: 'Q', kind: 'area', goal: true }],
      passages: [{ id: 'way', from: 'depot', to: 'quay' }], ...more,
    })).game
  }
  const source = (id: string, more: object) => ({ source: { id, name: id, kind: 'event', role: 'main', count: 1, yields: [], ...more } })
  const gives = (tally: string, amount: number) => ({ yields: [{ tally, min: amount, max: amount }] })

  it('count what a repeated exchange can use up', () => {
    const game = before('glass >= 20', [source('till', gives('stamps', 30)), source('swap', { respawns: true, takes: [{ tally: 'stamps', amount: 1 }], ...gives('glass', 1) })])
    assert.equal(checkLockouts(game).stuck.result, 'none')
    const dear = before('glass >= 20', [source('till', gives('stamps', 19)), source('swap', { respawns: true, takes: [{ tally: 'stamps', amount: 1 }], ...gives('glass', 1) })])
    assert.deepEqual(checkLockouts(dear).stuck.witness, [])
  })

  /** What is earned, paid and exchanged again and again: by how much at a time, and from what into what. */
  const anyAmount = fc.record({ tally: fc.constantFrom('stamps', 'glass', 'oil'), amount: fc.integer({ min: 1, max: 3 }) })
  const anyDeal = fc.record({
    takes: fc.uniqueArray(anyAmount, { maxLength: 2, selector: ({ tally }) => tally }),
    gives: fc.uniqueArray(anyAmount, { maxLength: 2, selector: ({ tally }) => tally }),
    count: fc.integer({ min: 1, max: 2 }),
    respawns: fc.constantFrom(true, true, false),
    requires: fc.constantFrom('', '', '', 'glass >= 2', 'oil >= 1'),
    beyond: fc.constantFrom(false, false, true),
  })
  const anyDoor = fc.record({ requires: fc.constantFrom('', 'glass >= 2', 'stamps >= 3', 'oil >= 1', 'stamps + glass >= 4'), costs: fc.uniqueArray(anyAmount, { maxLength: 2, selector: ({ tally }) => tally }) })
  const anyEconomy = fc.record({ deals: fc.array(anyDeal, { minLength: 2, maxLength: 4 }), gate: anyDoor, door: anyDoor, max: fc.constantFrom(null, null, 5), twoWay: fc.boolean(), start: fc.integer({ min: 0, max: 2 }) })
  type Economy = typeof anyEconomy extends fc.Arbitrary<infer T> ? T : never

  function economy({ deals, gate, door, max, twoWay, start }: Economy): Game {
    const dealt = deals.map(({ takes, gives, beyond, ...rest }, i) => ({ beyond, item: { source: { id: `deal_${i}`, name: 'D', kind: 'event', ...rest, takes, yields: gives.map(({ tally, amount }) => ({ tally, min: amount, max: amount })) } } }))
    const doorOf = (id: string, more: object, guards: object) => ({ gate: { id, name: 'D', kind: 'door', guards, ...more } })
    return compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
      tallies: [{ id: 'stamps', name: 'S', kind: 'currency', start, max }, { id: 'glass', name: 'G', kind: 'collectible' }, { id: 'oil', name: 'O', kind: 'collectible' }],
      places: [
        { id: 'depot', name: 'D', kind: 'hub', contents: [...dealt.filter(({ beyond }) => !beyond).map(({ item }) => item), doorOf('gate', gate, { passage: 'path' }), doorOf('door', door, { place: 'quay' })] },
        { id: 'cove', name: 'C', kind: 'area', contents: dealt.filter(({ beyond }) => beyond).map(({ item }) => item) },
        { id: 'quay', name: 'Q', kind: 'area', goal: true },
      ],
      passages: [{ id: 'way', from: 'depot', to: 'quay' }, { id: 'path', from: 'depot', to: 'cove', twoWay }],
    })).game
  }

  it('are what plain play finds, where all can be paid and exchanged again and again', () => {
    const bounds = { tally: 160_000, xp: 1, states: 4_000 }
    let decided = 0
    fc.assert(fc.property(anyEconomy, (plan) => {
      const game = economy(plan)
      const plain = playFreely(game, bounds)
      if (!plain) return
      const { stuck, forcedGrind } = checkLockouts(game, { ...defaultBound, states: 20_000, few: 300 })
      if (stuck.result !== 'undecided') assert.equal(stuck.result === 'found', plain.stuck, 'stuck')
      if (forcedGrind.result !== 'undecided') assert.equal(forcedGrind.result === 'found', plain.forcedGrind, 'forced grind')
      if (stuck.witness) assert.isNotTrue(canWin(game, stateAfter(game, stuck.witness), true, bounds), 'the witness')
      if (stuck.result !== 'undecided') decided++
    }), { numRuns: runs(120) })
    assert.isAbove(decided, 60)
  })

  it('know that of 7 which are used up 2 at a time one is left, and of 6 none', () => {
    const swap = source('swap', { respawns: true, takes: [{ tally: 'stamps', amount: 2 }], ...gives('glass', 1) })
    const left = (stamps: number, more: unknown[] = []) => checkLockouts(before('stamps', [source('till', gives('stamps', stamps)), swap, ...more])).stuck
    assert.equal(left(7).result, 'none')
    assert.deepEqual(left(6).witness, [{ take: 'till' }, { take: 'swap' }, { take: 'swap' }, { take: 'swap' }])
    // With another that uses up 3 at a time nothing need be left of 7 either.
    assert.deepEqual(left(7, [source('feed', { respawns: true, takes: [{ tally: 'stamps', amount: 3 }] })]).witness?.length, 4)
  })

  it('are ruled out where what is bought can be sold again, as long as more can be earned', () => {
    const income = (respawns: boolean) => source('round', { respawns, count: 12, ...gives('stamps', 5) })
    const buy = source('buy', { respawns: true, takes: [{ tally: 'stamps', amount: 10 }], ...gives('glass', 1) })
    const sell = source('sell', { respawns: true, takes: [{ tally: 'glass', amount: 1 }], ...gives('stamps', 5) })
    assert.equal(checkLockouts(before('glass >= 3 and stamps >= 20', [income(true), buy, sell])).stuck.result, 'none')
    assert.equal(checkLockouts(before('glass >= 3 and stamps >= 20', [income(false), buy, sell])).stuck.result, 'found')
  })

  it('let one of a party make up an average alone', () => {
    const curves = [{ id: 'rank', name: 'R', firstLevel: 1, maxLevel: 20, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 0 } }]
    const characters = [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }, { id: 'dog', name: 'D', experience: 'zeal', curve: 'rank' }]
    const tallies = [{ id: 'stamps', name: 'S', kind: 'currency', start: 10 }, { id: 'renown', name: 'R', kind: 'experience' }, { id: 'zeal', name: 'Z', kind: 'experience' }]
    const shop = { gate: { id: 'shop', name: 'Shop', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount: 7 }] } }
    const game = before('average(level) >= 5', [shop, source('round', { count: 10, takes: [{ tally: 'stamps', amount: 1 }], ...gives('renown', 10) })], { tallies, curves, characters })
    assert.deepEqual(checkLockouts(game).stuck.witness, [{ open: 'shop' }])
  })

  it('know amounts below 0 from none', () => {
    const tallies = [{ id: 'stamps', name: 'S', kind: 'score', min: -3 }, { id: 'glass', name: 'G', kind: 'score', min: null }]
    assert.equal(checkLockouts(before('stamps >= 4', [source('row', { respawns: true, ...gives('stamps', 1) })], { tallies })).stuck.result, 'none')
    const debt = before('stamps + glass >= 2', [source('fine', { count: 2, ...gives('glass', -4) }), source('row', { count: 12, ...gives('stamps', 1) })], { tallies })
    assert.equal(checkLockouts(debt).stuck.result, 'none')
  })

  it('weigh one amount against another that has an end', () => {
    const box = source('box', { count: 3, ...gives('glass', 2) })
    assert.equal(checkLockouts(before('stamps - glass >= 2', [box, source('row', { respawns: true, ...gives('stamps', 1) })])).stuck.result, 'none')
    assert.equal(checkLockouts(before('stamps - glass >= 2', [box, source('row', { count: 8, ...gives('stamps', 1) })])).stuck.result, 'none')
    assert.deepEqual(checkLockouts(before('stamps - glass >= 2', [source('row', gives('stamps', 1)), box])).stuck.witness, [])
    assert.deepEqual(checkLockouts(before('stamps / 2 - glass >= 1', [source('row', { count: 7, ...gives('stamps', 1) }), box])).stuck.witness, [{ take: 'box' }, { take: 'box' }])
  })

  it('count units that are repeated where their number is asked', () => {
    assert.equal(checkLockouts(before('taken(row) > 2', [source('row', { count: 2, respawns: true, ...gives('stamps', 1) })])).stuck.result, 'none')
  })

  it('know who goes back for somewhere that only came to open meanwhile', () => {
    // Something of the day is held when the second of two gates opens: it is on leaving that the quay is first come to.
    const tallies = [{ id: 'day', name: 'D', kind: 'score', start: 1, resets: 'place' }, { id: 'renown', name: 'R', kind: 'experience' }]
    const curves = [{ id: 'rank', name: 'R', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 3, factor: 1, add: 0 } }]
    const characters = [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }]
    const hatch = { gate: { id: 'hatch', name: 'H', kind: 'door', role: 'side', guards: { passage: 'way' }, yields: [{ tally: 'day', min: -2, max: -2 }] } }
    const round = source('round', { yields: [{ tally: 'renown', min: 4, max: 4 }, { tally: 'day', min: 3, max: 4 }] })
    const walk = source('walk', { count: 2, requires: 'highest(level) + day >= 2', ...gives('renown', 6) })
    assert.equal(checkLockouts(before('level >= 2', [round, walk, hatch], { tallies, curves, characters })).stuck.result, 'none')
  })

  /** A shop with so many things to buy, each of its own price, and a door that costs the rest. */
  function shop(things: number, door: number): Game {
    const prices = Array.from({ length: things }, (_, i) => 3 + ((i * 7) % 11))
    const buys = prices.map((amount, i) => ({ gate: { id: `buy_${i}`, name: 'B', kind: 'shop_item', role: 'side', costs: [{ tally: 'stamps', amount }] } }))
    const all = prices.reduce((sum, price) => sum + price, 0)
    return compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0', tallies: [{ id: 'stamps', name: 'S', kind: 'currency' }],
      places: [{ id: 'p0', name: 'P', kind: 'hub', contents: [{ source: { id: 'round', name: 'R', kind: 'quest', count: 1, yields: [{ tally: 'stamps', min: all, max: all }] } }, ...buys, { gate: { id: 'door', name: 'D', kind: 'door', guards: { passage: 'a' }, costs: [{ tally: 'stamps', amount: door }] } }] },
        { id: 'p1', name: 'P', kind: 'area', goal: true }],
      passages: [{ id: 'a', from: 'p0', to: 'p1' }],
    })).game
  }

  it('of 25 things to buy with one currency are decided', () => {
    const found = checkLockouts(shop(25, 5), { ...defaultBound, states: 100_000 })
    assert.equal(found.stuck.result, 'found')
    const free = checkLockouts(shop(25, 0), { ...defaultBound, states: 100_000 })
    assert.deepEqual([free.stuck.result, free.forcedGrind.result], ['none', 'none'])
  })

  it('are found in the plan that comes with the application, though its states are too many to look at', () => {
    const { game } = compile(recordsOf(JSON.parse(readFileSync(new URL('../../../../demo/lamplight_post.tundrift.json', import.meta.url), 'utf8'))))
    const { stuck, forcedGrind } = checkLockouts(game, { ...defaultBound, states: 60_000 })
    assert.deepEqual([stuck.result, forcedGrind.result], ['none', 'found'])
    const state = startOf(game)
    for (const move of forcedGrind.witness!) {
      assert.isTrue(isPossible(game, state, move, false), JSON.stringify(move))
      make(game, state, move)
    }
    const space = new Space(game)
    assert.isTrue(isHopeless(game, state, false))
    assert.isTrue(findsWin(game, space, space.asSeen(state), true))
    assert.isTrue(findsWin(game, space, space.start(), false))
  })

  it('are found where one goes on with too little, among more things than can be told apart', () => {
    const things = Array.from({ length: 40 }, (_, i) => ({ source: { id: `thing_${i}`, name: 'T', kind: 'pickup', yields: [{ tally: i === 30 ? 'key' : 'renown', min: 1, max: 1 }] } }))
    const { game } = compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
      tallies: [{ id: 'renown', name: 'R', kind: 'score' }, { id: 'key', name: 'K', kind: 'flag' }],
      places: [
        { id: 'depot', name: 'D', kind: 'hub', contents: things },
        { id: 'slope', name: 'S', kind: 'area', contents: [{ gate: { id: 'hatch', name: 'H', kind: 'door', requires: 'renown >= 3', guards: { passage: 'drop' } } }] },
        { id: 'cove', name: 'C', kind: 'area', contents: [{ gate: { id: 'door', name: 'D', kind: 'door', requires: 'key', guards: { passage: 'way' } } }] },
        { id: 'shore', name: 'S', kind: 'area', goal: true },
      ],
      passages: [{ id: 'path', from: 'depot', to: 'slope' }, { id: 'drop', from: 'slope', to: 'cove', twoWay: false }, { id: 'way', from: 'cove', to: 'shore' }],
    }))
    const { stuck } = checkLockouts(game, { ...defaultBound, states: 500 })
    // Not a thing more than the hatch asks for, and so not the key.
    assert.deepEqual(stuck.witness?.map((move) => Object.values(move)[0] as string), ['thing_0', 'thing_1', 'thing_2', 'path', 'hatch', 'drop'])
    assert.match(stuck.missing!, /key/)
  })

  it('are there from the start where a key lies beyond the way that it opens, among more things than can be told apart', () => {
    const things = Array.from({ length: 40 }, (_, i) => source(`thing_${i}`, { ...gives('renown', 1), takes: [{ tally: 'stamps', amount: 1 + (i % 7) }] }))
    const plan = (twoWay: boolean) => before('', [], {
      places: [
        { id: 'depot', name: 'D', kind: 'hub', contents: [source('till', gives('stamps', 5)), ...things, { gate: { id: 'door', name: 'Door', kind: 'door', requires: 'glass and stamps >= 3', guards: { passage: 'way' } } }] },
        { id: 'cove', name: 'C', kind: 'area', contents: [source('box', gives('glass', 1))] },
        { id: 'quay', name: 'Q', kind: 'area', goal: true },
      ],
      passages: [{ id: 'way', from: 'depot', to: 'quay' }, { id: 'drop', from: 'depot', to: 'cove', twoWay }],
    })
    const bound = { ...defaultBound, states: 500, few: 50 }
    assert.deepEqual(checkLockouts(plan(false), bound).stuck.witness, [])
    assert.isNotEmpty(checkLockouts(plan(true), bound).stuck.witness)
  })

  it('say what is wrong with a gate that is in error, and what others need', () => {
    const plan = (requires: string) => recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'stamps', name: 'Stamps', kind: 'currency' }],
      places: [{ id: 'depot', name: 'Depot', kind: 'hub', contents: [{ gate: { id: 'hatch', name: 'Hatch', kind: 'door', guards: { passage: 'way' }, requires } }] }, { id: 'pier', name: 'Pier', kind: 'area', goal: true }],
      passages: [{ id: 'way', from: 'depot', to: 'pier' }],
    })
    const missing = (requires: string) => checkLockouts(compile(plan(requires)).game).stuck.missing
    assert.equal(missing('stamps >= 3'), 'Hatch needs stamps >= 3 (has 0)')
    assert.match(missing('stomps >= 3')!, /^Hatch is in error: "stomps" is no tally/)
  })

  it('are not decided past the bound, never ruled out', () => {
    const known = JSON.parse(readFileSync(new URL('costs_1.json', folder), 'utf8')) as Case
    const read = readPlanValue(known.plan)
    if (!read.ok) throw new Error('costs_1')
    const { stuck, forcedGrind } = checkLockouts(compile(read.records).game, { ...defaultBound, states: 2 })
    assert.notEqual(stuck.result, 'none')
    assert.notEqual(forcedGrind.result, 'none')
  })
})
