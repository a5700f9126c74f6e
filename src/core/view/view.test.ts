import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../change/diff.ts'
import { setFields } from '../change/edits.ts'
import { check } from '../check/check.ts'
import { explainGate, readable } from '../check/route/explain.ts'
import { traceRoute } from '../check/route/trace.ts'
import { inOrder } from '../plan/records.ts'
import { compile } from '../rules/compile.ts'
import { recordsOf } from '../testing/plans.ts'
import { runs } from '../testing/runs.ts'
import { itemsOfRows, outlineOf } from './lane-rows.ts'
import { laneDomain, laneLines, type LaneId, type LaneLine } from './lanes.ts'
import { levelTicks } from './level-axis.ts'
import { countText, marginText, minutesText, numberText, percentText, shortNumberText, typedNumber } from './numbers.ts'
import { pegsOf } from './pegs.ts'
import { gateRowsOf, sheetRows, type SheetRow } from './sheet.ts'
import { threadOf } from './threads.ts'
import { verdictShort } from './verdict-text.ts'
import { findRows } from './find-rows.ts'
import { placeSums, placeSumText } from './place-sums.ts'
import { witnessParts } from './witness.ts'
import { conditionText, debtText, namesOf, playerReads, shortText, sumsOf, verdictSentence, xpShort } from './why.ts'

const source = (id: string, renown: number, more = {}) => ({ source: { id, name: id, kind: 'event', yields: [{ tally: 'renown', min: renown, max: renown }], ...more } })
const records = recordsOf({
  format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency', start: 3 }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 9, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
  places: [
    { id: 'depot', name: 'Depot', kind: 'hub', contents: [source('round', 60), { gate: { id: 'hatch', name: 'Hatch', kind: 'door', requires: 'level >= 3', guards: { passage: 'road' } } }] },
    { id: 'flats', name: 'Flats', kind: 'area', contents: [source('drifts', 30, { count: 5 }), { gate: { id: 'oil', name: 'Oil', kind: 'shop_item', requires: '2 <= level', costs: [{ tally: 'stamps', amount: 2 }] } }] },
    { id: 'hut', name: 'Hut', kind: 'interior', contents: [source('lamp', 10)] },
  ],
  passages: [{ id: 'road', from: 'depot', to: 'flats' }, { id: 'path', from: 'flats', to: 'hut' }],
  anywhere: [{ id: 'badge', name: 'Badge', kind: 'ability', requires: 'level >= 2' }],
  routes: [{ id: 'line', name: 'Line', stops: ['depot', 'flats', 'depot'] }],
  profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
})
const { game } = compile(records)
const route = game.routes[0]!
const profile = game.profiles[0]!
const result = check(records, { lockouts: false }).result.routes[0]!.profiles[0]!
const rows = sheetRows(records, route.key, new Set())
const trace = traceRoute(game, route, profile)
const gate = (id: string) => result.gates.find((found) => found.gate === id)!

function lineOf(lane: LaneId): LaneLine {
  const outline = outlineOf(rows).lanes
  return laneLines({ rows: outline, items: itemsOfRows(outline, trace), trace, stops: result.stops }, [lane]).get(lane)!
}

