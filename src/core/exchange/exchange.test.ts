import { assert } from 'chai'
import fc from 'fast-check'
import type { FreeGate } from '../change/behind-gate.ts'
import { PlanIndex } from '../rules/plan-index.ts'
import { inOrder } from '../plan/records.ts'
import { smallPlan } from '../testing/plans.ts'
import { completeEntry } from './complete-entry.ts'
import type { MissingTally } from '../change/missing-tally.ts'
import { readEntry, type EntryContext } from './entry-line.ts'
import { capLines, costLines, formLines, rewardLines, statLines, yieldLines } from './lines.ts'
import { asksText, givesText, readAsks, readGives } from './row-text.ts'

const records = smallPlan({
  tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'lamp_glass', name: 'Lamp glass', kind: 'collectible' }, { id: 'ferry_whistle', name: 'Ferry whistle', kind: 'flag' }],
  curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 10, factor: 1, add: 5 } }],
  characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
})
const tallies = inOrder(records, 'tally')
const vocabulary = new PlanIndex(records).vocabulary
const context: EntryContext = { tallies, vocabulary, places: [{ id: 'gull_stair', name: 'Gull Stair' }], waysOut: [{ passage: 'stair_path', to: 'gull_stair' }], patterns: [{ id: 'drift', name: 'Drift dug out' }], freeGates: [] }
const lists = { tallies, characters: inOrder(records, 'character') }

function read(line: string) {
  const reading = readEntry(line, context)
  return reading.kind === 'nothing' ? reading : { kind: reading.kind, ...reading.record }
}

