import { assert } from 'chai'
import fc from 'fast-check'
import { apply } from '../change/diff.ts'
import { removeRecords, renameId, setFields } from '../change/edits.ts'
import { usersOfId } from '../change/users.ts'
import { check } from '../check/check.ts'
import { fileReport } from '../exchange/report.ts'
import { junitOf } from '../exchange/junit.ts'
import { sarifOf } from '../exchange/sarif.ts'
import { readPlanValue, toFile, writePlan } from '../plan/file.ts'
import { byId, type Records } from '../plan/records.ts'
import type { WalkEntry } from '../plan/walk.ts'
import { compile } from '../rules/compile.ts'
import { validate } from '../rules/validate.ts'
import { PlanIndex } from '../rules/plan-index.ts'
import { runs } from '../testing/runs.ts'
import { stagesOf } from '../view/stages.ts'
import { anySample, recordsOf } from '../testing/plans.ts'
import { checkWalks } from './check-walks.ts'
import { atLeastHere, gateHere, levelHere, unmet } from './expect.ts'
import { playedOf, startOf, stepsOf } from './saved-walk.ts'
import { replay } from './walk.ts'
import { walkAlong, walkToGate } from './walk-of-route.ts'

const steps: WalkEntry[] = [
  { expect: 'level == 1' }, { take: 'round', units: 2 }, { give: 'stamps', amount: 3 }, { expect: 'level == 2' }, { expect: 'stamps >= 3 and not open(door)' },
  { open: 'door' }, { go: 'road' }, { fail: true }, { quit: true }, { expect: 'open(door)' },
]

function planOf(renown: number, walk: Record<string, unknown> = {}): Records {
  return recordsOf({
    format: 'tundrift-plan', version: 1, id: 'p', name: 'P', start: 'depot',
    tallies: [{ id: 'renown', name: 'Renown', kind: 'experience' }, { id: 'stamps', name: 'Stamps', kind: 'currency' }, { id: 'seals', name: 'Seals', kind: 'collectible' }],
    curves: [{ id: 'rank', name: 'Rank', firstLevel: 1, maxLevel: 5, counts: 'step', rule: { kind: 'growth', base: 100, factor: 1, add: 0 } }],
    characters: [{ id: 'courier', name: 'Courier', experience: 'renown', curve: 'rank' }],
    places: [
      { id: 'depot', name: 'Depot', kind: 'hub', contents: [
        { source: { id: 'round', name: 'Round', kind: 'quest', count: 2, yields: [{ tally: 'renown', min: renown, max: renown }] } },
        { gate: { id: 'door', name: 'Door', kind: 'door', requires: 'level >= 2', costs: [{ tally: 'stamps', amount: 2 }], guards: { passage: 'road' } } },
        { gate: { id: 'last', name: 'Last row', kind: 'stage', requires: 'seals >= 4', guards: { place: 'row_2' } } },
      ] },
      { id: 'row', name: 'Row', kind: 'stage', contents: [{ source: { id: 'letters', name: 'Letters', kind: 'event', count: 3, yields: [{ tally: 'seals', min: 1, max: 1 }, { tally: 'renown', min: 5, max: 5 }] } }] },
      { id: 'row_2', name: 'Second row', kind: 'stage' },
    ],
    passages: [{ id: 'road', from: 'depot', to: 'row' }, { id: 'lane', from: 'depot', to: 'row_2' }],
    routes: [{ id: 'line', name: 'Line', stops: ['depot', 'row'] }],
    profiles: [{ id: 'straight', name: 'Straight', main: 1, side: 0, buys: 'nothing' }],
    walks: [{ id: 'to_the_row', name: 'To the row', from: null, steps, ...walk }],
  })
}
const results = (records: Records) => checkWalks(records, compile(records))