describe('the sheet', () => {
  it('goes by the route, then what is off it, then anywhere', () => {
    const names = rows.map((row) => (row.type === 'heading' ? `# ${row.text}` : row.type === 'place' ? `${row.place.name}${row.again ? ' again' : ''}` : row.type === 'source' ? row.source.id : row.gate.id))
    assert.deepEqual(names, ['Depot', 'round', 'hatch', 'Flats', 'drifts', 'oil', 'Depot again', '# Off this route', 'Hut', 'lamp', '# Anywhere', 'badge'])
  })

  it('knows its gates, and those that stand as they stood again', () => {
    const first = gateRowsOf(rows)
    assert.deepEqual(first.gates.map(({ row, gate, stop }) => [row, gate.id, stop]), [[2, 'hatch', 0], [5, 'oil', 1], [11, 'badge', null]])
    const hatch = inOrder(records, 'gate').find(({ id }) => id === 'hatch')!
    const edited = sheetRows(apply(records, setFields(records, 'gate', hatch.key, { requires: 'level >= 4' } as never, 'raise')), route.key, new Set())
    const second = gateRowsOf(edited, first)
    assert.deepEqual(second.gates, gateRowsOf(edited).gates)
    assert.deepEqual(second.gates.map((one, i) => one === first.gates[i]), [false, true, true])
    assert.equal(gateRowsOf([...edited], second).gates, second.gates)
    // Rows that go, come, or become something else are looked at anew.
    for (const others of [edited.slice(1), [...edited, edited[2]!], edited.with(2, edited[1]!)]) assert.deepEqual(gateRowsOf(others, second).gates, gateRowsOf(others).gates)
  })

  it('folds a place to one row', () => {
    const folded = sheetRows(records, route.key, new Set([inOrder(records, 'place')[0]!.key]))
    assert.deepEqual(folded.slice(0, 2).map((row) => row.type), ['place', 'place'])
  })

  it('knows what each row did, in whatever order the items came, and which did nothing', () => {
    const outline = outlineOf(rows).lanes
    const numbers = (keys: string[], itemsFrom: readonly number[]) => [...itemsOfRows(outline, { keys, itemsFrom: Int32Array.from(itemsFrom) })]
    const [round, hatch, drifts, oil] = [1, 2, 4, 5].map((row) => rows[row]!.id)
    assert.deepEqual(numbers([round!, hatch!, drifts!, oil!], [0, 2, 4, 4]), [-1, 0, 1, -1, 2, 3, -1, -1, -1, -1, -1, -1])
    assert.deepEqual(numbers([hatch!, round!, oil!], [0, 2, 3, 3]), [-1, 1, 0, -1, -1, 2, -1, -1, -1, -1, -1, -1])
    // A row may have come to a stop that the trace does not know yet.
    assert.deepEqual(numbers([round!], [0, 1]), [-1, 0, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1])
  })

  it('has the same rows beside a changed one', () => {
    const key = inOrder(records, 'source')[0]!.key
    const isItem = (row: SheetRow) => row.type === 'source' || row.type === 'gate'
    const changed = sheetRows(apply(records, setFields(records, 'source', key, { name: 'Another' } as never, 'rename')), route.key, new Set())
    assert.lengthOf(changed, rows.length)
    assert.deepEqual(changed.flatMap((row, i) => (isItem(row) && row !== rows[i] ? [row.id] : [])), [key])
  })
})

describe('finding in the sheet', () => {
  const found = (text: string) => findRows(records, rows, text).rows.map((row) => (row.type === 'heading' ? '#' : row.type === 'place' ? row.place.id : row.type === 'source' ? row.source.id : row.gate.id))

  it('keeps the rows with all words, under the places that they lie in', () => {
    assert.deepEqual(found('level'), ['depot', 'hatch', 'flats', 'oil', '#', 'badge'])
    assert.deepEqual(found('STAMPS level'), ['flats', 'oil'])
    assert.deepEqual(found('hut'), ['hut', 'lamp'])
    assert.deepEqual(found('nowhere'), [])
    assert.equal(findRows(records, rows, 'level').found.length, 3)
    const { rows: kept, indices } = findRows(records, rows, 'level')
    assert.deepEqual(kept, indices.map((i) => rows[i]!))
    assert.lengthOf(findRows(records, rows, ' ').rows, rows.length)
  })

  it('tells which row that is shown has the words first: not the heading of a place that has them not', () => {
    const first = (text: string) => findRows(records, rows, text).first
    assert.deepEqual(['level', 'hut', 'nowhere', ' '].map(first), [1, 0, -1, -1])
  })

  it('looks again in what has changed since', () => {
    const oil = inOrder(records, 'gate').find(({ id }) => id === 'oil')!
    assert.include(found('level'), 'oil')
    const edited = apply(records, setFields(records, 'gate', oil.key, { requires: 'stamps >= 2' } as never, 'edit'))
    const after = findRows(edited, sheetRows(edited, route.key, new Set()), 'level')
    assert.deepEqual(after.rows.flatMap((row) => (row.type === 'gate' ? [row.gate.id] : [])), ['hatch', 'badge'])
    assert.include(found('level'), 'oil')
  })

  it('keeps what is to stay, and the rows of a place that does, and finds what comes to it', () => {
    const hatch = inOrder(records, 'gate').find(({ id }) => id === 'hatch')!
    const edited = apply(records, setFields(records, 'gate', hatch.key, { requires: 'stamps >= 1' } as never, 'edit'))
    const after = (text: string, ...stay: string[]) => findRows(edited, sheetRows(edited, route.key, new Set()), text, new Set(stay))
    assert.deepEqual(after('level', hatch.key).found.length, 3)
    assert.include(after('level', hatch.key).rows.map(({ id }) => id), hatch.key)
    assert.notInclude(after('level').rows.map(({ id }) => id), hatch.key)
    assert.include(after('stamps', hatch.key).found, hatch.key)
    const hut = rows.find((row) => row.type === 'place' && row.place.id === 'hut')!
    assert.lengthOf(after('nowhere', hut.id).rows, 2)
  })

  it('finds what is found anew, whatever rows were there before and whatever was looked for', () => {
    const anew = () => ({ ...records, pattern: new Map(records.pattern) })
    const step = fc.record({ at: fc.nat(rows.length), gone: fc.nat(3), again: fc.nat(rows.length - 1), text: fc.constantFrom('level', 'stamps', 'hut', 'oil', 'stamps level') })
    fc.assert(fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
      let now = rows
      for (const { at, gone, again, text } of steps) {
        now = [...now]
        now.splice(at, gone, rows[again]!)
        const kept = findRows(records, now, text)
        assert.deepEqual(kept, findRows(anew(), now, text))
        assert.deepEqual(findRows(records, now, text), kept)
      }
    }), { numRuns: runs(50) })
  })
})