describe('the entry line', () => {
  it('reads sources with counts, ranges, roles and more', () => {
    assert.deepInclude(read('12 drift hares 20 renown'), { kind: 'event', name: 'drift hares', count: 12, role: 'main', yields: [{ tally: 'renown', min: 20, max: 20 }] })
    assert.deepInclude(read('Express letter 110 renown 4-7 stamps side'), { name: 'Express letter', count: 1, role: 'side', yields: [{ tally: 'renown', min: 110, max: 110 }, { tally: 'stamps', min: 4, max: 7 }] })
    assert.deepInclude(read('3 x Tea poured 2 stamps takes 1 lamp glass respawns 2 min'), { name: 'Tea poured', count: 3, respawns: true, minutes: 2, takes: [{ tally: 'lamp_glass', amount: 1 }] })
    assert.deepInclude(read('8 frost wisps 10 renown enemy side'), { kind: 'enemy', name: 'frost wisps', count: 8 })
    assert.deepInclude(read('Late fine -2 stamps'), { yields: [{ tally: 'stamps', min: -2, max: -2 }] })
    assert.deepInclude(read('Whistle found 1 Ferry whistle'), { name: 'Whistle found', yields: [{ tally: 'ferry_whistle', min: 1, max: 1 }] })
  })

  it('reads on what condition a unit can be taken, whatever else stands before or behind it', () => {
    for (const line of ['12 hares 20 renown side if level >= 3 and ferry_whistle', '12 hares 20 renown if level >= 3 and ferry_whistle side']) {
      assert.deepInclude(read(line), { name: 'hares', count: 12, role: 'side', requires: 'level >= 3 and ferry_whistle' }, line)
    }
    assert.deepInclude(read('Ferry ride 1 lamp glass takes 2 stamps if level >= 2 5 min'), { takes: [{ tally: 'stamps', amount: 2 }], requires: 'level >= 2', minutes: 5 })
    assert.deepInclude(read('Gift 1 lamp_glass if at_least(1, ferry_whistle, level >= 4)'), { requires: 'at_least(1, ferry_whistle, level >= 4)' })
    assert.deepInclude(read('6 drift Drifts on the pans if stamps >= 3'), { pattern: 'drift', name: 'Drifts on the pans', requires: 'stamps >= 3' })
    assert.deepInclude(read('What if letters 20 renown'), { name: 'What if letters', requires: '' })
    assert.deepInclude(read('What if letters 20 renown if level >= 2'), { name: 'What if letters', requires: 'level >= 2' })
    assert.match(readEntry('12 hares 20 renown if level >= 3', context).says, /12 × 20 renown if level >= 3 · main/)
    assert.match(readEntry('12 hares 20 renown if levl >= 3', context).says, /"levl" is no tally of this plan; did you mean level\?/)
    assert.match(readEntry('12 hares 20 renown if', context).says, /after "if" comes a condition/)
  })

  it('reads a count wherever it stands, and asks where there are two', () => {
    for (const line of ['12 hares 20 renown, 1 stamps', 'hares 12 × 20 renown, 1 stamps', 'hares 12x20 renown, 1 stamps', 'hares 20 renown, 1 stamps × 12', 'hares 20 renown, 1 stamps x12']) {
      assert.deepInclude(read(line), { name: 'hares', count: 12, yields: [{ tally: 'renown', min: 20, max: 20 }, { tally: 'stamps', min: 1, max: 1 }] }, line)
    }
    assert.match(readEntry('3 hares 12 × 20 renown', context).says, /how many are there, 3 or 12\?/)
    assert.match(readEntry('hares 20 renown x0', context).says, /a count is a whole number between 1 and/)
  })

  it('takes XP for the experience that the plan names first', () => {
    for (const line of ['hares 20 xp', 'hares 20 XP', 'hares 20xp']) assert.deepInclude(read(line), { yields: [{ tally: 'renown', min: 20, max: 20 }] }, line)
    const own = { ...context, tallies: [...tallies, { id: 'xp', name: 'Lamp XP', kind: 'score' as const }] }
    assert.deepInclude((readEntry('hares 20 xp', own) as { record: object }).record, { yields: [{ tally: 'xp', min: 20, max: 20 }] })
    assert.match(readEntry('hares 20 xp', { ...context, tallies: tallies.slice(1) }).says, /"xp" is no tally/)
  })

  it('asks about what stands in a name as if it were asked for', () => {
    const says = (line: string) => readEntry(line, context).says
    assert.match(says('door Toll 5 stamps'), /what is 5 stamps\? Write stamps >= 5 where it is asked for, for 5 stamps where it is paid/)
    assert.match(says('item Warm coat 2 lamp glass'), /what is 2 lamp glass\? Write lamp_glass >= 2 where/)
    assert.match(says('door North hatch level 8'), /what is level 8\? Write level >= 8/)
    for (const line of ['stage Level 8', 'cap Rank 10', 'door Crate of 5 stamps level >= 3', 'door No 4 for 5 stamps']) assert.equal(readEntry(line, context).kind, 'gate', line)
    assert.match(says('tally Feathers currency 0 99'), /what is 0 99 behind "currency"\?/)
    assert.deepInclude(read('tally Lost flag pieces'), { name: 'Lost flag pieces', kind: 'collectible' })
  })

  it('reads the kind of a source at the beginning too, as of a gate; with a capital it is a name', () => {
    assert.deepInclude(read('quest Sort the mail 40 renown, 3 stamps'), { kind: 'quest', name: 'Sort the mail', count: 1 })
    assert.deepInclude(read('enemy 12 frost wisps 20 renown side'), { kind: 'enemy', name: 'frost wisps', count: 12, role: 'side' })
    assert.deepInclude(read('Event tickets 2 stamps'), { kind: 'event', name: 'Event tickets' })
    assert.deepInclude(read('12 enemy couriers 20 renown'), { kind: 'event', name: 'enemy couriers' })
    assert.equal((read('pickup 2 drift Drifts aside') as { pattern: string }).pattern, 'drift')
    assert.match(readEntry('quest Sort the mail 40 renown', context).says, /^quest · /)
    assert.match(readEntry('quest', context).says, /needs a name/)
  })

  it('reads sources of a pattern, which says what the line leaves out', () => {
    assert.deepInclude(read('6 drift Drifts on the pans side'), { kind: 'source', pattern: 'drift', name: 'Drifts on the pans', count: 6, role: 'side' })
    assert.notProperty(read('6 drift'), 'yields')
    assert.deepInclude(read('6 drift'), { name: 'Drift dug out', pattern: 'drift' })
    assert.notProperty(read('12 drift hares 20 renown'), 'pattern')
    assert.equal((read('6 drift hares') as { name: string }).name, 'hares')
  })

  it('completes what is being typed', () => {
    const options = (line: string) => completeEntry(line, line.length, context).options.map(({ text }) => text)
    assert.deepEqual(options('12 hares 20 re'), ['renown', 'respawns'])
    assert.deepEqual(options('12 hares 20 ferry'), ['ferry_whistle'])
    assert.deepEqual(options('6 dr'), ['drift'])
    assert.deepEqual(options('que'), ['quest'])
    assert.deepEqual(options('door Stair gate to Gu'), ['Gull Stair'])
    assert.includeMembers(options('door Stair gate le'), ['level'])
    assert.deepEqual(options('door Hatch level >= 3 for 4 st'), ['stamps'])
    assert.deepEqual(options('place Row st'), ['stage'])
    assert.deepEqual(options('12 hares 20 renown if lev'), ['level', 'level('])
    assert.deepEqual(options('door Hatch visited(de'), ['depot'])
    assert.deepEqual(options('12 hares 20 renown'), [])
    assert.deepEqual(completeEntry('12 hares 20 re', 14, context).from, 12)
  })

  it('reads gates with requirement, costs and the way they bar', () => {
    assert.deepInclude(read('door North hatch level >= 8'), { kind: 'door', name: 'North hatch', requires: 'level >= 8', guards: null, due: 'stop' })
    assert.deepInclude(read('door Ferry gate level >= 7 and ferry_whistle for 8 stamps'), { name: 'Ferry gate', requires: 'level >= 7 and ferry_whistle', costs: [{ tally: 'stamps', amount: 8 }] })
    assert.deepInclude(read('door Stair gate to Gull Stair level >= 3'), { name: 'Stair gate', guards: { passage: 'stair_path' } })
    assert.deepInclude(read('shop Lantern oil level >= 7 for 7 stamps side'), { kind: 'shop_item', role: 'side', due: 'route' })
    assert.deepInclude(read('ability Whistle call not ferry_whistle'), { name: 'Whistle call', requires: 'not ferry_whistle' })
    assert.deepInclude(read('door Open yard'), { name: 'Open yard', requires: '' })
  })

  it('reads places and tallies', () => {
    assert.deepInclude(read('place Row 1 stage 7 min'), { name: 'Row 1', kind: 'stage', minutes: 7 })
    assert.deepInclude(read('place Beacon Island goal'), { name: 'Beacon Island', goal: true })
    for (const line of ['place Far bank hub 7 min goal', 'place Far bank goal 7 min hub']) assert.deepInclude(read(line), { name: 'Far bank', kind: 'hub', minutes: 7, goal: true }, line)
    for (const name of ['North side', 'The last event', 'Goal', 'Hub']) assert.deepInclude(read(`place ${name}`), { name, kind: 'area', goal: false }, name)
    assert.deepInclude(read('ability The lost pickup'), { name: 'The lost pickup' })
    assert.deepInclude(read('tally Stray seals collectible'), { name: 'Stray seals', kind: 'collectible' })
  })

  it('says whether a door bars a way, and behind which one a place comes', () => {
    const says = (line: string, ...freeGates: FreeGate[]) => readEntry(line, { ...context, freeGates }).says
    assert.match(says('door North hatch level >= 2'), /bars no way yet/)
    for (const line of ['door North hatch level >= 2 side', 'item Warm coat level >= 2', 'door Stair gate to Gull Stair level >= 2']) assert.notMatch(says(line), /bars no way/, line)
    const gate: FreeGate = { key: 'k', id: 'hatch', name: 'North hatch', kind: 'door', role: 'main', isLast: true }
    assert.match(says('place Gull Rock', gate), /behind North hatch, joined/)
    assert.notMatch(says('place Gull Rock', { ...gate, isLast: false }), /behind/)
  })

  it('says what it does not understand', () => {
    const says = (line: string) => readEntry(line, context).says
    assert.equal(says('12 drift hares 20 renwon'), '"renwon" is no tally; did you mean renown')
    for (const line of ['hares 20 renown, 3 pebbles', 'hares 3 pebbles', 'hares 20 renown takes 3 pebbles', 'door North hatch level >= 8 for 3 pebbles']) assert.match(says(line), /^"pebbles" is no tally; there are: renown, /, line)
    assert.match(says('snow hares'), /what does it give/)
    assert.match(says('snow hares 20'), /^of which tally\? there are: renown, /)
    assert.equal(readEntry('6 drift Old drifts if level >= 3 + stamps and 5 > 2', context).kind, 'source')
    assert.match(says('snow hares 1,5 renown'), /"1,5" is no amount: a point parts decimals/)
    assert.equal(says('hares 20 glass'), '"glass" is no tally; did you mean lamp_glass')
    assert.match(says('20 renown'), /needs a name/)
    assert.match(says('hares 20 renown quickly'), /"quickly" is left over/)
    assert.match(says('door North hatch level >= '), /expected/)
    for (const count of ['-2', '2.5', '0', '2000000', '1e9']) assert.match(says(`${count} crates 5 renown`), /a count is a whole number between 1 and/, count)
    assert.match(says('place Gull Stair'), /one more of this name/)
    assert.notMatch(says('place Gull Rock'), /one more/)
    assert.match(says('door North hatch lvl >= 8'), /no tally/)
    assert.equal(readEntry('', context).kind, 'nothing')
  })

  it('names the tally for want of which it is not understood, the likeliest kind first', () => {
    const missing = (line: string) => {
      const { missing } = readEntry(line, context) as { missing?: MissingTally }
      return missing && `${missing.id} ${missing.name} ${missing.kinds[0]}`
    }
    assert.equal(missing('hares 20 renown, 3 seal pelts side'), 'seal_pelts Seal pelts collectible')
    // A name may have a number in it, but no amount.
    for (const line of ['12 hares 3 pelts and 2 stamps', 'hares 3 pelts, 2 stamps', 'hares 3 pelts,2 stamps']) assert.equal(missing(line), 'pelts Pelts collectible', line)
    assert.deepInclude(read('3 crates no 4, old 5 renown, 2 stamps'), { name: 'crates no 4 old', count: 3 })
    assert.equal(missing('hares 20 renown takes 3 pelts'), 'pelts Pelts currency')
    assert.equal(missing('door North hatch level >= 8 for 3 pelts'), 'pelts Pelts currency')
    assert.equal(missing('shop Warm boots for 3 seal pelts'), 'seal_pelts Seal pelts currency')
    assert.isUndefined(missing('door Room for 3 tired couriers'))
    assert.equal(missing('door North hatch level >= 8 and horn_blown'), 'horn_blown Horn blown flag')
    assert.equal(missing('door North hatch pelts >= 8'), 'pelts Pelts collectible')
    assert.equal(missing('hares 20 renown if pelts + stamps > 2'), 'pelts Pelts collectible')
    // One that is called almost so is meant; in a requirement a name is an id to the letter; and no tally mends anything else.
    for (const line of ['hares 20 renwon', 'door North hatch Pelts >= 8', 'door North hatch level >=', 'hares 20 renown 7 %', 'hares', '']) assert.isUndefined(missing(line), line)
    // Another's name with a word more is a name of its own; a slip of the pen with more behind it may be meant as either.
    const seals = { ...context, tallies: [...context.tallies, { id: 'seals', name: 'Seals', kind: 'collectible' as const }] }
    assert.deepInclude(readEntry('hares 20 seal oil', seals), { says: '"seal" is no tally; did you mean seals', missing: { id: 'seal_oil', name: 'Seal oil', kinds: ['collectible', 'currency', 'score', 'flag', 'experience'] } })
    assert.notProperty(readEntry('hares 20 seal', seals), 'missing')
    assert.deepEqual(readEntry('hares 20 lamp glas', context), { kind: 'nothing', says: '"lamp glas" is no tally; did you mean lamp_glass' })
    assert.equal((readEntry('hares 20 skill', { ...context, tallies: [] }) as { missing?: MissingTally }).missing!.kinds[0], 'experience')
  })

  it('is understood once that tally is there, whatever it is called', () => {
    fc.assert(fc.property(fc.constantFrom('3 hares 2 %', 'hares 5 renown takes 2 %', 'door North hatch level >= 2 for 2 %'), fc.array(fc.constantFrom('seal', 'Fur', 'no', 'über', 'level', 'x7', 'ice-cold'), { minLength: 1, maxLength: 3 }), (line, words) => {
      const typed = line.replace('%', words.join(' '))
      const { missing } = readEntry(typed, context) as { missing?: MissingTally }
      if (!missing) return
      const with_ = { ...context, tallies: [...context.tallies, { id: missing.id, name: missing.name, kind: missing.kinds[0]! }] }
      assert.notEqual(readEntry(typed, with_).kind, 'nothing', typed)
    }))
  })

  it('leaves numbers in names alone', () => {
    for (const [line, name, count] of [['2nd letter 5 renown', '2nd letter', 1], ['3 crates no 4 5 renown', 'crates no 4', 3]] as const) {
      assert.deepInclude(read(line), { name, count }, line)
    }
  })

  it('never fails on any line', () => {
    fc.assert(fc.property(fc.oneof(fc.string(), fc.array(fc.constantFrom('door', '12', 'x', 'renown', '4-7', 'for', 'if', '×', 'xp', 'drift', 'level', '>=', 'place', 'side', 'takes', 'to'), { maxLength: 9 }).map((w) => w.join(' '))), (line) => {
      readEntry(line, context)
    }))
  })
})