describe('a walk that a plan keeps', () => {
  it('is borne out while every move can be made and all that is expected holds', () => {
    assert.deepEqual(results(planOf(60)), [{ walk: 'to_the_row', holds: true, faults: [] }])
    assert.deepEqual(results(planOf(60, { from: { route: 'line', profile: 'straight', stop: 1 }, steps: [{ expect: 'level == 2' }, { take: 'letters', units: 3 }, { expect: 'seals == 3' }] }))[0]!.faults, [])
  })

  it('says at which step, after how many moves, and with which numbers it is not', () => {
    assert.deepEqual(results(planOf(40))[0]!.faults, [
      { step: 3, moves: 2, says: 'level == 2: it is 1' },
      { step: 5, moves: 2, says: 'move 3 cannot be made: Door does not open: level >= 2' },
    ])
    const says = (text: string) => results(planOf(60, { steps: [{ expect: text }] }))[0]!.faults[0]?.says
    assert.equal(says('open(door)'), '"open(door)" does not hold; Door is closed (level >= 2, it is 1, 1 short; stamps, it is 0, 2 short)')
    assert.match(says('levl >= 2')!, /"levl >= 2" cannot be read: .*levl/)
    assert.match(says('1 / stamps > 0')!, /cannot be told/)
    assert.isUndefined(says('stamps == 0'))
  })

  it('comes through the file byte for byte, and stands at its end only where there is one', () => {
    const text = writePlan(planOf(60))
    const read = readPlanValue(JSON.parse(text))
    assert.isTrue(read.ok)
    if (read.ok) assert.equal(writePlan(read.records), text)
    assert.deepEqual(Object.keys(toFile(planOf(60))).slice(-2), ['profiles', 'walks'])
    const none = removeRecords(planOf(60), [{ kind: 'walk', key: 'walk_0' }])
    assert.notProperty(toFile(apply(planOf(60), none)), 'walks')
  })

  it('is refused with what would fit where an entry is none', () => {
    const read = readPlanValue({ ...JSON.parse(writePlan(planOf(60))) as object, walks: [{ id: 'w', name: 'W', steps: [{ jump: 'road' }] }] })
    assert.isFalse(read.ok)
    if (!read.ok) {
      assert.deepEqual(read.issues[0]!.path, ['walks', 0, 'steps', 0])
      assert.match(String(read.issues[0]!.params.message), /"go".*"take".*"expect"/)
    }
  })

  it('follows when something is renamed, in its moves and in what it expects', () => {
    const renamed = [['gate', 'door', 'hatch'], ['source', 'round', 'first_round'], ['passage', 'road', 'trail'], ['tally', 'stamps', 'marks']] as const
    const records = renamed.reduce<Records>((now, [kind, id, to]) => apply(now, renameId(now, kind, byId(now, kind, id)!.key, to)), planOf(60))
    assert.isTrue(results(records)[0]!.holds)
    assert.include(usersOfId(records, 'gate', 'hatch'), 'To the row')
  })

  it('is red, and the document sound, when what it names is gone', () => {
    const before = planOf(60, { from: { route: 'line', profile: 'straight', stop: 0 } })
    const without = (kind: 'gate' | 'profile', id: string) => apply(before, removeRecords(before, [{ kind, key: byId(before, kind, id)!.key }]))
    const noDoor = without('gate', 'door')
    assert.deepEqual(validate(noDoor).filter(({ item }) => item?.kind === 'walk'), [])
    assert.match(results(noDoor)[0]!.faults.map(({ says }) => says).join(), /no gate|cannot be read.*door[\s\S]*door is not here/)
    assert.match(results(without('profile', 'straight'))[0]!.faults[0]!.says, /begins at stop 0 of line as straight, which is not there/)
  })

  it('is a case of a report, in JUnit and in SARIF, at its line', () => {
    const records = planOf(40)
    const report = fileReport('p.json', writePlan(records), records, check(records, { lockouts: false, fixes: 0 }))
    assert.match(junitOf([report], () => false), /<testcase name="To the row" classname="walks\.to_the_row"><failure message="after 2 moves: level == 2: it is 1; after 2 moves: move 3 cannot be made/)
    const { runs } = sarifOf([report], '1') as { runs: { results: { ruleId: string; locations: { physicalLocation: { region: { startLine: number } } }[] }[] }[] }
    const lines = runs[0]!.results.filter(({ ruleId }) => ruleId === 'walk').map(({ locations }) => report.text.split('\n')[locations[0]!.physicalLocation.region.startLine])
    assert.match(lines[0]!, /"expect": "level == 2"/)
  })

  it('is taken apart into moves and expectations, and put together again', () => {
    const played = playedOf({ steps })
    assert.lengthOf(played.moves, 6)
    assert.deepEqual(played.expects.map(({ after }) => after), [0, 2, 2, 6])
    assert.deepEqual(stepsOf(played), steps)
  })

  it('expects what is so where it is said', () => {
    const records = planOf(60)
    const { game } = compile(records)
    const { state } = replay(game, startOf(records, { from: null })!, [{ take: 'round', units: 2 }, { give: 'stamps', amount: 4 }]).steps.at(-1)!
    const said = [levelHere(game, state, 0), atLeastHere(game, state, 1), gateHere(game, state, 0)]
    assert.deepEqual(said, ['level == 2', 'stamps >= 4', 'not open(door)'])
    for (const text of said) assert.isNull(unmet(game, new PlanIndex(records), state, text))
  })

  it('can be written down from a route as a kind of player walks it, and goes the same way', () => {
    fc.assert(fc.property(anySample, (records) => {
      const { game } = compile(records)
      const route = game.routes[0]!
      const profile = game.profiles.find(({ id }) => id === 'straight')!
      const last = route.stops.length - 1
      const { result } = check(records, { route: route.id, profile: profile.id, lockouts: false })
      const played = playedOf(walkAlong(game, route, profile, 0, last))
      const { steps: done, broken } = replay(game, { at: 'start' }, played.moves)
      // Whoever plays by hand is held up by a gate that the route is walked through all the same.
      if (broken) return assert.match(broken.says, /bars the way/)
      const { state } = done.at(-1)!
      const stop = result.routes[0]!.profiles[0]!.stops[last]!
      game.tallies.forEach(({ id }, t) => {
        const { min, max } = stop.tallies[id]!
        assert.isTrue(state.tallies[t]! / 10_000 >= min && state.tallies[t]! / 10_000 <= max, id)
      })
    }), { numRuns: runs(25) })
  })

  it('leads to a gate that does not open when it is due, and is borne out once it does', () => {
    const keptFor = (records: Records, id: string, due: number) => {
      const { game } = compile(records)
      const walk = walkToGate(game, game.routes[0]!, game.profiles[0]!, game.gates.findIndex((gate) => gate.id === id), due)
      return (of: Records) => results(apply(of, setFields(of, 'walk', 'walk_0', walk, 'keep')))[0]!
    }
    const kept = keptFor(planOf(40), 'last', 0)
    assert.match(kept(planOf(40)).faults.map(({ says }) => says).join(), /^move 2 cannot be made: Last row does not open: seals >= 4/)
    // What it needs is not there when it is due; where the gate stands elsewhere, what it asks is expected.
    assert.match(keptFor(planOf(40), 'last', 1)(planOf(40)).faults.map(({ says }) => says).join(), /bars the way/)
    assert.isFalse(keptFor(planOf(60), 'door', 0)(planOf(60)).holds)
  })

  it('shows the path of stages: open or locked, what was earned, what is asked', () => {
    const { game } = compile(planOf(60))
    const { first, steps: done } = replay(game, { at: 'start' }, [{ take: 'round', units: 2 }, { give: 'stamps', amount: 3 }, { open: 'door' }, { go: 'road' }, { take: 'letters', units: 2 }])
    assert.deepEqual(stagesOf(game, first).map(({ name, isOpen, asks }) => [name, isOpen, asks]), [['Row', false, 'level >= 2: 1 of 2; stamps: 0 of 2'], ['Second row', false, 'seals >= 4: 0 of 4']])
    const [row, second] = stagesOf(game, done.at(-1)!.state)
    assert.deepInclude(row!, { isOpen: true, isHere: true, asks: '', earned: [{ tally: 'Seals', has: 2, most: 3 }] })
    assert.deepInclude(second!, { isOpen: false, asks: 'seals >= 4: 2 of 4' })
  })
})