describe('a place', () => {
  it('tells what it gives in all, side content apart', () => {
    const sums = placeSums(records)
    const text = (id: string) => placeSumText(sums.get(inOrder(records, 'place').find((place) => place.id === id)!.key)!)
    assert.deepEqual(['depot', 'flats'].map(text), ['60 renown', '150 renown'])
    assert.equal(placeSumText([{ tally: 'renown', main: 5, side: 2.5, varies: true }, { tally: 'stamps', main: 0, side: 3, varies: false }]), '≈ 5 renown (+2.5 side), 3 stamps side')
  })
})

describe('a witness', () => {
  it('is told place by place, the same move several times as one', () => {
    const moves = [{ take: 'round' }, { open: 'hatch' }, { go: 'road' }, { take: 'drifts' }, { take: 'drifts' }, { go: 'road' }]
    assert.deepEqual(witnessParts(records, moves), [
      { id: 'depot', place: 'Depot', first: 1, moves: 2, deeds: ['take round', 'open Hatch'] },
      { id: 'flats', place: 'Flats', first: 3, moves: 3, deeds: ['take drifts, 2 units'] },
      { id: 'depot', place: 'Depot', first: 6, moves: 1, deeds: [] },
    ])
    assert.deepEqual(witnessParts(records, [{ take: 'round', outcome: { renown: 4 } }])[0]!.deeds, ['take round for 4 renown'])
    assert.deepEqual(witnessParts(records, []), [])
  })
})

