import { assert } from 'chai'
import fc from 'fast-check'
import { compile } from '../../rules/compile.ts'
import { canOpen, canTake, closedOnWay, enter, open, standsAt, take } from '../../rules/engine.ts'
import { plainPlay } from '../../rules/gain.ts'
import type { Game } from '../../rules/game.ts'
import { newState, type State } from '../../rules/state.ts'
import { toFile } from '../../plan/file.ts'
import { everHad } from '../../testing/free-play.ts'
import { plainReach } from '../../testing/plain/plain-reach.ts'
import { anySample, recordsOf } from '../../testing/plans.ts'
import { runs } from '../../testing/runs.ts'
import { anyWorld } from '../../testing/worlds.ts'
import { checkReach } from './reach-check.ts'

/** Every move that a player can make here, by index. */
function moves(game: Game, state: State): (() => void)[] {
  const { contents, ways } = game.places[state.place]!
  const here = contents.flatMap(({ source, gate }) => {
    if (source !== null) return canTake(game, state, source) ? [() => take(game, state, source, plainPlay)] : []
    return canOpen(game, state, gate!) ? [() => open(game, state, gate!, plainPlay)] : []
  })
  const anywhere = game.anywhere.filter((g) => standsAt(game, game.gates[g]!, state.place) && canOpen(game, state, g)).map((g) => () => open(game, state, g, plainPlay))
  const going = ways.filter(({ passage, to }) => closedOnWay(game, state, passage, to).length === 0).map(({ to }) => () => enter(game, state, to, plainPlay))
  return [...here, ...anywhere, ...going]
}