describe('cells', () => {
  const anyYield = fc.record({ tally: fc.constantFrom('renown', 'stamps', 'lamp_glass'), low: fc.integer({ min: -9, max: 99 }), more: fc.nat(9) }).map(({ tally, low, more }) => ({ tally, min: low, max: low + more }))

  it('read back what they show', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 50 }), fc.array(anyYield, { maxLength: 3 }), fc.array(fc.record({ tally: fc.constantFrom('stamps', 'lamp_glass'), amount: fc.nat(20) }), { maxLength: 2 }), fc.boolean(), (count, yields, takes, respawns) => {
      const fields = { count, yields, takes, respawns }
      assert.deepEqual(readGives(givesText(fields), tallies), { ok: true, fields })
    }))
    const gate = { requires: 'level >= 8 and ferry_whistle', costs: [{ tally: 'stamps', amount: 8 }] }
    assert.deepEqual(readAsks(asksText(gate), tallies, vocabulary), { ok: true, fields: gate })
    assert.deepEqual(readAsks('for 3 stamps', tallies, vocabulary), { ok: true, fields: { requires: '', costs: [{ tally: 'stamps', amount: 3 }] } })
    assert.deepEqual(readAsks('', tallies, vocabulary), { ok: true, fields: { requires: '', costs: [] } })
  })

  it('take thousands with commas, and guess at no other comma within a number', () => {
    const read = (text: string) => {
      const found = readGives(text, tallies)
      return found.ok ? [found.fields.count, ...found.fields.yields!.map(({ tally, min, max }) => `${min}-${max} ${tally}`)] : found.says
    }
    assert.deepEqual(read('1,200 renown'), [1, '1200-1200 renown'])
    assert.deepEqual(read('1,000 × 12,345.5 renown, 3 stamps'), [1000, '12345.5-12345.5 renown', '3-3 stamps'])
    assert.deepEqual(read('1,000-2,500 renown,2 stamps'), [1, '1000-2500 renown', '2-2 stamps'])
    for (const text of ['1,5 renown', '12,34 renown', '1,2345 renown', '1,200,5 renown', '1.500,5 renown']) assert.match(read(text) as string, /is no amount of a tally/, text)
    assert.deepEqual(readAsks('level >= 2 for 1,500 stamps', tallies, vocabulary), { ok: true, fields: { requires: 'level >= 2', costs: [{ tally: 'stamps', amount: 1500 }] } })
  })

  it('take ranges with blanks in them, and the minus of print', () => {
    const read = (text: string) => {
      const found = readGives(text, tallies)
      return found.ok ? found.fields.yields!.map(({ min, max }) => [min, max]) : found.says
    }
    for (const text of ['2-4 stamps', '2 - 4 stamps', '2 – 4 stamps', '2 to 4 stamps', '2to4 stamps']) assert.deepEqual(read(text), [[2, 4]], text)
    assert.deepEqual(read('5 renown, −3 to 1,200 stamps, −7 renown'), [[5, 5], [-3, 1200], [-7, -7]])
    assert.match(read('4 to 2 stamps') as string, /is no amount/)
  })

  it('say what is wrong and where', () => {
    assert.deepInclude(readAsks('level >= 3 and stmaps', tallies, vocabulary), { ok: false, column: 16 })
    assert.isFalse(readGives('4 × 15 renwon', tallies).ok)
    assert.isFalse(readGives('0 × 15 renown', tallies).ok)
  })
})