describe('lanes', () => {
  const levels = lineOf('level courier')
  const pointsOf = (line: LaneLine) => rows.map((_, i) => line.at(i))
  const [points, stamps] = [pointsOf(levels), pointsOf(lineOf('tally stamps'))]

  it('step at each row, and agree with the check on leaving each stop', () => {
    assert.deepEqual(points.slice(0, 6).map((point) => point && Math.round(point.to * 100) / 100), [1, 1.6, 1.6, 1.6, 3.1, 3.1])
    assert.deepEqual(stamps.slice(0, 6).map((point) => point?.to), [3, 3, 3, 3, 3, 1])
    assert.equal(stamps[5]!.to, result.stops[1]!.tallies.stamps!.median)
    assert.deepEqual(points.slice(7), [null, null, null, null, null])
  })

  it('draw a band that closes on a certain walk', () => {
    for (const point of stamps) if (point) assert.deepEqual([point.low, point.high, point.least, point.most], [point.to, point.to, point.to, point.to])
  })

  it('shows at rows that were found what it shows there among all', () => {
    const { indices } = findRows(records, rows, 'renown')
    assert.isAbove(indices.length, 1)
    assert.isBelow(indices.length, rows.length)
    for (const line of [levels, lineOf('tally stamps')]) {
      const found = line.among(indices)
      assert.deepEqual(indices.map((_, k) => found.at(k)), indices.map((i) => line.at(i)))
      assert.deepEqual([...found.to], indices.map((i) => line.to[i]!))
      assert.deepEqual([found.at(-1), found.at(indices.length)], [null, null])
    }
  })

  it('are the same lanes while no row is added, moved or folded', () => {
    const outline = outlineOf(rows)
    const renamed = apply(records, setFields(records, 'source', [...records.source.keys()][0]!, { name: 'Another' } as never, 'rename'))
    assert.strictEqual(outlineOf(sheetRows(renamed, route.key, new Set()), outline).lanes, outline.lanes)
    assert.notStrictEqual(outlineOf(sheetRows(records, route.key, new Set([inOrder(records, 'place')[0]!.key])), outline).lanes, outline.lanes)
  })

  it('have pegs on whichever side the number stands', () => {
    assert.deepEqual(pegsOf({ requires: '2 <= level and stamps + 1 >= 3', costs: [{ tally: 'stamps', amount: 2 }] }, 'courier').map(({ lane, at, op, index }) => [lane, at, op, index]), [['level courier', 2, '>=', 0], ['tally stamps', 2, '>=', 2]])
    assert.deepEqual(pegsOf({ requires: 'level >=', costs: [] }, 'courier'), [])
  })

  it('run a thread to where the line gets there, or to the foot', () => {
    assert.deepEqual(threadOf(levels, 2, 3), { row: 2, to: 4, at: 3, reached: true })
    assert.deepEqual(threadOf(levels, 2, 8), { row: 2, to: rows.length - 1, at: 8, reached: false })
    assert.isNull(threadOf(levels, 5, 3))
  })

  it('reach as far as line and thresholds do', () => {
    assert.deepEqual(levels.extent!.map((n) => Math.round(n * 10) / 10), [1, 3.1])
    assert.deepEqual(laneDomain([levels.extent, null], [6], true), [1, 7])
    assert.deepEqual(laneDomain([], [], false), [0, 1])
  })

  it('write XP in all under the levels', () => {
    assert.deepEqual(levelTicks(inOrder(records, 'curve')[0]!).slice(0, 3), [{ level: 1, xp: 0 }, { level: 2, xp: 100 }, { level: 3, xp: 200 }])
  })
})