describe('reach', () => {
  it('never closes what some play opens, takes or enters', () => {
    fc.assert(fc.property(anySample, fc.array(fc.nat(1000), { minLength: 10, maxLength: 120 }), (records, picks) => {
      const { game } = compile(records)
      const { result } = checkReach(game)
      const state = newState(game)
      enter(game, state, game.start, plainPlay)
      for (const pick of picks) {
        const all = moves(game, state)
        if (all.length) all[pick % all.length]!()
      }
      game.gates.forEach((gate, g) => state.opened[g] && assert.isNotNull(result.gates[gate.id]!.waveWithRepeats, gate.id))
      game.places.forEach((place, p) => state.visited[p] && assert.isNotNull(result.places[place.id]!.waveWithRepeats, place.id))
      game.sources.forEach((source, s) => state.taken[s] && assert.isNotNull(result.sources[source.id]!.waveWithRepeats, source.id))
    }), { numRuns: runs(60) })
  })

  it('never closes what some play has, in worlds in which all rules mix', () => {
    fc.assert(fc.property(anyWorld, (records) => {
      const { game } = compile(records)
      const { result } = checkReach(game)
      const had = everHad(game, { tally: 300_000, xp: 300_000, states: 300 })
      if (!had) return
      for (const kind of ['gates', 'places', 'sources'] as const) {
        had[kind].forEach((is, i) => is && assert.isNotNull(result[kind][game[kind][i]!.id]!.waveWithRepeats, `${kind} ${i}`))
      }
    }), { numRuns: runs(200) })
  })

  it('counts a live gate as open to who asks for it where it holds, though it is passed from where it does not, or from nowhere', () => {
    const plan = (passage: object) => compile(recordsOf({
      format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot', tallies: [{ id: 'day', name: 'D', kind: 'score', resets: 'place' }],
      places: [
        { id: 'depot', name: 'D', kind: 'hub', contents: [{ gate: { id: 'bell', name: 'B', kind: 'door', requires: 'day >= 1', stays: 'live', guards: { passage: 'way' } } }] },
        { id: 'cove', name: 'C', kind: 'area', contents: [{ source: { id: 'box', name: 'B', kind: 'pickup', yields: [{ tally: 'day', min: 1, max: 1 }] } }, { gate: { id: 'chest', name: 'C', kind: 'door', requires: 'open(bell)' } }] },
        { id: 'quay', name: 'Q', kind: 'area' },
      ],
      passages: [{ id: 'path', from: 'depot', to: 'cove' }, { id: 'way', twoWay: false, ...passage }],
    })).game
    for (const way of [{ from: 'depot', to: 'quay' }, { from: 'quay', to: 'depot' }]) {
      const { gates, places } = checkReach(plan(way)).result
      assert.deepEqual([gates['chest']!.wave, gates['bell']!.wave, places['quay']!.wave], [1, null, null])
    }
  })

  const anySource = fc.record({ tally: fc.constantFrom('key', 'glass', 'renown'), amount: fc.integer({ min: 1, max: 3 }), count: fc.integer({ min: 1, max: 2 }), respawns: fc.boolean(), requires: fc.constantFrom('', '', 'key', 'glass >= 2', 'level >= 2') })
  const anyGate = fc.record({ requires: fc.constantFrom('', 'key', 'glass >= 3', 'level >= 2', 'level >= 3 and key', 'glass >= 2 or key', 'visited(p1)'), guards: fc.constantFrom(null, { passage: 'a' }, { passage: 'b' }, { place: 'p2' }), gives: fc.constantFrom(null, null, 'glass') })
  const anyContents = fc.array(fc.oneof(anySource.map((source) => ({ source })), anyGate.map((gate) => ({ gate }))), { maxLength: 3 })

  it('has the waves of its plain reading, in worlds in which all rules mix', () => {
    fc.assert(fc.property(anyWorld, (records) => {
      const { result } = checkReach(compile(records).game)
      const plan = toFile(records)
      const [once, again] = [plainReach(plan, false), plainReach(plan, true)]
      for (const kind of ['places', 'sources', 'gates'] as const) {
        const plain = Object.fromEntries(Object.keys(result[kind]).map((id) => [id, { wave: once[kind][id] ?? null, waveWithRepeats: again[kind][id] ?? null }]))
        assert.deepEqual(result[kind], plain, kind)
      }
    }), { numRuns: runs(400) })
  })

  it('is what exhaustive play has, where it says that it is exact', () => {
    let exact = 0
    fc.assert(fc.property(fc.tuple(anyContents, anyContents, anyContents), (places) => {
      let n = 0
      const contents = (items: (typeof places)[number]) => items.map((item) => {
        const id = `i${n++}`
        if ('source' in item) return { source: { id, name: id, kind: 'event', count: item.source.count, respawns: item.source.respawns, requires: item.source.requires, yields: [{ tally: item.source.tally, min: item.source.amount, max: item.source.amount }] } }
        return { gate: { id, name: id, kind: 'door', requires: item.gate.requires, guards: item.gate.guards, yields: item.gate.gives ? [{ tally: item.gate.gives, min: 1, max: 1 }] : [] } }
      })
      const { game } = compile(recordsOf({
        format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'p0',
        tallies: [{ id: 'key', name: 'Key', kind: 'flag' }, { id: 'glass', name: 'Glass', kind: 'collectible' }, { id: 'renown', name: 'R', kind: 'experience' }],
        curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 3, counts: 'step', rule: { kind: 'growth', base: 2, factor: 1, add: 0 } }],
        characters: [{ id: 'courier', name: 'C', experience: 'renown', curve: 'rank' }],
        places: places.map((items, p) => ({ id: `p${p}`, name: 'P', kind: 'area', contents: contents(items) })),
        passages: [{ id: 'a', from: 'p0', to: 'p1' }, { id: 'b', from: 'p1', to: 'p2' }, { id: 'c', from: 'p0', to: 'p2' }],
      }))
      const had = everHad(game, { tally: 60_000, xp: 100_000, states: 3_000 })
      const { result } = checkReach(game)
      if (!had || !result.exact) return
      exact++
      const open = (table: Record<string, { waveWithRepeats: number | null }>, ids: readonly { id: string }[]) => ids.map(({ id }) => table[id]!.waveWithRepeats !== null)
      assert.deepEqual(open(result.gates, game.gates), had.gates, 'gates')
      assert.deepEqual(open(result.places, game.places), had.places, 'places')
      assert.deepEqual(open(result.sources, game.sources), had.sources, 'sources')
    }), { numRuns: runs(250) })
    assert.isAbove(exact, 100)
  })

  it('needs no more waves with repeats than without', () => {
    fc.assert(fc.property(anySample, (records) => {
      const { result } = checkReach(compile(records).game)
      for (const table of [result.places, result.sources, result.gates]) {
        for (const { wave, waveWithRepeats } of Object.values(table)) if (wave !== null) assert.isAtMost(waveWithRepeats!, wave)
      }
    }), { numRuns: runs(30) })
  })

  const gate = (id: string, requires: string, guards: unknown = null) => ({ gate: { id, name: id, kind: 'door', requires, guards } })
  const flag = (id: string) => ({ source: { id: `find_${id}`, name: id, kind: 'pickup', yields: [{ tally: id, min: 1, max: 1 }] } })
  const build = (depot: unknown[], shed: unknown[]) => compile(recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'key', name: 'Key', kind: 'flag' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }],
    places: [{ id: 'depot', name: 'Depot', kind: 'area', contents: depot }, { id: 'shed', name: 'Shed', kind: 'area', contents: shed }],
    passages: [{ id: 'path', from: 'depot', to: 'shed' }],
  })).game

  it('says why a gate stays closed, and knows a key behind its own door for a ring', () => {
    const { closed, places } = checkReach(build([gate('door', 'key and stamps >= 3', { passage: 'path' })], [flag('key')])).result
    assert.deepEqual(places.shed, { wave: null, waveWithRepeats: null })
    // Whatever lies behind it, there are no three stamps: that is no ring.
    assert.isNull(closed[0]!.ring)
    assert.deepEqual(checkReach(build([gate('door', 'key', { passage: 'path' })], [flag('key')])).result.closed[0]!.ring, ['door'])
    assert.includeMembers(closed[0]!.why, ['stamps >= 3: 0 against 3', 'key is never had'])
  })

  it('counts waves by the gates that open at once', () => {
    const { gates } = checkReach(build([flag('key'), gate('a', 'key'), gate('b', 'open(a)'), gate('c', 'key'), gate('door', 'open(b)', { passage: 'path' })], [])).result
    assert.deepEqual(Object.fromEntries(Object.entries(gates).map(([id, { wave }]) => [id, wave])), { a: 1, b: 2, c: 1, door: 3 })
  })
})