describe('lists as lines', () => {
  it('read back what they print', () => {
    const back = <T,>(format: { print(list: readonly T[]): string; read(text: string, c: typeof lists): { ok: boolean; value?: T[] } }, list: T[]) => assert.deepEqual(format.read(format.print(list), lists).value, list)
    back(formLines, [{ id: 'pup', name: 'Pup', from: 1, to: 4 }, { id: 'lead_dog', name: 'Lead dog', from: 5, to: 12 }])
    back(statLines, [{ id: 'stamina', name: 'Stamina', start: 40, growth: 'add', by: 6, rounding: 'nearest' }, { id: 'load', name: 'Load', start: 12, growth: 'multiply', by: 1.06, rounding: 'down' }])
    back(rewardLines, [{ level: 5, yields: [{ tally: 'stamps', min: 2, max: 4 }] }, { level: 'every', yields: [{ tally: 'renown', min: 1, max: 1 }] }])
    back(capLines, [{ character: 'courier', level: 18 }, { character: 'all', level: 20 }])
    back(yieldLines, [{ tally: 'renown', min: 20, max: 20 }])
  })

  it('say which line is wrong', () => {
    assert.deepInclude(formLines.read('Pup 1-4\nYearling', lists), { ok: false, line: 2 })
    assert.deepInclude(capLines.read('dog 4', lists), { ok: false, line: 1 })
    assert.deepInclude(rewardLines.read('5: 4 coins', lists), { ok: false, line: 1 })
    assert.deepNestedInclude(yieldLines.read('20 renown, 2 furs', lists), { 'missing.id': 'furs', 'missing.kinds[0]': 'collectible' })
    assert.deepNestedInclude(costLines.read('2 old coins', lists), { 'missing.id': 'old_coins', 'missing.kinds[0]': 'currency' })
    assert.notProperty(yieldLines.read('20 renwon', lists), 'missing')
  })
})