describe('words', () => {
  const names = namesOf(records)

  it('tell a verdict short and long', () => {
    assert.equal(gate('hatch').verdict, 'sealed')
    assert.equal(verdictShort(gate('hatch')), '1 of 3')
    assert.equal(verdictShort(gate('oil')), '+1')
    assert.match(verdictSentence(gate('hatch'), 'stop', names), /Due on leaving Depot\. No number of further units/)
  })

  it('give the sum that the lanes show', () => {
    const g = game.gates.findIndex((found) => found.id === 'oil')
    const [renown, stamps] = sumsOf(readable(explainGate(game, route, profile, g), 10), names, () => '').sort((a, b) => (a.tally < b.tally ? -1 : 1))
    assert.deepEqual(renown!.lines, [{ label: 'round', detail: '', place: '', total: 60 }, { label: 'drifts', detail: '5 × 30', place: '', total: 150 }])
    assert.equal(renown!.total, lineOf('tally renown').to[5])
    assert.equal(stamps!.total, 3)
    // A sum that is too long to read line by line is given stop by stop; it comes to the same.
    const short = sumsOf(readable(explainGate(game, route, profile, g), 1), names, (stop) => `stop ${stop}`).find(({ tally }) => tally === 'renown')!
    assert.deepEqual(short.lines.map(({ label, total }) => [label, total]), [['stop 0', 60], ['stop 1', 150]])
    assert.deepEqual([short.count, short.total], [2, renown!.total])
    assert.deepEqual(gate('oil').from.filter((entry) => entry.tally === 'renown').map((entry) => entry.total), [60, 150])
  })

  it('give long lists of lost XP stop by stop', () => {
    const loss = (stop: number, amount: number) => ({ source: 'drifts', stop, character: 'courier', why: 'top' as const, amount })
    const lost = [loss(0, 0.1), loss(0, 0.2), loss(1, 5)]
    assert.deepEqual(readable({ from: [], lost, conditions: [], debt: [] }, 3).lost, lost)
    assert.deepEqual(readable({ from: [], lost, conditions: [], debt: [] }, 2).lost.map(({ source, stop, amount }) => [source, stop, amount]), [[null, 0, 0.3], [null, 1, 5]])
  })

  it('tell what there is of a part that compares no numbers', () => {
    const opens = (id: string) => ({ hatch: null, oil: 1 })[id]
    const gateOf = (id: string) => (opens(id) === undefined ? undefined : { ...gate(id), opened: opens(id)! })
    const text = (part: string, holds = false) => conditionText({ text: part, holds }, gateOf, (stop) => `stop ${stop}`)
    assert.deepEqual(['brass_key', 'open(hatch)', 'open(oil)', 'open(badge)', 'visited(hut)', 'not brass_key', '1 +'].map((part) => text(part)), ['none', 'never opens', 'opens at stop 1', 'not on this route', 'not so', 'not so', 'not so'])
    assert.equal(text('open(hatch)', true), 'yes')
  })

  it('tell what the player reads, with numbers where the gate stays closed for want of them', () => {
    const closed = { ...gate('hatch'), verdict: 'sealed' as const }
    const [first] = closed.comparisons
    const reads = (lockedText: string, result = closed) => playerReads({ lockedText }, result)
    const unmet = { ...closed, comparisons: [{ ...first!, holds: 1 }, { ...first!, holds: 0, need: 1200, has: { min: 1, q05: 2, median: 3.5, q95: 4, max: 5 } }] }
    assert.equal(reads('Rank {need}; you have {have}, {short} too few.', unmet), 'Rank 1,200; you have 3.5, 1,196.5 too few.')
    assert.equal(reads('Rank {need}.', { ...unmet, comparisons: [] }), 'Rank {need}.')
    assert.equal(reads('Rank {need}.', { ...unmet, verdict: 'depends' as never }), 'Rank {need}.')
  })

  it('tell by how much XP, and how many levels, a gate is out of reach', () => {
    const shortOf = (text: string) => xpShort(records, { ...gate('hatch').comparisons[0]!, text }, 'courier', { from: [{ source: 'round', stop: 0, tally: 'renown', units: 1, total: 60 }], lost: [] })
    // Each level takes 100: with 60 there is 0.6 of the first.
    assert.deepEqual([shortOf('level >= 2'), shortOf('level > 2'), shortOf('level >= 1')], [{ tally: 'renown', xp: 40, levels: 0.4 }, { tally: 'renown', xp: 140, levels: 1.4 }, null])
    assert.equal(shortText(shortOf('level >= 2')!), 'short by 40 renown, 0.4 of a level')
    assert.equal(shortText(shortOf('level >= 9')!), 'short by 740 renown, 7.4 levels')
  })

  it('say how much more would open a gate', () => {
    assert.equal(debtText({ source: 'drifts', untaken: 2, repeats: 1, minutes: 4.5 }, names), '3 more of drifts at Flats (2 not taken, then 1 repeat), about 4.5 min')
  })

  it('write numbers as people read them', () => {
    assert.deepEqual(['1,234.5', '−1,200', '1,234,567', ' 7 ', '+3'].map(typedNumber), [1234.5, -1200, 1234567, 7, 3])
    assert.deepEqual(['1,5', '12,34', '0,125', '-2,5', '1234,5'].map(typedNumber), [1.5, 12.34, 0.125, -2.5, 1234.5])
    assert.deepEqual(['many', '', ' ', '1.500,5', '1,2,3', '1,234,5', '12,3456,7'].map(typedNumber), Array(7).fill(NaN))
    assert.deepEqual([shortNumberText(999_999), shortNumberText(2_500_000), shortNumberText(-12_000_000)], ['999,999', '2.5M', '−12M'])
    assert.deepEqual([numberText(-12345.5), marginText(3), marginText(-1), marginText(0)], ['−12,345.5', '+3', '−1', '0'])
    assert.deepEqual([percentText(0), percentText(0.004), percentText(0.9951), percentText(0.5), percentText(1)], ['0 %', '< 1 %', '> 99 %', '50 %', '100 %'])
    assert.deepEqual([percentText(0, false), percentText(0.5, false), percentText(1, false)], ['< 1 %', '50 %', '> 99 %'])
    assert.deepEqual([countText(1, 'stop'), countText(2, 'stop'), minutesText(12.25), minutesText(135)], ['1 stop', '2 stops', '12.3 min', '2 h 15 min'])
  })
})
