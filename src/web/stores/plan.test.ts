import { assert } from 'chai'
import { createPinia, setActivePinia } from 'pinia'
import { addItem, addRecord, removeRecords, setFields } from '../../core/change/edits.ts'
import { freshRecord } from '../../core/change/fresh.ts'
import { inOrder, type Row } from '../../core/plan/records.ts'
import { FakeServer, installBrowser } from '../testing/fake-server.ts'
import { holdTimers } from '../testing/held-timers.ts'
import { quiet } from '../testing/quiet.ts'
import { usePlanStore } from './plan.ts'

describe('the open plan', () => {
  let server: FakeServer
  let browser: ReturnType<typeof installBrowser>
  let timers: ReturnType<typeof holdTimers>
  let plan: ReturnType<typeof usePlanStore>

  beforeEach(async () => {
    server = new FakeServer()
    timers = holdTimers()
    browser = installBrowser(server)
    setActivePinia(createPinia())
    plan = usePlanStore()
    await plan.open('one')
    await quiet()
  })
  afterEach(() => {
    void plan.close()
    browser.remove()
    timers.remove()
  })

  const place = () => inOrder(plan.records!, 'place')[0]!
  const minutes = (n: number) => setFields(plan.records!, 'place', place().key, { minutes: n }, `minutes ${n}`)
  const onServer = () => inOrder(server.records, 'place')[0]!

  it('shows an edit at once and saves it behind', async () => {
    plan.edit(minutes(4))
    assert.equal(place().minutes, 4)
    assert.equal(onServer().minutes, 0)
    await quiet()
    assert.equal(onServer().minutes, 4)
    assert.equal(plan.saveState, 'saved')
  })

  it('hands on the text of a plan that is opened before its records are made, and listeners the same text', async () => {
    const told: string[] = []
    const stop = [plan.readAhead((text) => told.push(`text ${text.length}, ${plan.records ? 'records' : 'none yet'}`)), plan.subscribe((_, changed) => void told.push('text' in changed ? `records of ${changed.text?.length ?? 'elsewhere'}` : 'edit'))]
    told.length = 0
    await plan.open('one')
    const { length } = JSON.stringify(server.document)
    assert.deepEqual(told, [`text ${length}, none yet`, `records of ${length}`])
    // Of steps that the server has not taken its text knows nothing.
    server.isGone = true
    plan.edit(minutes(4))
    await quiet()
    told.length = 0
    server.isGone = false
    const opening = plan.open('one')
    await opening
    assert.deepEqual(told, [`text ${length}, none yet`, 'records of elsewhere'])
    assert.equal(place().minutes, 4)
    for (const end of stop) end()
  })

  it('takes no plan that was left before it came', async () => {
    const told: string[] = []
    const stop = plan.readAhead((text) => told.push(text))
    const [first, second] = [plan.open('one'), plan.open('one more')]
    await Promise.all([first, second])
    assert.lengthOf(told, 1)
    assert.equal(plan.id, 'one more')
    const third = plan.open('one')
    void plan.close()
    await third
    assert.isNull(plan.records)
    assert.isNull(plan.loadError)
    stop()
  })

  it('undoes and redoes by name, also what was done before it was opened', async () => {
    plan.edit(minutes(4))
    plan.edit(minutes(9))
    assert.equal(plan.undoName, 'minutes 9')
    plan.undo()
    plan.undo()
    assert.equal(place().minutes, 0)
    assert.equal(plan.redoName, 'minutes 4')
    plan.redo()
    await quiet()
    await plan.open('one')
    assert.deepEqual([place().minutes, plan.undoName, plan.redoName], [4, 'minutes 4', 'minutes 9'])
    plan.redo()
    assert.equal(place().minutes, 9)
  })

  it('keeps what is typed while the server is gone, over a reload too', async () => {
    server.isGone = true
    plan.edit(minutes(4))
    await quiet()
    assert.equal(plan.saveState, 'offline')
    assert.equal(plan.pending.length, 1)
    server.isGone = false
    await plan.open('one')
    assert.equal(place().minutes, 4)
    await quiet()
    assert.equal(onServer().minutes, 4)
    assert.equal(browser.kept.size, 0)
    assert.equal(server.history.length, 1)
  })

  it('follows the steps of other windows under its own', async () => {
    const name = setFields(server.records, 'place', onServer().key, { name: 'Hut' }, 'rename')
    browser.tell(server.take({ id: 'other-step-1', kind: 'do', diff: name }))
    assert.equal(place().name, 'Hut')
    assert.equal(plan.undoName, 'rename')
  })

  it('takes in what others did while its own step was on its way, and can undo it', async () => {
    const told: string[] = []
    plan.subscribe((_, changed) => void told.push('diff' in changed ? changed.diff.name : 'everything'))
    const rename = setFields(server.records, 'place', onServer().key, { name: 'Hut' }, 'rename')
    plan.edit(minutes(4))
    server.take({ id: 'other-step-2', kind: 'do', diff: rename })
    await quiet()
    assert.deepEqual([place().name, place().minutes, onServer().minutes], ['Hut', 4, 4])
    // Nothing is loaded or checked as a whole for it.
    assert.deepEqual([told, server.loaded], [['everything', 'minutes 4', 'rename'], 1])
    plan.undo()
    plan.undo()
    await quiet()
    assert.deepEqual([onServer().name, onServer().minutes, plan.saveState], ['Depot', 0, 'saved'])
  })

  it('puts what waits over what others did to the same row beside it', async () => {
    server.isGone = true
    plan.edit(minutes(4))
    plan.edit(minutes(6))
    await quiet()
    server.isGone = false
    server.take({ id: 'other-step-3', kind: 'do', diff: setFields(server.records, 'place', onServer().key, { goal: true }, 'goal') })
    await plan.send()
    await quiet()
    assert.deepInclude(onServer(), { minutes: 6, goal: true })
    assert.deepInclude(place(), { minutes: 6, goal: true })
    assert.equal(plan.undoName, 'minutes 6')
  })

  it('loads again after a break only what it has missed', async () => {
    plan.edit(minutes(4))
    await quiet()
    browser.greet(server.history.length)
    await quiet()
    assert.equal(server.loaded, 1)
    server.take({ id: 'missed-step-1', kind: 'do', diff: setFields(server.records, 'place', onServer().key, { name: 'Hut' }, 'rename') })
    browser.greet(server.history.length)
    await quiet()
    assert.equal(server.loaded, 2)
    assert.deepEqual([place().name, place().minutes, plan.undoName], ['Hut', 4, 'rename'])
  })

  it('sends what waited as soon as the server is there again', async () => {
    server.isGone = true
    plan.edit(minutes(4))
    await quiet()
    server.isGone = false
    browser.greet(server.history.length)
    await quiet()
    assert.deepEqual([onServer().minutes, plan.saveState, server.loaded], [4, 'saved', 1])
  })

  it('asks when the same field was changed elsewhere, and puts its own over it or leaves it', async () => {
    for (const keepMine of [true, false]) {
      server.isGone = true
      plan.edit(minutes(4))
      await quiet()
      server.isGone = false
      const theirs = setFields(server.records, 'place', onServer().key, { minutes: 7 }, 'theirs')
      server.take({ id: `theirs-${keepMine}-step`, kind: 'do', diff: theirs })
      await plan.send()
      await quiet()
      assert.equal(plan.saveState, 'clash')
      assert.deepInclude(plan.clash!.conflicts[0], { field: 'minutes', found: 7 })
      assert.equal(place().minutes, 7)
      plan.settleClash(keepMine)
      await quiet()
      assert.equal(onServer().minutes, keepMine ? 4 : 7)
      assert.equal(place().minutes, keepMine ? 4 : 7)
      assert.equal(plan.saveState, 'saved')
      plan.edit(minutes(0))
      await quiet()
    }
  })

  it('keeps a row whose place was deleted elsewhere: where the plan begins, if it is to be kept', async () => {
    for (const keepMine of [true, false]) {
      const hut = `hut_${keepMine}`
      server.take({ id: `add-${hut}`, kind: 'do', diff: addRecord(server.records, 'place', hut, { id: hut, name: 'Hut', kind: 'area', goal: false, minutes: 0 }) })
      await plan.open('one')
      server.isGone = true
      plan.edit(addItem(plan.records!, 'gate', `gate_${keepMine}`, freshRecord(plan.records!, 'gate', `hatch_${keepMine}`) as Row<'gate'>, { place: hut, after: null }))
      await quiet()
      server.isGone = false
      server.take({ id: `delete-${hut}`, kind: 'do', diff: removeRecords(server.records, [{ kind: 'place', key: hut }]) })
      await plan.send()
      await quiet()
      assert.deepInclude(plan.clash!.conflicts[0], { field: 'place', expected: hut, found: null })
      plan.settleClash(keepMine)
      await quiet()
      assert.equal(server.records.gate.get(`gate_${keepMine}`)?.place, keepMine ? onServer().key : undefined)
      assert.equal(plan.saveState, 'saved')
    }
  })

  it('does not do what no plan can hold, and tells it', async () => {
    plan.edit(minutes(-1))
    assert.equal(place().minutes, 0)
    assert.match(plan.notice!, /"minutes -1" was not done\. Depot: minutes are 0 or more/)
    plan.edit(minutes(3))
    await quiet()
    assert.deepEqual([plan.notice, onServer().minutes, server.history.length], [null, 3, 1])
  })

  it('saves an edit once those who listen have answered, and keeps it until then', async () => {
    const answers: (() => void)[] = []
    const stop = plan.subscribe((_, changed) => ('diff' in changed ? new Promise<void>((done) => answers.push(done)) : undefined))
    plan.edit(minutes(4))
    await quiet()
    assert.deepEqual([onServer().minutes, plan.saveState, plan.pending.length, browser.kept.size], [0, 'saving', 1, 1])
    answers[0]!()
    await timers.runOut()
    assert.deepEqual([onServer().minutes, plan.saveState, plan.pending.length, browser.kept.size], [4, 'saved', 0, 0])
    stop()
  })

  it('saves it also where nobody answers', async () => {
    const stop = plan.subscribe(() => new Promise<void>(() => {}))
    plan.edit(minutes(4))
    await quiet()
    assert.equal(onServer().minutes, 0)
    await timers.runOut()
    assert.equal(onServer().minutes, 4)
    stop()
  })

  it('saves what still waits of a plan that is left, one step after another', async () => {
    const stop = plan.subscribe(() => new Promise<void>(() => {}))
    plan.edit(minutes(4))
    plan.edit(minutes(5))
    await plan.close()
    assert.deepEqual([onServer().minutes, server.history.length, browser.kept.size], [5, 2, 0])
    stop()
  })

  it('leaves another plan alone when a step of the one before is refused after that was left', async () => {
    server.take({ id: 'other-step-7', kind: 'do', diff: minutes(9) })
    plan.edit(minutes(4))
    await plan.close()
    await quiet()
    assert.deepEqual([plan.id, plan.records, plan.clash, plan.saveState], [null, null, null, 'saved'])
    assert.equal(onServer().minutes, 9)
    // It is asked about when the plan is opened again.
    await plan.open('one')
    await quiet()
    assert.equal(plan.saveState, 'clash')
  })

  it('takes no plan that is left while it is fetched anew after a step was refused', async () => {
    server.take({ id: 'other-step-8', kind: 'do', diff: minutes(9) })
    const answer = server.answer.bind(server)
    server.answer = (path, body) => {
      if (!path.endsWith('/steps')) void plan.close()
      return answer(path, body)
    }
    plan.edit(minutes(4))
    await quiet()
    assert.deepEqual([plan.id, plan.records, plan.pending.length], [null, null, 0])
  })

  it('has nothing offline once the plan is left whose step did not arrive', async () => {
    server.isGone = true
    plan.edit(minutes(4))
    void plan.close()
    await quiet()
    assert.deepEqual([plan.saveState, browser.kept.size], ['saved', 1])
    server.isGone = false
    await timers.runOut()
    assert.equal(server.received, 0)
  })

  it('keeps what waits of a plan that is left while the server is gone, for when it is opened again', async () => {
    server.isGone = true
    plan.edit(minutes(4))
    await quiet()
    await plan.close()
    assert.equal(browser.kept.size, 1)
    server.isGone = false
    await plan.open('one')
    await quiet()
    assert.deepEqual([onServer().minutes, server.history.length, browser.kept.size], [4, 1, 0])
  })

  it('tells its listeners of each edit, and of everything when it was opened', () => {
    const told: (string | null)[] = []
    const stop = plan.subscribe((_, changed) => void told.push('diff' in changed ? changed.diff.name : null))
    plan.edit(minutes(3))
    stop()
    plan.edit(minutes(5))
    assert.deepEqual(told, [null, 'minutes 3'])
  })

  it('says what is wrong when a plan cannot be opened', async () => {
    server.isGone = true
    await plan.open('one')
    assert.match(plan.loadError!, /does not answer/)
    assert.isNull(plan.records)
  })
})
