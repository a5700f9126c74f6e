import { writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { assert } from 'chai'
import request from 'supertest'
import { check } from '../core/check/check.ts'
import type { CheckResult } from '../core/check/result.ts'
import { apply, invert, type Diff } from '../core/change/diff.ts'
import { addItem, removeRecords, setFields } from '../core/change/edits.ts'
import { paths, type DoneStep, type PlanDocument } from '../core/contract/api.ts'
import { writePlan } from '../core/plan/file.ts'
import { contentsByPlace, inOrder } from '../core/plan/records.ts'
import { samplePlan } from '../core/sample/sample-plan.ts'
import { recordsOf } from '../core/testing/plans.ts'
import { FolderLock } from './db/lock.ts'
import { FolderInUseError } from './errors.ts'
import { problemOf } from './problem.ts'
import { CheckService } from './service/check-service.ts'
import { testApp, testFolder } from './testing/server.ts'

const records = recordsOf(samplePlan({ places: 4, sources: 40, gates: 12, seed: 3 }))
const text = writePlan(records)
const recordsByKey = (rows: readonly object[]) => new Map(rows.map((row) => [(row as { key: string }).key, row]))

describe('the server', function () {
  this.timeout(60_000)
  const { folder, remove } = testFolder()
  let server: Awaited<ReturnType<typeof testApp>>
  let id = ''

  before(async () => {
    server = await testApp(folder)
    const reply = await request(server.app).post(paths.importPlan()).set('content-type', 'application/json').send(text).expect(201)
    id = (reply.body as { id: string }).id
  })
  after(async () => {
    await server.close()
    remove()
  })

  const load = async () => (await request(server.app).get(paths.plan(id)).expect(200)).body as PlanDocument
  const send = (step: object) => request(server.app).post(paths.steps(id)).send(step)
  const rename = (name: string, revision: number): Diff => {
    void revision
    const place = inOrder(records, 'place')[0]!
    return setFields(records, 'place', place.key, { name }, `rename to ${name}`)
  }

  it('gives back a plan file byte for byte', async () => {
    const reply = await request(server.app).get(paths.file(id)).expect(200)
    assert.equal(reply.text, text)
    assert.match(reply.headers['content-disposition']!, /sample_road\.tundrift\.json/)
  })

  it('takes a step once, however often it is sent', async () => {
    const before = await load()
    const step = { id: 'step-once-1', kind: 'do', revision: before.revision, diff: rename('Once', 0) }
    await send(step).expect(200)
    await send(step).expect(200)
    const after = await load()
    assert.equal(after.revision, before.revision + 1)
    assert.equal(after.history.at(-1)!.diff.name, 'rename to Once')
    await send({ id: 'step-once-2', kind: 'undo', revision: after.revision, diff: invert(step.diff) }).expect(200)
    assert.equal((await request(server.app).get(paths.file(id))).text, text)
  })

  it('takes a step on an older revision when it touches other fields, and tells what was missed', async () => {
    const { revision } = await load()
    const place = inOrder(records, 'place')[1]!
    const minutes = setFields(records, 'place', place.key, { minutes: 77 }, 'minutes')
    const name = setFields(records, 'place', place.key, { name: 'Other' }, 'name')
    await send({ id: 'older-step-1', kind: 'do', revision, diff: minutes }).expect(200)
    const reply = await send({ id: 'older-step-2', kind: 'do', revision, diff: name }).expect(200)
    assert.deepEqual((reply.body as { missed: { id: string }[] }).missed.map((step) => step.id), ['older-step-1'])
    const refused = await send({ id: 'older-step-3', kind: 'do', revision, diff: setFields(records, 'place', place.key, { minutes: 5 }, 'minutes') }).expect(409)
    assert.match(refused.headers['content-type']!, /problem\+json/)
    assert.deepInclude((refused.body as { conflicts: object[] }).conflicts[0], { field: 'minutes', expected: place.minutes, found: 77 })
  })

  it('refuses records without their shape, and writes nothing of them', async () => {
    const { revision } = await load()
    const place = inOrder(records, 'place')[2]!
    const reply = await send({ id: 'bad-shape-1', kind: 'do', revision, diff: setFields(records, 'place', place.key, { minutes: -3 }, 'bad') }).expect(422)
    assert.match((reply.body as { issues: { path: string }[] }).issues[0]!.path, /minutes/)
    assert.equal((await load()).revision, revision)
  })

  it('takes no more of a kind than a plan may hold, counted with what others have added', async () => {
    const { revision } = await load()
    const tally = (n: number) => ({ kind: 'tally' as const, key: `many_${n}`, before: null, after: { key: `many_${n}`, order: `b${n}`, id: `many_${n}`, name: 'M', kind: 'score', start: 0, min: 0, max: null, resets: 'never', saved: true } })
    const room = 200 - records.tally.size
    const add = (from: number, count: number) => ({ kind: 'do', diff: { name: 'add tallies', changes: Array.from({ length: count }, (_, i) => tally(from + i)) } })
    await send({ id: 'many-step-1', revision, ...add(0, room) }).expect(200)
    const reply = await send({ id: 'many-step-2', revision, ...add(room, 1) }).expect(422)
    assert.match(JSON.stringify(reply.body), /at most 200 records of the kind tally, and these would be 201/)
    await send({ id: 'many-step-3', revision: revision + 1, kind: 'undo', diff: invert(add(0, room).diff) }).expect(200)
  })

  it('leaves no row in a place that is gone, whichever came first', async () => {
    const { revision } = await load()
    const place = inOrder(records, 'place')[3]!
    const item = contentsByPlace(records).get(place.key)![0]!
    const gone = removeRecords(records, [{ kind: 'place', key: place.key }])
    const added = addItem(records, item.kind, 'added_elsewhere', { ...item.row, id: 'added_elsewhere', name: 'Added elsewhere' } as never, { place: place.key, after: null })
    await send({ id: 'place-added-1', kind: 'do', revision, diff: added }).expect(200)
    const held = await send({ id: 'place-gone-1', kind: 'do', revision, diff: gone }).expect(409)
    assert.deepInclude((held.body as { conflicts: object[] }).conflicts[0], { kind: 'place', key: place.key, field: 'contents', found: ['Added elsewhere'] })
    await send({ id: 'place-added-2', kind: 'undo', revision, diff: invert(added) }).expect(200)
    await send({ id: 'place-gone-2', kind: 'do', revision, diff: gone }).expect(200)
    const lost = await send({ id: 'place-added-3', kind: 'redo', revision, diff: added }).expect(409)
    assert.deepInclude((lost.body as { conflicts: object[] }).conflicts[0], { key: 'added_elsewhere', field: 'place', found: null })
    await send({ id: 'place-gone-3', kind: 'undo', revision, diff: invert(gone) }).expect(200)
    assert.deepEqual(recordsByKey((await load()).rows.source!), recordsByKey([...records.source.values()]))
  })

  it('takes no source that would stand in no place', async () => {
    const { revision } = await load()
    const source = inOrder(records, 'source')[0]!
    await send({ id: 'no-place-1', kind: 'do', revision, diff: setFields(records, 'source', source.key, { place: null } as never, 'no place') }).expect(422)
    assert.equal((await load()).revision, revision)
  })

  it('makes, renames, copies and deletes plans', async () => {
    const made = (await request(server.app).post(paths.plans()).send({ name: 'Fresh' }).expect(201)).body as { id: string }
    await request(server.app).patch(paths.plan(made.id)).send({ name: 'Renamed' }).expect(200)
    const copied = (await request(server.app).post(paths.copy(made.id)).expect(201)).body as { id: string }
    const names = ((await request(server.app).get(paths.plans())).body as { name: string }[]).map((plan) => plan.name)
    assert.includeMembers(names, ['Renamed', 'Renamed (copy)'])
    await request(server.app).delete(paths.plan(copied.id)).expect(204)
    await request(server.app).get(paths.plan(copied.id)).expect(404)
    await request(server.app).delete(paths.plan(copied.id)).expect(404)
    await request(server.app).post(paths.plans()).send({ name: ' ' }).expect(400)
  })

  it('answers every failure as a problem document', async () => {
    const bad = await request(server.app).post(paths.importPlan()).set('content-type', 'application/json').send('{"format":"tundrift-plan","version":1,"id":"Bad Id","name":"x","start":"a","colour":1,"places":[{"id":"b","name":"B","kind":"area"}]}').expect(422)
    assert.deepEqual((bad.body as { issues: { path: string }[] }).issues.map((issue) => issue.path).sort(), ['colour', 'id', 'start'])
    await request(server.app).post(paths.plans()).set('content-type', 'application/json').send('{"name": ').expect(400).expect('content-type', /problem\+json/)
    await request(server.app).get('/api/nothing').expect(404).expect('content-type', /problem\+json/)
    await request(server.app).post(paths.plans()).send({ name: 'x'.repeat(2_000_000) }).expect(413)
    assert.deepInclude(problemOf(new Error('secret')), { status: 500 })
    assert.notInclude(JSON.stringify(problemOf(new Error('secret'))), 'secret')
  })

  it('checks a plan in a thread of its own, as a whole and by its parts', async () => {
    const { revision } = await load()
    const whole = (await request(server.app).get(paths.check(id)).expect(200)).body as CheckResult
    const { records: now } = await server.service.current(id)
    const { routes, reach } = check(now, { fixes: 0, lockouts: { states: 1000 } }).result
    assert.deepEqual([whole.routes, whole.reach, whole.plan.revision], [JSON.parse(JSON.stringify(routes)), JSON.parse(JSON.stringify(reach)), revision])
    const part = (await request(server.app).get(paths.check(id)).query({ profile: 'straight', lockouts: 'false' }).expect(200)).body as CheckResult
    assert.deepEqual([part.routes[0]!.profiles.map(({ profile }) => profile), part.lockouts, part.findings], [['straight'], null, null])
    const alone = (await request(server.app).get(paths.check(id)).query({ gate: routes[0]!.profiles[0]!.gates[2]!.gate, sums: 'false' }).expect(200)).body as CheckResult
    assert.deepEqual(alone.routes[0]!.profiles[0]!.gates, [{ ...JSON.parse(JSON.stringify(routes[0]!.profiles[0]!.gates[2])), from: [], lost: [] }])
    await request(server.app).get(paths.check(id)).query({ profile: 'hasty' }).expect(422, /there are: straight, usual, thorough/)
    await request(server.app).get(paths.check(id)).query({ seed: 'x' }).expect(400)
    await request(server.app).get(paths.check('none')).expect(404)
  })

  it('tells the progress of a check to who wants to hear it, and stops when nobody listens any more', async () => {
    const { text: told } = await request(server.app).get(paths.check(id)).set('accept', 'text/event-stream').buffer(true).parse((response, done) => {
      let all = ''
      response.on('data', (chunk: Buffer) => (all += chunk.toString()))
      response.on('end', () => done(null, all))
    }).then((reply) => ({ text: reply.body as string }))
    const events = told.trim().split('\n\n').map((event) => /^event: (.*)\ndata: (.*)$/s.exec(event)!.slice(1) as [string, string])
    assert.deepEqual([events[0]![0], events.at(-1)![0]], ['progress', 'result'])
    assert.includeMembers(events.slice(0, -1).map(([, data]) => (JSON.parse(data) as { part: string }).part), ['routes', 'reach', 'lock-outs', 'findings'])
    assert.isNotEmpty((JSON.parse(events.at(-1)![1]) as CheckResult).routes)
    const gone = new AbortController()
    const checks = new CheckService()
    const running = checks.check(recordsOf(samplePlan({ places: 60, sources: 900, gates: 240, seed: 1 })), {}, () => gone.abort(), gone.signal)
    const failed = await running.then(() => null, (error: Error) => error)
    assert.equal(failed?.name, 'AbortError')
    await checks.close()
  })

  it('tells a window that comes at which revision the plan is, and then of every step', async () => {
    const listening = server.app.listen(0)
    const { port } = listening.address() as AddressInfo
    const gone = new AbortController()
    try {
      const reply = await fetch(`http://127.0.0.1:${port}${paths.events(id)}`, { headers: { accept: 'text/event-stream' }, signal: gone.signal })
      const reader = reply.body!.pipeThrough(new TextDecoderStream()).getReader()
      let told = ''
      const until = async (end: RegExp) => {
        while (!end.test(told)) told += (await reader.read()).value ?? ''
      }
      const { body: { revision } } = await request(server.app).get(paths.plan(id)) as { body: { revision: number } }
      await until(/event: revision\ndata: \d+\n\n/)
      assert.include(told, `event: revision\ndata: ${revision}\n\n`)
      await request(server.app).patch(paths.plan(id)).send({ name: 'Another name' }).expect(200)
      await until(/event: step\ndata: .*\n\n/)
      assert.equal((JSON.parse(/event: step\ndata: (.*)\n\n/.exec(told)![1]!) as DoneStep).revision, revision + 1)
    } finally {
      gone.abort()
      listening.close()
      listening.closeAllConnections()
    }
  })

  it('answers only this machine and its own page', async () => {
    await request(server.app).get(paths.plans()).set('host', 'evil.example').expect(403)
    await request(server.app).get(paths.plans()).set('host', 'localhost:4710').set('origin', 'http://evil.example').expect(403)
    await request(server.app).get(paths.plans()).set('host', 'localhost:4710').set('origin', 'http://localhost:4710').expect(200)
  })

  it('keeps plans and their history over a restart', async () => {
    const before = await load()
    await server.close()
    server = await testApp(folder)
    const after = await load()
    assert.deepEqual(after, before)
    assert.isAbove(after.history.length, 2)
  })
})

describe('the lock of the data folder', () => {
  it('is taken once, is let go, and is taken over from a process that is gone', () => {
    const { folder, remove } = testFolder()
    const lock = FolderLock.take(folder)
    assert.throws(() => FolderLock.take(folder), FolderInUseError, /in use by process/)
    lock.release()
    writeFileSync(`${folder}.lock`, '999999999')
    FolderLock.take(folder).release()
    remove()
  })
})

describe('a rebuilt plan', () => {
  it('is the same after all its steps', () => {
    const place = inOrder(records, 'place')[0]!
    const diff = setFields(records, 'place', place.key, { name: 'X' }, 'x')
    assert.equal(writePlan(apply(apply(records, diff), invert(diff))), text)
  })
})
